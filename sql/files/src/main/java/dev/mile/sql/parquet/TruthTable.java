package dev.mile.sql.parquet;

import dev.mile.engine.RowPredicate;
import dev.mile.engine.TruthValue;
import dev.mile.fact.RowExpression.Operand;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Whether a condition holds, for all texts that the rows have in the columns that it compares, so that it is not asked for each row. */
final class TruthTable {
    private static final int MOST = 1 << 16;

    private final TextCondition condition;
    private final List<Map<String, Integer>> codes = new ArrayList<>();
    private final int[] strides;
    private final boolean[] holds;

    /**
     * Asks the condition for all texts.
     *
     * @param threads how many may read
     * @throws UnsupportedParquetException if there are too many
     */
    TruthTable(TextCondition condition, ParquetSource source, int threads) throws UnsupportedParquetException {
        this.condition = condition;
        this.strides = new int[condition.values().size()];
        List<List<String>> texts = new ArrayList<>();
        int size = 1;
        for (int c = 0; c < strides.length; c++) {
            texts.add(source.texts(condition.values().get(c).column(), MOST / size, threads));
            Map<String, Integer> own = new HashMap<>();
            texts.get(c).forEach(text -> own.put(text, own.size()));
            codes.add(own);
            strides[c] = size;
            size *= own.size() + 1;
            if (size > MOST) {
                throw new UnsupportedParquetException("more texts than a condition is asked for here");
            }
        }
        holds = new boolean[size];
        RowPredicate test = RowPredicate.of(
                condition.condition(),
                operand -> {
                    if (operand instanceof Operand.Text constant) {
                        return row -> constant.value();
                    }
                    int c = condition.fields().indexOf(operand);
                    int members = texts.get(c).size();
                    return row -> {
                        int code = row / strides[c] % (members + 1);
                        return code == members
                                ? null
                                : condition.values().get(c).of(texts.get(c).get(code));
                    };
                },
                null);
        for (int row = 0; row < size; row++) {
            holds[row] = test.test(row) == TruthValue.TRUE;
        }
    }

    /** Returns the texts that make the row of the table. */
    List<TextValue> values() {
        return condition.values();
    }

    /** Returns what a text adds to the number of the row of the table. */
    long ofText(int value, String text) {
        return text.isEmpty()
                ? ofBlank(value)
                : (long) strides[value] * codes.get(value).get(text);
    }

    long ofBlank(int value) {
        return (long) strides[value] * codes.get(value).size();
    }

    /** Returns whether the condition holds for a row of the table. */
    boolean holds(long row) {
        return holds[(int) row];
    }
}
