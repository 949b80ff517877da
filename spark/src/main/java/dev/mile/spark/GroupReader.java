package dev.mile.spark;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.RowOutcomeCounts;
import dev.mile.engine.TotalColumn;
import dev.mile.fact.Table;
import java.io.Serializable;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import org.apache.spark.sql.Row;

/**
 * Turns rows of totals (members, day, rows, a value for each column) into groups; rows of one group come one after the other, days
 * rising. It is sent to where the rows are.
 */
final class GroupReader implements Serializable {
    private static final long serialVersionUID = 1L;

    private final int groups;
    private final List<TotalColumn.Kind> kinds;
    private final int firstDay;
    private final int lastDay;
    private final int from;

    /**
     * Returns a reader.
     *
     * @param from where the members begin in a row
     */
    GroupReader(int groups, List<TotalColumn.Kind> kinds, DateRange days, int from) {
        this.groups = groups;
        this.kinds = new ArrayList<>(kinds);
        this.firstDay = days.firstEpochDay();
        this.lastDay = days.lastEpochDay();
        this.from = from;
    }

    String[] members(Row row) {
        String[] members = new String[groups];
        for (int g = 0; g < groups; g++) {
            members[g] = row.getString(from + g);
        }
        return members;
    }

    private int day(Row row) {
        return row.isNullAt(from + groups) ? Table.NO_DATE : row.getInt(from + groups);
    }

    /** Adds the rows of a row of totals to the outcomes. */
    void count(Row row, DateRange placed, RowOutcomeCounts counts) {
        counts.add(RoleAccounts.RowOutcome.of(day(row), placed), row.getLong(from + groups + 1));
    }

    /** Returns whether the day of the row counts. */
    boolean counts(Row row) {
        int day = day(row);
        return day >= firstDay && day <= lastDay;
    }

    /** Returns the totals of one group, of rows whose days count. */
    GroupTotals group(List<Row> rows) {
        int size = rows.size();
        int[] days = new int[size];
        for (int i = 0; i < size; i++) {
            days[i] = day(rows.get(i));
        }
        DailyTotals[] values = new DailyTotals[kinds.size()];
        for (int c = 0; c < values.length; c++) {
            values[c] = values(rows, c, from + groups + 2 + c);
        }
        return new GroupTotals(members(rows.get(0)), days, values);
    }

    private DailyTotals values(List<Row> rows, int column, int at) {
        int size = rows.size();
        switch (kinds.get(column)) {
            case ROWS, COUNT:
                long[] counts = new long[size];
                for (int i = 0; i < size; i++) {
                    counts[i] = rows.get(i).getLong(at);
                }
                return DailyTotals.counts(counts);
            case DISTINCT:
                String[][] texts = new String[size][];
                for (int i = 0; i < size; i++) {
                    List<String> found = rows.get(i).getList(at);
                    texts[i] = found.toArray(String[]::new);
                }
                return new DailyTotals.StringSets(texts);
            default:
                return amounts(rows, at);
        }
    }

    private static DailyTotals amounts(List<Row> rows, int at) {
        BigDecimal[] exact = new BigDecimal[rows.size()];
        double[] floating = new double[rows.size()];
        boolean anyFloating = false;
        for (int i = 0; i < exact.length; i++) {
            Object value = rows.get(i).get(at);
            floating[i] = value instanceof Double number ? number : Double.NaN;
            anyFloating |= value instanceof Double;
            exact[i] = value instanceof BigDecimal number ? number : null;
        }
        return anyFloating ? new DailyTotals.Doubles(floating) : DailyTotals.of(exact);
    }

    /** Returns the error of a sum that has become blank because it is too large. */
    static MileException tooLarge() {
        return DataException.of("a sum is larger than 38 digits can hold; round the columns that are added");
    }
}
