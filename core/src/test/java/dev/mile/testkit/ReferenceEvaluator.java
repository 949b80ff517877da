package dev.mile.testkit;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.internal.EpochDays;
import dev.mile.measure.Clauses;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.measure.Value;
import dev.mile.report.Project;
import dev.mile.span.Span;
import java.math.BigDecimal;
import java.time.Month;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.IntPredicate;

/** The slow, obvious evaluator: for every cell it scans every row of {@link ReferenceRows}, and every day of a window that it counts. */
final class ReferenceEvaluator {
    private static final ReferenceCalendar CIVIL = ReferenceCalendar.startingOn(Month.JANUARY, 1);

    private final Project project;
    private final ReferenceRows rows;
    private final ReferenceDays days;
    private final Map<String, DateRange> covered = new HashMap<>();
    private boolean foundRows;

    ReferenceEvaluator(Project project, ReferenceRows rows, ReferenceDays days) {
        this.project = project;
        this.rows = rows;
        this.days = days;
    }

    /** A cell: days, which of them are kept (by the name of the attribute), members, and the finest level of the row. */
    record Place(DateRange days, Map<String, IntPredicate> kept, Map<String, String> members, Level finest) {}

    /** What is known on the way down. */
    private record Scope(
            Place cell,
            boolean whole,
            Span span,
            boolean inFull,
            Optional<Clauses.CoverageRule> coverage,
            String role,
            List<Condition> where,
            Optional<Per> per,
            Set<String> row,
            boolean own) {
        Scope side(Span side) {
            return new Scope(cell, true, span.then(side), inFull, coverage, role, where, per, row, own);
        }

        Scope at(Place other) {
            return new Scope(other, whole, span, inFull, coverage, role, where, per, row, own);
        }

        boolean keeps(int day) {
            return cell.kept().values().stream().allMatch(k -> k.test(day));
        }

        List<Integer> days(DateRange window) {
            List<Integer> days = new ArrayList<>();
            for (int day = window.firstEpochDay(); day <= window.lastEpochDay(); day++) {
                if (keeps(day)) {
                    days.add(day);
                }
            }
            return days;
        }
    }

    /** Returns whether the measure finds rows, of whatever value, that are of the row's own members and weekdays. */
    boolean findsRows(Measure measure, Place cell, Optional<Condition> where) {
        value(measure, cell, where);
        return foundRows;
    }

    Value value(Measure measure, Place cell, Optional<Condition> where) {
        foundRows = false;
        List<Condition> conditions = where.map(List::of).orElse(List.of());
        Set<String> row = new HashSet<>(cell.members().keySet());
        row.addAll(cell.kept().keySet());
        return value(
                measure,
                new Scope(
                        cell,
                        false,
                        Span.NONE,
                        false,
                        Optional.empty(),
                        null,
                        conditions,
                        Optional.empty(),
                        row,
                        true));
    }

    private Value value(Measure m, Scope a) {
        if (m instanceof Measure.Constant c) {
            return Value.of(c.value());
        }
        if (m instanceof Measure.Named n) {
            return value(project.measures().get(n.name()).expression(), a);
        }
        if (m instanceof Measure.Negated n) {
            return value(n.of(), a).negated();
        }
        if (m instanceof Measure.OrElse o) {
            Value of = value(o.of(), a);
            return of.isBlank() && !of.equals(Value.UNKNOWN) ? Value.of(o.otherwise()) : of;
        }
        if (m instanceof Measure.Arithmetic x) {
            Value l = value(x.left(), a);
            Value r = value(x.right(), a);
            return switch (x.sign()) {
                case PLUS -> l.plus(r);
                case MINUS -> l.minus(r);
                case TIMES -> l.times(r);
                case DIVIDED_BY -> l.dividedBy(r);
            };
        }
        if (m instanceof Measure.Then t) {
            return added(value(t.actual(), a.side(Span.soFar())), value(t.after(), a.side(Span.toCome())));
        }
        if (m instanceof Measure.Qualified w) {
            return with(w, a);
        }
        if (m instanceof Measure.DayCount d) {
            List<Integer> days = a.days(window(a, false));
            Value counted = d.working() ? Value.of(worked(days)) : Value.of(BigDecimal.valueOf(days.size()));
            return days.isEmpty() ? Value.UNKNOWN : per(counted, days, a);
        }
        return aggregate((Measure.Aggregate) m, a);
    }

    private static Value added(Value a, Value b) {
        if (!a.isBlank() && !b.isBlank()) {
            return a.plus(b);
        }
        if (a.isBlank() && b.isBlank()) {
            // of two blanks the one that knows more
            List<Value> kinds = List.of(Value.NOTHING, Value.UNDEFINED, Value.UNKNOWN);
            return kinds.indexOf(a) < kinds.indexOf(b) ? a : b;
        }
        return a.isBlank() ? b : a;
    }

    private Value with(Measure.Qualified w, Scope a) {
        Clauses c = w.clauses();
        Level finest = a.cell().finest();
        if (c.onlyAt().isPresent()
                && (finest == null || finest.ordinal() < c.onlyAt().get().ordinal())) {
            return Value.UNKNOWN;
        }
        List<Condition> where = new ArrayList<>(a.where());
        c.where().ifPresent(where::add);
        Map<String, String> members = new HashMap<>(a.cell().members());
        Map<String, IntPredicate> kept = new HashMap<>(a.cell().kept());
        c.across().forEach(members::remove);
        c.across().forEach(kept::remove);
        Scope inner = new Scope(
                new Place(a.cell().days(), kept, members, finest),
                a.whole(),
                a.span().then(c.over()),
                a.inFull() || c.inFull(),
                c.coverage().or(a::coverage),
                c.on().orElse(a.role()),
                where,
                c.per().isPresent() ? c.per() : a.per(),
                a.row(),
                a.own() && c.across().stream().noneMatch(d -> a.row().contains(d)));
        return each(w.of(), c.each(), inner, w.factor(), a);
    }

    private Value each(Measure of, List<String> dimensions, Scope a, Optional<Measure> factor, Scope aroundFactor) {
        if (dimensions.isEmpty()) {
            if (factor.isPresent()) {
                boolean found = foundRows;
                Value number = value(factor.get(), aroundFactor);
                foundRows = found;
                if (number.isBlank()) {
                    return null;
                }
            }
            return value(of, a);
        }
        String dimension = dimensions.get(0);
        Value sum = Value.UNKNOWN;
        Set<String> found =
                new TreeSet<>(Comparator.comparing(String::isEmpty).thenComparing(Comparator.naturalOrder()));
        members(of, a, dimension, found);
        String own = a.cell().members().get(dimension);
        found.removeIf(member -> own != null && !own.equals(member));
        if (found.isEmpty()) {
            // the kind of the blank is that of a member without rows
            found.add("no such member");
        }
        for (String member : found) {
            Map<String, String> members = new HashMap<>(a.cell().members());
            members.put(dimension, member);
            Place one = new Place(
                    a.cell().days(), a.cell().kept(), members, a.cell().finest());
            Map<String, String> ofFactor = new HashMap<>(aroundFactor.cell().members());
            ofFactor.put(dimension, member);
            Place around = new Place(
                    aroundFactor.cell().days(),
                    aroundFactor.cell().kept(),
                    ofFactor,
                    aroundFactor.cell().finest());
            Value next = each(of, dimensions.subList(1, dimensions.size()), a.at(one), factor, aroundFactor.at(around));
            sum = next == null ? sum : added(sum, next);
        }
        return sum;
    }

    /** Finds the members of the dimension in the rows that the aggregates below may look at, on whatever day. */
    private void members(Measure m, Scope a, String dimension, Set<String> found) {
        if (m instanceof Measure.Named n) {
            members(project.measures().get(n.name()).expression(), a, dimension, found);
        } else if (m instanceof Measure.Qualified w && !w.clauses().across().contains(dimension)) {
            List<Condition> where = new ArrayList<>(a.where());
            w.clauses().where().ifPresent(where::add);
            String role = w.clauses().on().orElse(a.role());
            members(
                    w.of(),
                    new Scope(a.cell(), false, a.span(), false, Optional.empty(), role, where, a.per(), a.row(), false),
                    dimension,
                    found);
        } else if (m instanceof Measure.Aggregate g) {
            Fact fact = project.facts().get(g.fact());
            String role = role(fact, a);
            if (rows.has(fact, dimension) && knows(fact, a.where())) {
                rows.of(fact).stream()
                        .filter(row -> row.days().containsKey(role)
                                && placed(fact, row.days().get(role))
                                && holds(a.where(), row, row.days().get(role)))
                        .forEach(row -> found.add(rows.member(row, dimension)));
            }
        } else if (!(m instanceof Measure.Qualified)) {
            m.parts().forEach(part -> members(part, a, dimension, found));
        }
    }

    private static String role(Fact fact, Scope a) {
        return a.role() != null && fact.dates().containsKey(a.role()) ? a.role() : fact.defaultRole();
    }

    private boolean knows(Fact fact, List<Condition> conditions) {
        return conditions.stream().flatMap(c -> names(c).stream()).allMatch(name -> rows.has(fact, name));
    }

    private boolean holds(List<Condition> conditions, ReferenceRows.Row row, int day) {
        return conditions.stream().allMatch(c -> Boolean.TRUE.equals(rows.holds(c, row, day)));
    }

    private DateRange window(Scope a, boolean plan) {
        DateRange days = a.cell().days();
        DateRange cell = plan || a.whole() || a.inFull() ? days : days.notAfter(this.days.asOf());
        return cell.isEmpty() ? cell : this.days.resolve(a.span(), cell);
    }

    private BigDecimal worked(List<Integer> window) {
        return window.stream().map(days::workedShare).reduce(BigDecimal.ZERO, BigDecimal::add);
    }

    private Value per(Value value, List<Integer> days, Scope a) {
        if (a.per().isEmpty()) {
            return value;
        }
        Per per = a.per().get();
        if (per.working()) {
            return value.dividedBy(Value.of(worked(days)));
        }
        Set<Integer> units = new HashSet<>();
        days.forEach(day -> units.add(this.days.calendar().ordinal(per.unit(), day)));
        return value.dividedBy(Value.of(units.size()));
    }

    private Value aggregate(Measure.Aggregate g, Scope a) {
        Fact fact = project.facts().get(g.fact());
        String role = role(fact, a);
        List<Integer> days = a.days(window(a, fact.plan()));
        boolean lacks =
                !a.cell().members().keySet().stream().allMatch(d -> rows.has(fact, d)) || !knows(fact, a.where());
        DateRange all = covered(fact, role);
        List<Integer> covered = days.stream().filter(all::contains).toList();
        if (covered.isEmpty() || lacks || needsWhole(a) && !isWhole(g, a, fact, days, all)) {
            return Value.UNKNOWN;
        }
        TreeMap<Integer, BigDecimal> byDay = new TreeMap<>();
        List<BigDecimal> values = new ArrayList<>();
        Set<Object> distinct = new TreeSet<>();
        int count = 0;
        Set<Integer> window = new HashSet<>(days);
        for (ReferenceRows.Row row : rows.of(fact)) {
            Integer day = row.days().get(role);
            boolean counts = day != null
                    && window.contains(day)
                    && placed(fact, day)
                    && a.cell().members().entrySet().stream()
                            .allMatch(e -> rows.member(row, e.getKey()).equals(e.getValue()))
                    && holds(a.where(), row, day);
            foundRows |= counts && a.own();
            Object value = !counts
                    ? null
                    : g.expression().isEmpty() ? "row" : value(g.expression().get(), row, day);
            if (value == null) {
                continue;
            }
            count++;
            distinct.add(value);
            if (value instanceof BigDecimal number) {
                values.add(number);
                byDay.merge(day, number, BigDecimal::add);
            }
        }
        BigDecimal sum = values.stream().reduce(BigDecimal.ZERO, BigDecimal::add);
        boolean counted =
                g.aggregation() == Measure.Aggregation.COUNT || g.aggregation() == Measure.Aggregation.DISTINCT;
        if (values.isEmpty() && !counted) {
            return g.aggregation() == Measure.Aggregation.SUM ? per(Value.NOTHING, covered, a) : Value.UNDEFINED;
        }
        return per(
                switch (g.aggregation()) {
                    case COUNT -> Value.of(count);
                    case DISTINCT -> Value.of(distinct.size());
                    case SUM -> Value.of(sum);
                    case AVG -> Value.of(sum).dividedBy(Value.of(values.size()));
                    case MIN ->
                        Value.of(values.stream().min(BigDecimal::compareTo).orElseThrow());
                    case MAX ->
                        Value.of(values.stream().max(BigDecimal::compareTo).orElseThrow());
                    case FIRST -> Value.of(byDay.firstEntry().getValue());
                    case LAST -> Value.of(byDay.lastEntry().getValue());
                },
                covered,
                a);
    }

    private static List<String> names(Condition condition) {
        List<String> names = new ArrayList<>();
        condition.map(operand -> {
            if (operand instanceof Operand.Name n) {
                names.add(n.text());
            }
            return operand;
        });
        return names;
    }

    private boolean placed(Fact fact, int day) {
        return this.days.dimension().contains(day) && (fact.plan() || day <= this.days.asOf());
    }

    /** A window that a step moved must be covered whole, unless a clause says otherwise. */
    private static boolean needsWhole(Scope a) {
        if (a.coverage().isPresent()) {
            return a.coverage().get() == Clauses.CoverageRule.IF_FULL;
        }
        boolean moved = false;
        for (var step : a.span().steps()) {
            String words = step.toString();
            boolean replaced = words.matches("today|yesterday|this .*");
            moved = !replaced && (moved || words.matches(".* (back|ahead).*"));
        }
        return moved;
    }

    private boolean isWhole(Measure.Aggregate g, Scope a, Fact fact, List<Integer> days, DateRange all) {
        boolean fromStart = false;
        DateRange at = a.cell().days();
        at = fact.plan() || a.whole() || a.inFull() ? at : at.notAfter(this.days.asOf());
        for (var step : a.span().steps()) {
            at = this.days.resolve(new Span(List.of(step)), at);
            fromStart = !at.isEmpty()
                    && at.firstEpochDay() == this.days.dimension().firstEpochDay()
                    && (fromStart || step.toString().matches("all to date|before"));
        }
        boolean first = all.contains(days.get(0));
        boolean last = all.contains(days.get(days.size() - 1));
        return g.aggregation() == Measure.Aggregation.FIRST
                ? first || fromStart && last
                : g.aggregation() == Measure.Aggregation.LAST || fromStart ? last : first && last;
    }

    private DateRange covered(Fact fact, String role) {
        return covered.computeIfAbsent(fact.name() + " " + role, key -> findCovered(fact, role));
    }

    private DateRange findCovered(Fact fact, String role) {
        DateRange placed = fact.grain().isPresent() ? rows.periods(fact) : DateRange.EMPTY;
        for (ReferenceRows.Row row : rows.of(fact)) {
            Integer day = row.days().get(role);
            if (fact.grain().isEmpty() && day != null && days.dimension().contains(day)) {
                placed = placed.hull(DateRange.ofEpochDays(day, day));
            }
        }
        placed = placed.intersect(days.dimension());
        Integer from = fact.covers().from().map(EpochDays::of).orElse(null);
        if (from == null && !placed.isEmpty()) {
            from = placed.firstEpochDay();
            while (days.workedShare(from - 1).signum() == 0) {
                from--;
            }
        }
        Integer until = fact.covers().until().map(EpochDays::of).orElse(null);
        if (until == null) {
            until = fact.plan() ? (placed.isEmpty() ? null : Integer.valueOf(placed.lastEpochDay())) : days.asOf();
        }
        if (from == null || until == null) {
            return DateRange.EMPTY;
        }
        return DateRange.ofEpochDays(from, fact.plan() ? until : Math.min(until, days.asOf()));
    }

    // ---- row expressions

    private Object value(RowExpression e, ReferenceRows.Row row, int day) {
        if (e instanceof RowExpression.Constant c) {
            return c.value();
        }
        if (e instanceof RowExpression.Value v) {
            return rows.operand(v.operand(), row, day);
        }
        if (e instanceof RowExpression.Elapsed elapsed) {
            return elapsed(elapsed, row);
        }
        if (e instanceof RowExpression.OrElse o) {
            Object of = value(o.of(), row, day);
            return of == null ? o.otherwise() : of;
        }
        RowExpression.Arithmetic x = (RowExpression.Arithmetic) e;
        BigDecimal l = (BigDecimal) value(x.left(), row, day);
        BigDecimal r = (BigDecimal) value(x.right(), row, day);
        if (l == null || r == null) {
            return null;
        }
        return switch (x.sign()) {
            case PLUS -> l.add(r);
            case MINUS -> l.subtract(r);
            case TIMES -> l.multiply(r);
            case DIVIDED_BY -> throw new AssertionError("a ratio of a row is floating; it is not compared here");
        };
    }

    private BigDecimal elapsed(RowExpression.Elapsed e, ReferenceRows.Row row) {
        Integer from = date(e.from(), row);
        Integer to = date(e.to(), row);
        if (from == null || to == null) {
            return null;
        }
        return switch (e.unit()) {
            case DAYS -> BigDecimal.valueOf(to - from);
            case WORKING_DAYS ->
                from <= to ? between(from, to) : between(to, from).negate();
            case WEEKS -> BigDecimal.valueOf((to - from) / 7);
            case MONTHS -> BigDecimal.valueOf(complete(from, to, Level.PERIOD));
            case YEARS -> BigDecimal.valueOf(complete(from, to, Level.YEAR));
        };
    }

    private Integer date(Operand operand, ReferenceRows.Row row) {
        if (operand.equals(Operand.Name.AS_OF)) {
            return days.asOf();
        }
        String name = ((Operand.Name) operand).text();
        return row.days().get(name.substring(name.indexOf('.') + 1));
    }

    private BigDecimal between(int after, int upTo) {
        BigDecimal sum = BigDecimal.ZERO;
        for (int day = after + 1; day <= upTo; day++) {
            sum = sum.add(days.workedShare(day));
        }
        return sum;
    }

    /** As many units as the first day can be moved ahead without passing the second. */
    private int complete(int from, int to, Level unit) {
        if (to < from) {
            return -complete(to, from, unit);
        }
        int units = 0;
        DateRange day = DateRange.ofEpochDays(from, from);
        while (CIVIL.moved(day, units + 1, unit).lastEpochDay() <= to) {
            units++;
        }
        return units;
    }

    /** Returns the weekday of a day in English, as the column {@code weekday_name} has it. */
    static String weekday(int day) {
        String name = EpochDays.toDate(day).getDayOfWeek().name();
        return name.charAt(0) + name.substring(1).toLowerCase(java.util.Locale.ROOT);
    }
}
