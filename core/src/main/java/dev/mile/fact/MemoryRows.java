package dev.mile.fact;

import dev.mile.calendar.Days;
import dev.mile.calendar.MileException;
import java.math.BigDecimal;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.IntUnaryOperator;

/** The rows of one fact in memory with the lookups that hang on it: answers what a column, a date or a member of a row is. */
final class MemoryRows implements RowNumber.Source {
    private final Fact fact;
    private final Table table;
    private final Map<String, Lookup> lookups;
    private final Map<String, Table> tables;

    // several threads add up at once; two that join the same lookup at the same time find the same
    private final Map<List<String>, int[]> joined = new ConcurrentHashMap<>();

    MemoryRows(Fact fact, Map<String, Lookup> lookups, Map<String, Table> tables) {
        this.fact = fact;
        this.table = tables.get(fact.name());
        this.lookups = lookups;
        this.tables = tables;
    }

    Table table() {
        return table;
    }

    private Table tableAt(List<String> path) {
        return path.isEmpty() ? table : tables.get(fact.lookupAt(path, lookups).name());
    }

    /** Returns, for each row of the fact, the row of the lookup at the end of the path, -1 where there is none. */
    private int[] join(List<String> path) {
        int[] known = joined.get(path);
        if (known != null) {
            return known;
        }
        List<String> before = path.subList(0, path.size() - 1);
        Table.TextValues keys = tableAt(before).coded(path.get(path.size() - 1));
        Map<String, Integer> byKey = keys(fact.lookupAt(path, lookups));
        int[] byCode = new int[keys.dictionary().length];
        for (int i = 0; i < byCode.length; i++) {
            byCode[i] = byKey.getOrDefault(keys.dictionary()[i], -1);
        }
        int[] outer = before.isEmpty() ? null : join(before);
        int[] rows = new int[table.rows()];
        for (int row = 0; row < rows.length; row++) {
            int at = outer == null ? row : outer[row];
            int code = at < 0 ? -1 : keys.codes()[at];
            rows[row] = code < 0 ? -1 : byCode[code];
        }
        joined.put(path, rows);
        return rows;
    }

    private Map<String, Integer> keys(Lookup lookup) {
        Table rows = tables.get(lookup.name());
        Table.TextValues keys = rows.coded(lookup.key());
        Map<String, Integer> byKey = new HashMap<>();
        for (int row = 0; row < rows.rows(); row++) {
            if (keys.codes()[row] >= 0) {
                String key = keys.dictionary()[keys.codes()[row]];
                if (byKey.put(key, row) != null) {
                    throw MileException.data(
                            "the lookup '%s' has the key '%s' twice; each key needs one row", lookup.name(), key);
                }
            }
        }
        return byKey;
    }

    /** Returns the field as coded texts, one code for each row of the fact. */
    Table.TextValues coded(Operand.Field field) {
        Table.TextValues values = tableAt(field.path()).coded(field.column());
        if (field.path().isEmpty()) {
            return values;
        }
        int[] rows = join(field.path());
        int[] codes = new int[rows.length];
        for (int row = 0; row < codes.length; row++) {
            codes[row] = rows[row] < 0 ? -1 : values.codes()[rows[row]];
        }
        return new Table.TextValues(codes, values.dictionary());
    }

    @Override
    public RowNumber number(Operand.Field field) {
        Table.Values values = tableAt(field.path()).values(field.column());
        int[] rows = field.path().isEmpty() ? null : join(field.path());
        if (values instanceof Table.BlankValues) {
            return RowNumber.BLANK;
        }
        if (!(values instanceof Table.NumberValues) && !(values instanceof Table.FloatingValues)) {
            throw MileException.data(
                    "the column '%s' of '%s' does not hold numbers; add up a column of numbers",
                    field.column(), fact.name());
        }
        return new RowNumber() {
            private int at(int row) {
                return rows == null ? row : rows[row];
            }

            @Override
            public boolean blank(int row) {
                int at = at(row);
                return at < 0
                        || (values instanceof Table.NumberValues n
                                ? n.blank() != null && n.blank()[at]
                                : Double.isNaN(((Table.FloatingValues) values).values()[at]));
            }

            @Override
            public long exact(int row) {
                return ((Table.NumberValues) values).unscaled()[at(row)];
            }

            @Override
            public double floating(int row) {
                return values instanceof Table.FloatingValues f
                        ? f.values()[at(row)]
                        : BigDecimal.valueOf(exact(row), scale()).doubleValue();
            }

            @Override
            public int scale() {
                return values instanceof Table.NumberValues n ? n.scale() : FLOATING;
            }

            @Override
            public long[] plain() {
                return rows == null && values instanceof Table.NumberValues n && n.blank() == null
                        ? n.unscaled()
                        : null;
            }
        };
    }

    /** Returns the epoch day of the role, {@link Table#NO_DATE} or {@link Table#UNREADABLE}. */
    int day(String role, int row) {
        String column = fact.column(role);
        if (table.values(column) instanceof Table.DateValues dates) {
            return dates.days()[row];
        }
        String text = table.textAt(column, row);
        return text == null ? Table.NO_DATE : Days.parse(text).map(Days::of).orElse(Table.UNREADABLE);
    }

    /** Returns the days of all rows in the role. */
    int[] days(String role) {
        if (table.values(fact.column(role)) instanceof Table.DateValues dates) {
            return dates.days();
        }
        int[] days = new int[table.rows()];
        for (int row = 0; row < days.length; row++) {
            days[row] = day(role, row);
        }
        return days;
    }

    /** Returns the condition as a question to each place. */
    RowTest test(Condition condition, Placement places, DayKnowledge days) {
        return RowTest.of(condition, source(place -> places.days()[place], places::row, days), days);
    }

    /** Returns whether a value of a row is blank, as a question to each place; null where none is. */
    RowTest blank(RowExpression of, Placement places, DayKnowledge days) {
        if (of instanceof RowExpression.Value v && v.operand() instanceof Operand.Field f) {
            if (f.path().isEmpty()
                    && table.values(f.column()) instanceof Table.NumberValues numbers
                    && numbers.blank() == null) {
                return null;
            }
            int[] codes = coded(f).codes();
            return place -> codes[places.row(place)] < 0 ? RowTest.YES : RowTest.NO;
        }
        if (of instanceof RowExpression.Value v && v.operand() instanceof Operand.RowDate date) {
            return place -> {
                int day = day(date.role(), places.row(place));
                return day == Table.NO_DATE || day == Table.UNREADABLE ? RowTest.YES : RowTest.NO;
            };
        }
        RowNumber number = RowNumber.of(of, this, days);
        return place -> number.blank(places.row(place)) ? RowTest.YES : RowTest.NO;
    }

    @Override
    public int day(Operand operand, int row) {
        if (operand instanceof Operand.RowDate date) {
            return day(date.role(), row);
        }
        Object value = operand instanceof Operand.Field field ? value(field, row) : null;
        return value == null
                ? Table.NO_DATE
                : Days.parse(value.toString()).map(Days::of).orElse(Table.UNREADABLE);
    }

    /** Returns the value of the field in a row: a text, a number or a date; null for a blank. */
    Object value(Operand.Field field, int row) {
        int at = field.path().isEmpty() ? row : join(field.path())[row];
        if (at < 0) {
            return null;
        }
        String text = tableAt(field.path()).textAt(field.column(), at);
        if (text == null) {
            return null;
        }
        return switch (field.type()) {
            case NUMBER, FLOATING -> new BigDecimal(text);
            case DATE -> Days.parse(text).orElse(null);
            case TEXT -> text;
            case NOTHING -> null;
        };
    }

    /** Returns the values of operands for conditions; the day of a row is asked of {@code dayOf}. */
    RowTest.Source source(IntUnaryOperator dayOf, IntUnaryOperator rowOf, DayKnowledge days) {
        return (operand, at) -> {
            int row = rowOf.applyAsInt(at);
            if (operand instanceof Operand.Field field) {
                return value(field, row);
            }
            if (operand instanceof Operand.RowDate date) {
                int day = day(date.role(), row);
                return day == Table.NO_DATE || day == Table.UNREADABLE ? null : Days.date(day);
            }
            if (operand instanceof Operand.DayAttribute attribute) {
                int day = dayOf.applyAsInt(at);
                return day == Table.NO_DATE || day == Table.UNREADABLE ? null : days.attribute(attribute.column(), day);
            }
            if (operand instanceof Operand.Number number) {
                return number.value();
            }
            return ((Operand.Text) operand).value();
        };
    }
}
