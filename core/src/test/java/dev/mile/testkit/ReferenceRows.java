package dev.mile.testkit;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Spread;
import dev.mile.internal.EpochDays;
import dev.mile.report.Project;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;

/** The rows of a random project as plain maps: lookups joined, rows that are not kept left out, plans spread day by day. */
final class ReferenceRows {
    /** A row: its values by name (numbers as decimals; blanks are not there), and its days by role. */
    record Row(String fact, Map<String, Object> values, Map<String, Integer> days) {}

    private static final Set<String> ATTRIBUTES = Set.of("weekday_name", "month");

    private final Project project;
    private final Map<String, TestRows> tables;
    private final ReferenceDays days;
    private final Map<String, List<Row>> rows = new HashMap<>();
    private final Map<String, Set<String>> names = new HashMap<>();
    private final Map<String, DateRange> periods = new HashMap<>();

    ReferenceRows(Project project, Map<String, TestRows> tables, ReferenceDays days) {
        this.project = project;
        this.tables = tables;
        this.days = days;
        // facts that others are spread like come first
        project.facts().values().forEach(fact -> rows.put(fact.name(), read(fact)));
    }

    List<Row> of(Fact fact) {
        return rows.get(fact.name());
    }

    private List<Row> read(Fact fact) {
        TestRows table = tables.get(fact.name());
        Set<String> known = new HashSet<>(table.names());
        names.put(fact.name(), known);
        List<Row> read = new ArrayList<>();
        for (int i = 0; i < table.size(); i++) {
            Row row = new Row(fact.name(), new HashMap<>(), new HashMap<>());
            for (String column : table.names()) {
                put(row.values(), column, table, i, column);
            }
            join(row.values(), fact.links(), known);
            if (fact.filter().isPresent()
                    && !Boolean.TRUE.equals(holds(fact.filter().get(), row, 0))) {
                continue;
            }
            if (fact.grain().isPresent()) {
                spread(fact, row, read);
                continue;
            }
            fact.dates().forEach((role, column) -> {
                if (row.values().get(column) instanceof String date) {
                    row.days().put(role, EpochDays.of(LocalDate.parse(date)));
                }
            });
            read.add(row);
        }
        return read;
    }

    private static void put(Map<String, Object> values, String name, TestRows table, int row, String column) {
        String text = table.value(row, column);
        if (!text.isEmpty()) {
            values.put(name, table.isNumber(column) ? new BigDecimal(text) : text);
        }
    }

    private void join(Map<String, Object> values, Map<String, String> links, Set<String> known) {
        links.forEach((column, name) -> {
            Lookup lookup = project.lookups().get(name);
            TestRows table = tables.get(name);
            Map<String, Object> found = new HashMap<>();
            for (int i = 0; i < table.size(); i++) {
                if (table.value(i, lookup.key()).equals(values.get(column))) {
                    for (String attribute : table.names()) {
                        put(found, attribute, table, i, attribute);
                    }
                }
            }
            table.names().forEach(attribute -> known.add(name + "." + attribute));
            found.forEach((attribute, value) -> values.put(name + "." + attribute, value));
            Map<String, Object> further = new HashMap<>(found);
            join(further, lookup.links(), known);
            further.forEach((attribute, value) -> {
                if (attribute.contains(".")) {
                    values.put(attribute, value);
                }
            });
        });
    }

    /** Returns the days from the first day of the first period of the plan to the last day of the last one. */
    DateRange periods(Fact fact) {
        return periods.getOrDefault(fact.name(), DateRange.EMPTY);
    }

    // ---- spreading

    private void spread(Fact fact, Row row, List<Row> into) {
        Grain grain = fact.grain().orElseThrow();
        String label = (String) row.values().get(fact.column(fact.defaultRole()));
        DateRange range = label == null ? DateRange.EMPTY : days.calendar().parse(label, grain.level());
        periods.merge(fact.name(), range, DateRange::hull);
        if (range.isEmpty() || !(row.values().get("amount") instanceof BigDecimal amount)) {
            return;
        }
        List<Integer> weighed = new ArrayList<>();
        List<BigDecimal> weights = new ArrayList<>();
        boolean none = true;
        for (int pass = 0; pass < 2 && none; pass++) {
            for (int day = range.firstEpochDay(); day <= range.lastEpochDay(); day++) {
                BigDecimal weight = pass == 1 ? BigDecimal.ONE : weight(fact.spread(), row, day);
                if (weight.signum() > 0) {
                    none = false;
                    weighed.add(day);
                    weights.add(weight);
                }
            }
        }
        BigDecimal[] parts = parts(amount, weights);
        for (int i = 0; i < parts.length; i++) {
            Map<String, Object> values = new HashMap<>(row.values());
            values.put("amount", parts[i]);
            into.add(new Row(fact.name(), values, Map.of(fact.defaultRole(), weighed.get(i))));
        }
    }

    private BigDecimal weight(Spread spread, Row row, int day) {
        if (spread instanceof Spread.WorkingDays) {
            return days.workedShare(day);
        }
        if (!(spread instanceof Spread.Like like)) {
            return BigDecimal.ONE;
        }
        DateRange ago = days.calendar().moved(DateRange.ofEpochDays(day, day), -1, Level.YEAR);
        BigDecimal sum = BigDecimal.ZERO;
        for (Row other : rows.get(like.fact())) {
            Integer on = other.days().get(project.facts().get(like.fact()).defaultRole());
            boolean same =
                    Objects.equals(other.values().get("shop"), row.values().get("shop"));
            if (on != null && on <= days.asOf() && ago.contains(on) && same) {
                sum = sum.add((BigDecimal) other.values().getOrDefault(like.column(), BigDecimal.ZERO));
            }
        }
        return sum;
    }

    /** The running sum rounded, half away from zero; each day gets what it adds. */
    private static BigDecimal[] parts(BigDecimal amount, List<BigDecimal> weights) {
        int scale = Math.max(2, amount.stripTrailingZeros().scale());
        BigDecimal total = weights.stream().reduce(BigDecimal.ZERO, BigDecimal::add);
        BigDecimal[] parts = new BigDecimal[weights.size()];
        BigDecimal before = BigDecimal.ZERO;
        BigDecimal weight = BigDecimal.ZERO;
        for (int i = 0; i < parts.length; i++) {
            weight = weight.add(weights.get(i));
            BigDecimal running = amount.multiply(weight).divide(total, scale, RoundingMode.HALF_UP);
            parts[i] = running.subtract(before);
            before = running;
        }
        return parts;
    }

    // ---- names

    boolean has(Fact fact, String name) {
        return names.get(fact.name()).contains(own(fact.name(), name)) || ATTRIBUTES.contains(name);
    }

    private static String own(String fact, String name) {
        return name.startsWith(fact + ".") ? name.substring(fact.length() + 1) : name;
    }

    /** Returns the member of a dimension; an empty text for a blank. */
    String member(Row row, String dimension) {
        return row.values().getOrDefault(dimension, "").toString();
    }

    // ---- conditions

    /** Returns whether the condition holds for the row; null where a blank decides. */
    Boolean holds(Condition c, Row row, int day) {
        if (c instanceof Condition.Not not) {
            Boolean of = holds(not.part(), row, day);
            return of == null ? null : !of;
        }
        if (c instanceof Condition.And and) {
            List<Boolean> all =
                    and.parts().stream().map(p -> holds(p, row, day)).toList();
            return all.contains(Boolean.FALSE) ? Boolean.FALSE : all.contains(null) ? null : Boolean.TRUE;
        }
        if (c instanceof Condition.Or or) {
            List<Boolean> all = new ArrayList<>();
            or.parts().forEach(p -> all.add(holds(p, row, day)));
            return all.contains(Boolean.TRUE) ? Boolean.TRUE : all.contains(null) ? null : Boolean.FALSE;
        }
        if (c instanceof Condition.IsBlank blank) {
            return operand(blank.value(), row, day) == null;
        }
        if (c instanceof Condition.Like like) {
            Object value = operand(like.value(), row, day);
            return value == null
                    ? null
                    : value.toString().matches(like.pattern().replace("%", ".*").replace('_', '.'));
        }
        if (c instanceof Condition.In in) {
            Object value = operand(in.value(), row, day);
            return value == null ? null : in.among().stream().anyMatch(o -> compared(value, operand(o, row, day)) == 0);
        }
        if (c instanceof Condition.Between b) {
            Object value = operand(b.value(), row, day);
            return value == null
                    ? null
                    : compared(value, operand(b.low(), row, day)) >= 0
                            && compared(value, operand(b.high(), row, day)) <= 0;
        }
        Condition.Compare compare = (Condition.Compare) c;
        Object left = operand(compare.left(), row, day);
        Object right = operand(compare.right(), row, day);
        return left == null || right == null ? null : compare.comparison().holds(compared(left, right));
    }

    private static int compared(Object a, Object b) {
        return a instanceof BigDecimal x
                ? x.compareTo((BigDecimal) b)
                : a.toString().compareTo(b.toString());
    }

    /** Returns the value of the operand, null for a blank; dates are texts, which order as dates do. */
    Object operand(Operand operand, Row row, int day) {
        if (operand instanceof Operand.Number n) {
            return n.value();
        }
        if (operand instanceof Operand.Text t) {
            return t.value();
        }
        String name = own(row.fact(), ((Operand.Name) operand).text());
        return switch (name) {
            case "weekday_name" -> ReferenceEvaluator.weekday(day);
            case "month" -> BigDecimal.valueOf(EpochDays.toDate(day).getMonthValue());
            default -> row.values().get(name);
        };
    }
}
