package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.fact.Comparisons;
import dev.mile.measure.Per;
import dev.mile.measure.PlanNode;
import dev.mile.measure.Value;
import dev.mile.span.TimeFrame;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;

/** Works the plan of a measure out for cells. Not for use by several threads. */
final class Evaluator {
    private final SeriesStore store;
    private final TimeFrame frame;
    private final Map<String, WorkingWeek> weeks;
    private final WorkingWeek firstWeek;
    private final Map<PlanNode.Each, Loop> loopOf = new HashMap<>();

    Evaluator(SeriesStore store, TimeFrame frame, Map<String, WorkingWeek> weeks) {
        this.store = store;
        this.frame = frame;
        this.weeks = weeks;
        this.firstWeek = weeks.isEmpty() ? null : weeks.values().iterator().next();
    }

    /** Remembers whether any row was found for the row's own members. */
    static final class Found {
        boolean any;
    }

    Value evaluate(PlanNode node, Cell cell, Found found) {
        return evaluate(node, cell, Map.of(), found);
    }

    Value evaluate(PlanNode node, Cell cell, Map<Integer, String> loops, Found found) {
        if (node instanceof PlanNode.Leaf leaf) {
            return leaf(leaf, cell, loops, found);
        }
        if (node instanceof PlanNode.Number number) {
            return number.value();
        }
        if (node instanceof PlanNode.Arithmetic a) {
            Value left = evaluate(a.left(), cell, loops, found);
            Value right = evaluate(a.right(), cell, loops, found);
            return switch (a.sign()) {
                case PLUS -> left.plus(right);
                case MINUS -> left.minus(right);
                case TIMES -> left.times(right);
                case DIVIDED_BY -> left.dividedBy(right);
            };
        }
        if (node instanceof PlanNode.Negated n) {
            return evaluate(n.of(), cell, loops, found).negated();
        }
        if (node instanceof PlanNode.OrElse o) {
            return evaluate(o.of(), cell, loops, found).or(o.otherwise());
        }
        if (node instanceof PlanNode.Sum s) {
            Value actual = evaluate(s.actual(), cell, loops, found);
            Value after = evaluate(s.after(), cell, loops, found);
            return actual.isBlank() ? after : after.isBlank() ? actual : actual.plus(after);
        }
        if (node instanceof PlanNode.OnlyAt only) {
            boolean coarser = cell.finest() == null || cell.finest().isCoarserThan(only.level());
            return coarser ? Value.BLANK : evaluate(only.of(), cell, loops, found);
        }
        if (node instanceof PlanNode.Each each) {
            return each(each, cell, loops, found);
        }
        return dayCount((PlanNode.DayCount) node, cell);
    }

    private Value each(PlanNode.Each each, Cell cell, Map<Integer, String> loops, Found found) {
        Value sum = Value.BLANK;
        for (String member : members(each, cell, loops)) {
            Value one = evaluate(each.of(), cell, inside(each, member, loops), found);
            sum = sum.isBlank() ? one : one.isBlank() ? sum : sum.plus(one);
        }
        return sum;
    }

    static Map<Integer, String> inside(PlanNode.Each each, String member, Map<Integer, String> loops) {
        Map<Integer, String> inner = new HashMap<>(loops);
        inner.put(each.id(), member);
        return inner;
    }

    /** Returns the members over which the loop adds in the cell. */
    Set<String> members(PlanNode.Each each, Cell cell, Map<Integer, String> loops) {
        TreeSet<String> members = new TreeSet<>(Comparisons.BY_CODE_POINT);
        Members own = each.within() == PlanNode.Reach.ROW
                ? cell.members().get(each.dimension())
                : each.within() == PlanNode.Each.ALL ? null : Members.of(loops.get(each.within()));
        Loop loop = loopOf.computeIfAbsent(each, Loop::of);
        for (PlanNode.Leaf leaf : loop.leaves()) {
            leaf.reach().forEach((dimension, reach) -> {
                if (loop.ids().contains(reach.loop()) && leaf.never().isEmpty()) {
                    int at = leaf.series().groups().indexOf(reach.field());
                    for (String[] group : store.members(leaf.series())) {
                        if (own == null || own.has(group[at])) {
                            members.add(group[at]);
                        }
                    }
                }
            });
        }
        return members;
    }

    /** The leaves below a loop, and the numbers of the loop and of those inside it that take its member. */
    private record Loop(List<PlanNode.Leaf> leaves, Set<Integer> ids) {
        static Loop of(PlanNode.Each each) {
            Set<Integer> ids = new HashSet<>(Set.of(each.id()));
            visit(each.of(), node -> {
                if (node instanceof PlanNode.Each inner && ids.contains(inner.within())) {
                    ids.add(inner.id());
                }
            });
            return new Loop(Evaluator.leaves(each.of()), ids);
        }
    }

    /** Returns the leaves below the node. */
    static List<PlanNode.Leaf> leaves(PlanNode node) {
        List<PlanNode.Leaf> leaves = new ArrayList<>();
        visit(node, n -> {
            if (n instanceof PlanNode.Leaf leaf) {
                leaves.add(leaf);
            }
        });
        return leaves;
    }

    static void visit(PlanNode node, Consumer<PlanNode> visitor) {
        visitor.accept(node);
        node.parts().forEach(part -> visit(part, visitor));
    }

    /** Returns the days that an aggregate looks at in the cell, before the filters. */
    DateRange window(PlanNode.Timing timing, Cell cell) {
        DateRange days = timing.cut() ? cell.days().upTo(frame.asOf()) : cell.days();
        return days.isEmpty() ? days : timing.span().resolve(days, frame);
    }

    /** Returns the filters of the cell that the aggregate does not ignore. */
    static List<DayFilter> filters(Cell cell, List<String> across) {
        if (cell.filters().isEmpty() || across.isEmpty()) {
            return cell.filters();
        }
        return cell.filters().stream().filter(f -> !across.contains(f.name())).toList();
    }

    private Value dayCount(PlanNode.DayCount count, Cell cell) {
        DateRange window = window(count.timing(), cell);
        List<DayFilter> filters = filters(cell, count.across());
        if (days(window, filters) == 0) {
            return Value.BLANK;
        }
        Value value = count.working() ? workingDays(window, filters, count.week()) : Value.of(days(window, filters));
        return count.timing().per().isPresent()
                ? value.dividedBy(units(count.timing().per().get(), window, filters))
                : value;
    }

    private Value leaf(PlanNode.Leaf leaf, Cell cell, Map<Integer, String> loops, Found found) {
        if (leaf.never().isPresent() || leaf.lacks().stream().anyMatch(cell.members()::containsKey)) {
            return Value.BLANK;
        }
        DateRange window = window(leaf.timing(), cell);
        List<DayFilter> filters = filters(cell, leaf.across());
        if (window.isEmpty() || (!filters.isEmpty() && days(window, filters) == 0)) {
            return Value.BLANK;
        }
        if (leaf.ifFull() && !covered(leaf, window, filters)) {
            return Value.BLANK;
        }
        DaySeries series = series(leaf, cell, loops, filters);
        if (series.rows(window) > 0
                && leaf.across().stream()
                        .noneMatch(d -> cell.members().containsKey(d)
                                || cell.filters().stream()
                                        .anyMatch(f -> f.name().equals(d)))) {
            found.any = true;
        }
        Value value = series.value(leaf.how(), leaf.series().of().isEmpty(), window);
        return leaf.timing().per().isPresent()
                ? value.dividedBy(units(leaf.timing().per().get(), window, filters))
                : value;
    }

    /** Returns the day totals that the leaf reads in the cell. */
    DaySeries series(PlanNode.Leaf leaf, Cell cell, Map<Integer, String> loops, List<DayFilter> filters) {
        List<Members> members = new ArrayList<>();
        for (var group : leaf.series().groups()) {
            Members taken = null;
            for (Map.Entry<String, PlanNode.Reach> reach : leaf.reach().entrySet()) {
                if (reach.getValue().field().equals(group)) {
                    int loop = reach.getValue().loop();
                    taken = loop == PlanNode.Reach.ROW
                            ? cell.members().get(reach.getKey())
                            : loops.containsKey(loop) ? Members.of(loops.get(loop)) : null;
                }
            }
            members.add(taken);
        }
        return store.slice(leaf.series(), members, filters);
    }

    private boolean covered(PlanNode.Leaf leaf, DateRange window, List<DayFilter> filters) {
        DateRange covers = store.coverage(leaf.series().fact(), leaf.series().role());
        if (filters.isEmpty()) {
            return covers.encloses(window);
        }
        for (int day = window.firstDay(); day <= window.lastDay(); day++) {
            if (kept(filters, day) && !covers.contains(day)) {
                return false;
            }
        }
        return true;
    }

    private static boolean kept(List<DayFilter> filters, int day) {
        for (DayFilter filter : filters) {
            if (!filter.keeps().test(day)) {
                return false;
            }
        }
        return true;
    }

    static int days(DateRange window, List<DayFilter> filters) {
        if (filters.isEmpty() || window.isEmpty()) {
            return window.days();
        }
        int days = 0;
        for (int day = window.firstDay(); day <= window.lastDay(); day++) {
            days += kept(filters, day) ? 1 : 0;
        }
        return days;
    }

    Value workingDays(DateRange window, List<DayFilter> filters, String name) {
        WorkingWeek week = name.isEmpty() ? firstWeek : weeks.get(name);
        if (filters.isEmpty()) {
            return Value.of(week.inclusive(window));
        }
        BigDecimal sum = BigDecimal.ZERO;
        for (int day = window.firstDay(); day <= window.lastDay(); day++) {
            sum = kept(filters, day) ? sum.add(week.share(day)) : sum;
        }
        return Value.of(sum);
    }

    /** Returns how many units the window touches; days and working days as they are. */
    Value units(Per per, DateRange window, List<DayFilter> filters) {
        if (per.working()) {
            return workingDays(window, filters, per.week());
        }
        if (per.unit() == Level.DAY) {
            return Value.of(days(window, filters));
        }
        FiscalCalendar calendar = frame.calendarWith(per.unit(), per.calendar());
        if (filters.isEmpty()) {
            int crossed = calendar.boundariesCrossed(window.firstDay(), window.lastDay(), per.unit());
            return crossed == FiscalCalendar.NONE ? Value.BLANK : Value.of(crossed + 1);
        }
        int units = 0;
        int last = FiscalCalendar.NONE;
        for (int day = window.firstDay(); day <= window.lastDay(); day++) {
            int unit = calendar.ordinal(per.unit(), day);
            if (kept(filters, day) && unit != FiscalCalendar.NONE && unit != last) {
                units++;
                last = unit;
            }
        }
        return Value.of(units);
    }
}
