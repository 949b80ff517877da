package dev.mile.engine.rows;

import dev.mile.DataException;
import dev.mile.engine.DayContext;
import dev.mile.engine.RowExpressionReader;
import dev.mile.engine.RowPredicate;
import dev.mile.engine.SchemaCheck;
import dev.mile.engine.TruthValue;
import dev.mile.fact.Bands;
import dev.mile.fact.ColumnValues;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.NamedColumn;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.fact.WholeNumbers;
import dev.mile.internal.EpochDays;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.IntFunction;
import java.util.function.IntUnaryOperator;
import org.jspecify.annotations.Nullable;

/** The rows of one fact in memory with the lookups that hang on it: answers what a column, a date or a member of a row is. */
public final class JoinedRows implements RowExpressionReader.Source {
    private final Fact fact;
    private final Table table;
    private final Map<String, Lookup> lookups;
    private final Map<String, Table> tables;

    // several threads add up at once; two that look the same up at the same time find the same
    private final Map<List<String>, ColumnValues.Texts> coded = new ConcurrentHashMap<>();
    private final Map<List<String>, WholeNumbers> joined = new ConcurrentHashMap<>();

    public JoinedRows(Fact fact, Map<String, Lookup> lookups, Map<String, Table> tables) {
        this.fact = fact;
        this.table = tables.get(fact.name());
        this.lookups = lookups;
        this.tables = tables;
    }

    public Table table() {
        return table;
    }

    private Table tableAt(List<String> path) {
        return path.isEmpty() ? table : tables.get(fact.lookupAt(path, lookups).name());
    }

    /** Returns, for each row of the fact, the row of the lookup at the end of the path, -1 if there is none. */
    private WholeNumbers join(List<String> path) {
        WholeNumbers known = joined.get(path);
        if (known == null) {
            ColumnValues.Texts keys = coded(path.subList(0, path.size() - 1), path.get(path.size() - 1));
            Map<String, Integer> byKey = keys(fact.lookupAt(path, lookups));
            // a key is looked up once, not for each row
            known = keys.codes().map(code -> code < 0 ? -1 : byKey.getOrDefault(keys.dictionary()[code], -1));
            joined.put(path, known);
        }
        return known;
    }

    private Map<String, Integer> keys(Lookup lookup) {
        Table rows = tables.get(lookup.name());
        ColumnValues.Texts keys = rows.coded(lookup.key());
        Map<String, Integer> byKey = new HashMap<>();
        for (int row = 0; row < rows.rows(); row++) {
            String key = keys.text(row);
            if (key != null) {
                if (byKey.put(key, row) != null) {
                    throw SchemaCheck.keyTwice(lookup, key);
                }
            }
        }
        return byKey;
    }

    /** Returns the field as coded texts, one code for each row of the fact; bands by their keys. */
    public ColumnValues.Texts coded(Operand.Field field, DayContext days) {
        if (field.named().isPresent()) {
            return coded(field.named().get(), days);
        }
        return coded(field.path(), field.column());
    }

    private ColumnValues.Texts coded(List<String> path, String column) {
        ColumnValues.Texts values = tableAt(path).coded(column);
        if (path.isEmpty()) {
            return values;
        }
        List<String> name = new ArrayList<>(path);
        name.add(column);
        ColumnValues.Texts known = coded.get(name);
        if (known == null) {
            known = new ColumnValues.Texts(join(path).map(row -> row < 0 ? -1 : values.code(row)), values.dictionary());
            coded.put(name, known);
        }
        return known;
    }

    private ColumnValues.Texts coded(NamedColumn named, DayContext days) {
        RowExpressionReader number = RowExpressionReader.of(named.of(), this, days);
        Map<String, Integer> codes = new LinkedHashMap<>();
        int[] codeOf = new int[table.rows()];
        for (int row = 0; row < codeOf.length; row++) {
            BigDecimal value = valueOrNull(number, row);
            codeOf[row] = value == null
                    ? -1
                    : codes.computeIfAbsent(
                            named.bands()
                                    .map(bands -> Bands.key(bands.number(value)))
                                    .orElseGet(value::toPlainString),
                            text -> codes.size());
        }
        return new ColumnValues.Texts(WholeNumbers.of(codeOf), codes.keySet().toArray(String[]::new));
    }

    private static @Nullable BigDecimal valueOrNull(RowExpressionReader number, int row) {
        if (number.isBlank(row)) {
            return null;
        }
        return number.scale() == RowExpressionReader.FLOATING
                ? BigDecimal.valueOf(number.asDouble(row))
                : number.decimal(row);
    }

    @Override
    public RowExpressionReader number(Operand.Field field) {
        ColumnValues values = tableAt(field.path()).values(field.column());
        WholeNumbers rows = field.path().isEmpty() ? null : join(field.path());
        if (values instanceof ColumnValues.Blanks) {
            return RowExpressionReader.BLANK;
        }
        if (!(values instanceof ColumnValues.Decimals) && !(values instanceof ColumnValues.Doubles)) {
            throw DataException.of(
                    "the column '%s' of '%s' does not hold numbers; add up a column of numbers",
                    field.column(), fact.name());
        }
        return new RowExpressionReader() {
            private int at(int row) {
                return rows == null ? row : (int) rows.get(row);
            }

            @Override
            public boolean isBlank(int row) {
                int at = at(row);
                return at < 0
                        || (values instanceof ColumnValues.Decimals n
                                ? n.isBlank(at)
                                : Double.isNaN(((ColumnValues.Doubles) values).values()[at]));
            }

            @Override
            public long unscaled(int row) {
                return ((ColumnValues.Decimals) values).unscaled().get(at(row));
            }

            @Override
            public double asDouble(int row) {
                return values instanceof ColumnValues.Doubles f
                        ? f.values()[at(row)]
                        : BigDecimal.valueOf(unscaled(row), scale()).doubleValue();
            }

            @Override
            public int scale() {
                return values instanceof ColumnValues.Decimals n ? n.scale() : FLOATING;
            }

            @Override
            public @Nullable WholeNumbers columnOrNull() {
                return rows == null && values instanceof ColumnValues.Decimals n ? n.unscaled() : null;
            }
        };
    }

    /** Returns the epoch day of the role, {@link Table#NO_DATE} or {@link Table#UNREADABLE}. */
    public int day(String role, int row) {
        String column = fact.column(role);
        if (table.values(column) instanceof ColumnValues.Dates dates) {
            return dates.day(row);
        }
        String text = table.textAt(column, row);
        return text == null
                ? Table.NO_DATE
                : EpochDays.parse(text).map(EpochDays::of).orElse(Table.UNREADABLE);
    }

    /** Returns the days of all rows in the role. */
    public ColumnValues.Dates days(String role) {
        if (table.values(fact.column(role)) instanceof ColumnValues.Dates dates) {
            return dates;
        }
        int[] days = new int[table.rows()];
        for (int row = 0; row < days.length; row++) {
            days[row] = day(role, row);
        }
        return ColumnValues.Dates.of(days);
    }

    /** Returns the condition as a question to each place. */
    RowPredicate test(Condition condition, RowDays places, DayContext days) {
        return RowPredicate.of(condition, source(places::day, places::row, days), days);
    }

    /** Returns whether a value of a row is blank, as a question to each place; null where none is. */
    @Nullable
    RowPredicate blank(RowExpression of, RowDays places, DayContext days) {
        RowPredicate blank = blankRow(of, days);
        return blank == null ? null : place -> blank.test(places.row(place));
    }

    /** Returns whether a value of a row is blank, as a question to each row; null where none is. */
    public @Nullable RowPredicate blankRow(RowExpression of, DayContext days) {
        if (of instanceof RowExpression.Value v && v.operand() instanceof Operand.Field f) {
            if (f.path().isEmpty()
                    && f.named().isEmpty()
                    && table.values(f.column()) instanceof ColumnValues.Decimals numbers) {
                return numbers.blank() == null
                        ? null
                        : row -> numbers.isBlank(row) ? TruthValue.TRUE : TruthValue.FALSE;
            }
            ColumnValues.Texts texts = coded(f, days);
            return row -> texts.code(row) < 0 ? TruthValue.TRUE : TruthValue.FALSE;
        }
        if (of instanceof RowExpression.Value v && v.operand() instanceof Operand.RowDate date) {
            return row -> {
                int day = day(date.role(), row);
                return day == Table.NO_DATE || day == Table.UNREADABLE ? TruthValue.TRUE : TruthValue.FALSE;
            };
        }
        RowExpressionReader number = RowExpressionReader.of(of, this, days);
        return row -> number.isBlank(row) ? TruthValue.TRUE : TruthValue.FALSE;
    }

    @Override
    public int day(Operand operand, int row) {
        if (operand instanceof Operand.RowDate date) {
            return day(date.role(), row);
        }
        if (operand instanceof Operand.Date date) {
            return EpochDays.of(date.date());
        }
        Object value = operand instanceof Operand.Field field ? values(field).apply(row) : null;
        return value == null
                ? Table.NO_DATE
                : EpochDays.parse(value.toString()).map(EpochDays::of).orElse(Table.UNREADABLE);
    }

    /** Returns the values of the field by row: texts, numbers or dates; null for a blank. */
    private IntFunction<@Nullable Object> values(Operand.Field field) {
        Table at = tableAt(field.path());
        if (field.type() == ValueType.TEXT && at.values(field.column()) instanceof ColumnValues.Texts) {
            return coded(field.path(), field.column())::text;
        }
        IntFunction<@Nullable Object> values = values(at, field);
        if (field.path().isEmpty()) {
            return values;
        }
        WholeNumbers rows = join(field.path());
        return row -> {
            int found = (int) rows.get(row);
            return found < 0 ? null : values.apply(found);
        };
    }

    private static IntFunction<@Nullable Object> values(Table table, Operand.Field field) {
        ColumnValues column = table.values(field.column());
        if (field.type() == ValueType.NUMBER && column instanceof ColumnValues.Decimals numbers) {
            return row -> numbers.isBlank(row)
                    ? null
                    : BigDecimal.valueOf(numbers.unscaled().get(row), numbers.scale());
        }
        if (field.type() == ValueType.DATE && column instanceof ColumnValues.Dates dates) {
            return row -> {
                int day = dates.day(row);
                return day == Table.NO_DATE || day == Table.UNREADABLE ? null : EpochDays.toDate(day);
            };
        }
        return row -> {
            String text = table.textAt(field.column(), row);
            return text == null ? null : ofText(field.type(), text);
        };
    }

    private static @Nullable Object ofText(ValueType type, String text) {
        return switch (type) {
            case NUMBER, FLOATING -> new BigDecimal(text);
            case DATE -> EpochDays.parse(text).orElse(null);
            case TEXT -> text;
            case BLANK_ONLY -> null;
        };
    }

    private static @Nullable Object value(NamedColumn named, RowExpressionReader number, int row) {
        BigDecimal value = valueOrNull(number, row);
        return value == null || named.bands().isEmpty()
                ? value
                : named.bands().get().labels().get(named.bands().get().number(value));
    }

    /** Returns the values of operands for conditions; the day of a row is asked of {@code dayOf}. */
    public RowPredicate.Source source(IntUnaryOperator dayOf, IntUnaryOperator rowOf, DayContext days) {
        return operand -> {
            if (operand instanceof Operand.DayAttribute attribute) {
                return at -> {
                    int day = dayOf.applyAsInt(at);
                    return day == Table.NO_DATE || day == Table.UNREADABLE
                            ? null
                            : days.attribute(attribute.column(), day);
                };
            }
            IntFunction<@Nullable Object> values = values(operand, days);
            return at -> values.apply(rowOf.applyAsInt(at));
        };
    }

    private IntFunction<@Nullable Object> values(Operand operand, DayContext days) {
        if (operand instanceof Operand.Field field) {
            if (field.named().isEmpty()) {
                return values(field);
            }
            NamedColumn named = field.named().get();
            RowExpressionReader number = RowExpressionReader.of(named.of(), this, days);
            return row -> value(named, number, row);
        }
        if (operand instanceof Operand.Computed computed) {
            RowExpressionReader number = RowExpressionReader.of(computed.of(), this, days);
            return row -> valueOrNull(number, row);
        }
        if (operand instanceof Operand.RowDate date) {
            return row -> {
                int day = day(date.role(), row);
                return day == Table.NO_DATE || day == Table.UNREADABLE ? null : EpochDays.toDate(day);
            };
        }
        Object constant = operand instanceof Operand.Number number
                ? number.value()
                : operand instanceof Operand.Date date ? date.date() : ((Operand.Text) operand).value();
        return row -> constant;
    }
}
