package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Days;
import dev.mile.calendar.Level;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Operand;
import dev.mile.fact.RowExpression;
import dev.mile.measure.Clauses;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import dev.mile.span.Span;
import dev.mile.span.TimeFrame;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** The slow, obvious evaluator: for every cell it scans every row. It knows facts sales (actual) and plan, without lookups. */
final class SlowEvaluator {
    private final Project project;
    private final Map<String, Rows> rows;
    private final TimeFrame frame;

    SlowEvaluator(Project project, Map<String, Rows> rows, TimeFrame frame) {
        this.project = project;
        this.rows = rows;
        this.frame = frame;
    }

    /** What is known on the way down. */
    private record Around(
            DateRange cell,
            boolean whole,
            Span span,
            boolean inFull,
            boolean ifFull,
            String role,
            List<Condition> where,
            Map<String, String> members,
            Clauses per) {
        Around with(Span more, boolean nowWhole) {
            return new Around(cell, whole || nowWhole, span.then(more), inFull, ifFull, role, where, members, per);
        }
    }

    Value value(Measure measure, DateRange cell, Map<String, String> members, Level finest) {
        return value(
                measure,
                new Around(cell, false, Span.NONE, false, false, null, List.of(), members, Clauses.NONE),
                finest);
    }

    private Value value(Measure m, Around a, Level finest) {
        if (m instanceof Measure.Constant c) {
            return Value.of(c.value());
        }
        if (m instanceof Measure.Named n) {
            return value(project.measures().get(n.name()).is(), a, finest);
        }
        if (m instanceof Measure.Negated n) {
            return value(n.of(), a, finest).negated();
        }
        if (m instanceof Measure.OrElse o) {
            Value of = value(o.of(), a, finest);
            return of.isBlank() ? Value.of(o.otherwise()) : of;
        }
        if (m instanceof Measure.Arithmetic x) {
            Value l = value(x.left(), a, finest);
            Value r = value(x.right(), a, finest);
            return switch (x.sign()) {
                case PLUS -> l.plus(r);
                case MINUS -> l.minus(r);
                case TIMES -> l.times(r);
                case DIVIDED_BY -> l.dividedBy(r);
            };
        }
        if (m instanceof Measure.Then t) {
            Value l = value(t.actual(), a.with(Span.soFar(), true), finest);
            Value r = value(t.after(), a.with(Span.toCome(), true), finest);
            return l.isBlank() ? r : r.isBlank() ? l : l.plus(r);
        }
        if (m instanceof Measure.With w) {
            return with(w, a, finest);
        }
        if (m instanceof Measure.DayCount d) {
            DateRange window = window(a, false);
            return window.isEmpty() ? Value.BLANK : per(Value.of(window.days()), window, a);
        }
        return aggregate((Measure.Aggregate) m, a);
    }

    private Value with(Measure.With w, Around a, Level finest) {
        Clauses c = w.clauses();
        if (c.onlyAt().isPresent()
                && (finest == null || finest.ordinal() < c.onlyAt().get().ordinal())) {
            return Value.BLANK;
        }
        List<Condition> where = new ArrayList<>(a.where());
        c.where().ifPresent(where::add);
        Map<String, String> members = new HashMap<>(a.members());
        c.across().forEach(members::remove);
        Around inner = new Around(
                a.cell(),
                a.whole(),
                a.span().then(c.over()),
                a.inFull() || c.inFull(),
                a.ifFull() || c.ifFull(),
                c.on().orElse(a.role()),
                where,
                members,
                c.per().isPresent() ? c : a.per());
        if (c.each().isEmpty()) {
            return value(w.of(), inner, finest);
        }
        String dimension = c.each().get(0);
        Set<String> all = new TreeSet<>();
        for (Rows table : rows.values()) {
            for (int i = 0; table.names().contains(dimension) && i < table.size(); i++) {
                all.add(table.value(i, dimension));
            }
        }
        Value sum = Value.BLANK;
        for (String member : all) {
            if (members.containsKey(dimension) && !members.get(dimension).equals(member)) {
                continue;
            }
            Map<String, String> one = new HashMap<>(members);
            one.put(dimension, member);
            Value v = value(
                    w.of(),
                    new Around(
                            inner.cell(),
                            inner.whole(),
                            inner.span(),
                            inner.inFull(),
                            inner.ifFull(),
                            inner.role(),
                            where,
                            one,
                            inner.per()),
                    finest);
            sum = sum.isBlank() ? v : v.isBlank() ? sum : sum.plus(v);
        }
        return sum;
    }

    private DateRange window(Around a, boolean plan) {
        DateRange cell = plan || a.whole() || a.inFull() ? a.cell() : a.cell().upTo(frame.asOf());
        return cell.isEmpty() ? cell : a.span().resolve(cell, frame);
    }

    private Value per(Value value, DateRange window, Around a) {
        if (a.per().per().isEmpty()) {
            return value;
        }
        Set<Integer> units = new HashSet<>();
        for (int day = window.firstDay(); day <= window.lastDay(); day++) {
            units.add(frame.calendarOf("").ordinal(a.per().per().get().unit(), day));
        }
        return value.dividedBy(Value.of(units.size()));
    }

    private Value aggregate(Measure.Aggregate g, Around a) {
        Fact fact = project.facts().get(g.fact());
        Rows table = rows.get(g.fact());
        DateRange window = window(a, fact.plan());
        boolean lacks =
                a.members().keySet().stream().anyMatch(d -> !table.names().contains(d));
        if (window.isEmpty() || lacks) {
            return Value.BLANK;
        }
        String role = a.role() != null && fact.dates().containsKey(a.role()) ? a.role() : fact.defaultRole();
        if (a.ifFull() && !covers(fact, table, role).encloses(window)) {
            return Value.BLANK;
        }
        String column = g.of().map(e -> ((Operand.Name) ((RowExpression.Value) e).operand())
                        .text()
                        .split("\\.")[1])
                .orElse(null);
        TreeMap<Integer, BigDecimal> byDay = new TreeMap<>();
        List<BigDecimal> values = new ArrayList<>();
        Set<String> distinct = new HashSet<>();
        int count = 0;
        for (int i = 0; i < table.size(); i++) {
            String date = table.value(i, fact.column(role));
            int row = i;
            if (date.isEmpty()
                    || !window.contains(LocalDate.parse(date))
                    || !placed(fact, date)
                    || !a.members().entrySet().stream()
                            .allMatch(e -> table.value(row, e.getKey()).equals(e.getValue()))
                    || !a.where().stream().allMatch(c -> holds(c, table, row))) {
                continue;
            }
            String text = column == null ? "row" : table.value(i, column);
            if (text.isEmpty()) {
                continue;
            }
            count++;
            distinct.add(text);
            if (column != null && g.how() != Measure.Aggregation.COUNT && g.how() != Measure.Aggregation.DISTINCT) {
                values.add(new BigDecimal(text));
                byDay.merge(Days.of(LocalDate.parse(date)), new BigDecimal(text), BigDecimal::add);
            }
        }
        BigDecimal sum = values.stream().reduce(BigDecimal.ZERO, BigDecimal::add);
        boolean none = values.isEmpty();
        return per(
                switch (g.how()) {
                    case COUNT -> Value.of(count);
                    case DISTINCT -> Value.of(distinct.size());
                    case SUM -> none ? Value.BLANK : Value.of(sum);
                    case AVG -> none ? Value.BLANK : Value.of(sum).dividedBy(Value.of(values.size()));
                    case MIN ->
                        none
                                ? Value.BLANK
                                : Value.of(values.stream()
                                        .min(BigDecimal::compareTo)
                                        .orElseThrow());
                    case MAX ->
                        none
                                ? Value.BLANK
                                : Value.of(values.stream()
                                        .max(BigDecimal::compareTo)
                                        .orElseThrow());
                    case FIRST ->
                        none ? Value.BLANK : Value.of(byDay.firstEntry().getValue());
                    case LAST -> none ? Value.BLANK : Value.of(byDay.lastEntry().getValue());
                },
                window,
                a);
    }

    private boolean placed(Fact fact, String date) {
        int day = Days.of(LocalDate.parse(date));
        return frame.dimension().contains(day) && (fact.plan() || day <= frame.asOf());
    }

    private DateRange covers(Fact fact, Rows table, String role) {
        DateRange covered = DateRange.EMPTY;
        for (int i = 0; i < table.size(); i++) {
            String date = table.value(i, fact.column(role));
            if (!date.isEmpty() && frame.dimension().contains(LocalDate.parse(date))) {
                covered = covered.union(DateRange.of(LocalDate.parse(date), LocalDate.parse(date)));
            }
        }
        return fact.plan() || covered.isEmpty() ? covered : DateRange.ofDays(covered.firstDay(), frame.asOf());
    }

    /** Conditions of the random reports: an equality, its negation, or blank. */
    private static boolean holds(Condition c, Rows table, int row) {
        if (c instanceof Condition.Not not) {
            return !table.value(row, "channel").isEmpty() && !holds(not.part(), table, row);
        }
        if (c instanceof Condition.IsBlank) {
            return table.value(row, "channel").isEmpty();
        }
        Condition.Compare compare = (Condition.Compare) c;
        return table.value(row, "channel").equals(((Operand.Text) compare.right()).value());
    }
}
