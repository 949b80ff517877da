package dev.mile.fact;

import dev.mile.calendar.MileException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/** Adds up the places of one fact by group and day. */
final class MemoryTotals {
    private final MemoryRows rows;
    private final Placement places;
    private final TotalsRequest request;
    private final DayKnowledge days;
    private final RowTest keep;

    MemoryTotals(MemoryRows rows, Placement places, Fact fact, TotalsRequest request, DayKnowledge days) {
        this.rows = rows;
        this.places = places;
        this.request = request;
        this.days = days;
        this.keep = fact.keepOf(rows.table().types()).map(this::test).orElse(null);
    }

    private RowTest test(Condition condition) {
        return RowTest.of(
                condition, rows.source(place -> places.days()[place], place -> places.rows()[place], days), days);
    }

    List<GroupTotals> run() {
        int first = request.days().firstDay();
        int width = Math.max(request.days().days(), 0);
        int[] groups = new int[places.size()];
        List<int[]> members = new ArrayList<>();
        group(groups, members);
        // a slot is one group on one day
        int[] slotOf = new int[places.size()];
        Map<Long, Integer> slots = new HashMap<>();
        List<long[]> keys = new ArrayList<>();
        for (int i = 0; i < slotOf.length; i++) {
            int day = places.days()[i];
            if (width == 0 || groups[i] < 0 || !request.days().contains(day)) {
                slotOf[i] = -1;
                continue;
            }
            long key = (long) groups[i] * width + (day - first);
            Integer slot = slots.putIfAbsent(key, keys.size());
            if (slot == null) {
                slotOf[i] = keys.size();
                keys.add(new long[] {groups[i], day});
            } else {
                slotOf[i] = slot;
            }
        }
        Object[][] values = new Object[request.columns().size()][];
        for (int c = 0; c < values.length; c++) {
            try {
                values[c] = column(request.columns().get(c), slotOf, keys.size());
            } catch (ArithmeticException e) {
                throw MileException.data(
                                "an amount of `%s` of the fact '%s' is larger than 18 digits; round its columns first",
                                request.columns()
                                        .get(c)
                                        .of()
                                        .map(Object::toString)
                                        .orElse("rows"),
                                request.fact())
                        .causedBy(e);
            }
        }
        return sorted(members, keys, values);
    }

    /** Numbers the groups; -1 for places whose row is not kept. */
    private void group(int[] groups, List<int[]> members) {
        List<Table.TextValues> columns =
                request.groups().stream().map(rows::coded).toList();
        Map<List<Integer>, Integer> known = new HashMap<>();
        for (int i = 0; i < groups.length; i++) {
            if (keep != null && keep.test(i) != RowTest.YES) {
                groups[i] = -1;
                continue;
            }
            Integer[] codes = new Integer[columns.size()];
            for (int c = 0; c < codes.length; c++) {
                codes[c] = columns.get(c).codes()[places.rows()[i]];
            }
            Integer group = known.putIfAbsent(Arrays.asList(codes), members.size());
            if (group == null) {
                groups[i] = members.size();
                members.add(Arrays.stream(codes).mapToInt(Integer::intValue).toArray());
            } else {
                groups[i] = group;
            }
        }
    }

    private Object[] column(Column column, int[] slotOf, int slots) {
        RowTest where = column.where().map(this::test).orElse(null);
        return switch (column.kind()) {
            case ROWS -> count(slotOf, slots, where, null);
            case DISTINCT -> distinct(column, slotOf, slots, where);
            case COUNT -> {
                var blank = blank(column.of().orElseThrow());
                yield count(slotOf, slots, where, blank);
            }
            default -> amounts(column, slotOf, slots, where);
        };
    }

    private RowTest blank(RowExpression of) {
        if (of instanceof RowExpression.Value v && v.operand() instanceof Operand.Field f) {
            Table.TextValues coded = rows.coded(f);
            return place -> coded.codes()[places.rows()[place]] < 0 ? RowTest.YES : RowTest.NO;
        }
        if (of instanceof RowExpression.Value v && v.operand() instanceof Operand.RowDate date) {
            return place -> {
                int day = rows.day(date.role(), places.rows()[place]);
                return day == Table.NO_DATE || day == Table.UNREADABLE ? RowTest.YES : RowTest.NO;
            };
        }
        RowNumber number = RowNumber.of(of, rows, days);
        return place -> number.blank(places.rows()[place]) ? RowTest.YES : RowTest.NO;
    }

    private Object[] count(int[] slotOf, int slots, RowTest where, RowTest blank) {
        long[] counts = new long[slots];
        for (int i = 0; i < slotOf.length; i++) {
            if (slotOf[i] >= 0
                    && (where == null || where.test(i) == RowTest.YES)
                    && (blank == null || blank.test(i) == RowTest.NO)) {
                counts[slotOf[i]]++;
            }
        }
        Object[] values = new Object[slots];
        Arrays.setAll(values, s -> BigDecimal.valueOf(counts[s]));
        return values;
    }

    private Object[] distinct(Column column, int[] slotOf, int slots, RowTest where) {
        RowExpression of = column.of().orElseThrow();
        if (!(of instanceof RowExpression.Value v && v.operand() instanceof Operand.Field field)) {
            throw MileException.model("distinct counts the values of a column, not of `%s`", of);
        }
        Table.TextValues coded = rows.coded(field);
        List<TreeSet<String>> sets = new ArrayList<>();
        for (int s = 0; s < slots; s++) {
            sets.add(new TreeSet<>(Comparisons.BY_CODE_POINT));
        }
        for (int i = 0; i < slotOf.length; i++) {
            if (slotOf[i] >= 0 && (where == null || where.test(i) == RowTest.YES)) {
                int code = coded.codes()[places.rows()[i]];
                if (code >= 0) {
                    sets.get(slotOf[i]).add(coded.dictionary()[code]);
                }
            }
        }
        return sets.stream().map(s -> s.toArray(String[]::new)).toArray();
    }

    private Object[] amounts(Column column, int[] slotOf, int slots, RowTest where) {
        RowNumber number = RowNumber.of(column.of().orElseThrow(), rows, days);
        Object[] values = new Object[slots];
        if (places.weights() != null) {
            BigDecimal[] parts = spread(number);
            for (int i = 0; i < slotOf.length; i++) {
                if (slotOf[i] >= 0 && parts[i] != null && (where == null || where.test(i) == RowTest.YES)) {
                    values[slotOf[i]] = taken(column.kind(), (BigDecimal) values[slotOf[i]], parts[i]);
                }
            }
            return values;
        }
        if (number.scale() == RowNumber.FLOATING) {
            return floating(column.kind(), number, slotOf, slots, where);
        }
        long[] sums = new long[slots];
        boolean[] some = new boolean[slots];
        BigInteger[] carried = null;
        for (int i = 0; i < slotOf.length; i++) {
            int slot = slotOf[i];
            int row = places.rows()[i];
            if (slot < 0 || number.blank(row) || (where != null && where.test(i) != RowTest.YES)) {
                continue;
            }
            long value = number.exact(row);
            if (!some[slot]) {
                sums[slot] = value;
                some[slot] = true;
            } else if (column.kind() == Column.Kind.SUM) {
                long sum = sums[slot] + value;
                // both addends have another sign than the sum: the long ran over
                if (((sums[slot] ^ sum) & (value ^ sum)) < 0) {
                    carried = carried == null ? new BigInteger[slots] : carried;
                    BigInteger before = carried[slot] == null ? BigInteger.ZERO : carried[slot];
                    carried[slot] = before.add(BigInteger.valueOf(sums[slot]));
                    sum = value;
                }
                sums[slot] = sum;
            } else {
                sums[slot] =
                        column.kind() == Column.Kind.MIN ? Math.min(sums[slot], value) : Math.max(sums[slot], value);
            }
        }
        for (int s = 0; s < slots; s++) {
            if (some[s]) {
                BigInteger sum = BigInteger.valueOf(sums[s]);
                if (carried != null && carried[s] != null) {
                    sum = sum.add(carried[s]);
                }
                values[s] = new BigDecimal(sum, number.scale());
            }
        }
        return values;
    }

    private Object[] floating(Column.Kind kind, RowNumber number, int[] slotOf, int slots, RowTest where) {
        double[] sums = new double[slots];
        double[] lost = new double[slots];
        boolean[] some = new boolean[slots];
        for (int i = 0; i < slotOf.length; i++) {
            int slot = slotOf[i];
            int row = places.rows()[i];
            if (slot < 0 || number.blank(row) || (where != null && where.test(i) != RowTest.YES)) {
                continue;
            }
            double value = number.floating(row);
            if (!some[slot]) {
                sums[slot] = value;
                some[slot] = true;
            } else if (kind == Column.Kind.SUM) {
                // Neumaier's variant of compensated summation
                double sum = sums[slot] + value;
                lost[slot] += Math.abs(sums[slot]) >= Math.abs(value)
                        ? (sums[slot] - sum) + value
                        : (value - sum) + sums[slot];
                sums[slot] = sum;
            } else {
                sums[slot] = kind == Column.Kind.MIN ? Math.min(sums[slot], value) : Math.max(sums[slot], value);
            }
        }
        Object[] values = new Object[slots];
        for (int s = 0; s < slots; s++) {
            values[s] = some[s] ? (Object) (sums[s] + lost[s]) : null;
        }
        return values;
    }

    /** Deals the value of each row out to its places. */
    private BigDecimal[] spread(RowNumber number) {
        BigDecimal[] parts = new BigDecimal[places.size()];
        int from = 0;
        while (from < parts.length) {
            int row = places.rows()[from];
            int to = from;
            while (to < parts.length && places.rows()[to] == row) {
                to++;
            }
            boolean placed = places.days()[from] != Table.NO_DATE && places.days()[from] != Table.UNREADABLE;
            if (placed && !number.blank(row)) {
                BigDecimal amount = number.scale() == RowNumber.FLOATING
                        ? new BigDecimal(Double.toString(number.floating(row)))
                        : BigDecimal.valueOf(number.exact(row), number.scale());
                BigDecimal[] some = Apportionment.parts(amount, Arrays.copyOfRange(places.weights(), from, to));
                System.arraycopy(some, 0, parts, from, some.length);
            }
            from = to;
        }
        return parts;
    }

    private static BigDecimal taken(Column.Kind kind, BigDecimal so, BigDecimal value) {
        if (so == null) {
            return value;
        }
        return switch (kind) {
            case MIN -> so.min(value);
            case MAX -> so.max(value);
            default -> so.add(value);
        };
    }

    private List<GroupTotals> sorted(List<int[]> members, List<long[]> keys, Object[][] values) {
        String[][] names = new String[members.size()][];
        for (int g = 0; g < names.length; g++) {
            names[g] = new String[request.groups().size()];
            for (int c = 0; c < names[g].length; c++) {
                int code = members.get(g)[c];
                names[g][c] =
                        code < 0 ? null : rows.coded(request.groups().get(c)).dictionary()[code];
            }
        }
        Integer[] groups = new Integer[names.length];
        Arrays.setAll(groups, g -> g);
        Arrays.sort(groups, (a, b) -> compare(names[a], names[b]));
        List<List<Integer>> slotsOf = new ArrayList<>();
        for (int g = 0; g < names.length; g++) {
            slotsOf.add(new ArrayList<>());
        }
        for (int s = 0; s < keys.size(); s++) {
            slotsOf.get((int) keys.get(s)[0]).add(s);
        }
        List<GroupTotals> totals = new ArrayList<>();
        for (int g : groups) {
            List<Integer> slots = slotsOf.get(g);
            if (slots.isEmpty()) {
                continue;
            }
            slots.sort(Comparator.comparingLong(s -> keys.get(s)[1]));
            int[] on = slots.stream().mapToInt(s -> (int) keys.get(s)[1]).toArray();
            Object[][] of = new Object[values.length][on.length];
            for (int c = 0; c < values.length; c++) {
                for (int i = 0; i < on.length; i++) {
                    of[c][i] = values[c][slots.get(i)];
                }
            }
            totals.add(new GroupTotals(names[g], on, of));
        }
        return totals;
    }

    static int compare(String[] a, String[] b) {
        for (int i = 0; i < a.length; i++) {
            int c = Comparisons.BY_CODE_POINT.compare(a[i], b[i]);
            if (c != 0) {
                return c;
            }
        }
        return 0;
    }
}
