package dev.mile.report.run;

import dev.mile.calendar.DateRange;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Fact;
import dev.mile.fact.Link;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.internal.EpochDays;
import dev.mile.internal.LocalFormat;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.report.plan.PlanNode;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Says where {@code first} and {@code last} leave members out: they take the rows of one day, and a shop that was counted on another
 * is not among them.
 */
final class BalanceNotes {
    /** How many windows of members are looked at for one figure at most; a report should not wait longer for a note. */
    private static final long MOST_WINDOWS_OF_MEMBERS = 10_000_000;

    private final ProjectData data;
    private final boolean totals;
    private final Function<PlanNode.AggregateNode, Stream<DateRange>> windowsOf;

    /**
     * Returns the notes of a report.
     *
     * @param totals whether a row of all members is shown
     * @param windowsOf the windows of an aggregate in all cells
     */
    BalanceNotes(ProjectData data, boolean totals, Function<PlanNode.AggregateNode, Stream<DateRange>> windowsOf) {
        this.data = data;
        this.totals = totals;
        this.windowsOf = windowsOf;
    }

    /** Returns the notes on some aggregates, each once. */
    List<String> sentences(List<PlanNode.AggregateNode> aggregates) {
        Set<String> sentences = new LinkedHashSet<>();
        for (PlanNode.AggregateNode aggregate : aggregates) {
            Fact fact = data.project().facts().get(aggregate.series().fact());
            boolean ofOneDay = aggregate.aggregation() == Measure.Aggregation.FIRST
                    || aggregate.aggregation() == Measure.Aggregation.LAST;
            if (ofOneDay
                    && aggregate.alwaysBlankBecause().isEmpty()
                    && fact.grain().isEmpty()) {
                List<DateRange> windows = windows(aggregate, fact);
                if (!windows.isEmpty()) {
                    fact.linksAtAnyDepth(data.project().lookups()).stream()
                            .filter(link -> link.path().size() == 1)
                            .forEach(link -> sentence(aggregate, link, windows).ifPresent(sentences::add));
                }
            }
        }
        return List.copyOf(sentences);
    }

    private List<DateRange> windows(PlanNode.AggregateNode aggregate, Fact fact) {
        int last = data.dayContext().lastDayThatCounts(fact);
        DateRange dimension = data.dimension().range();
        return windowsOf
                .apply(aggregate)
                .map(window -> window.intersect(dimension).notAfter(last))
                .filter(window -> !window.isEmpty())
                .distinct()
                .toList();
    }

    private Optional<String> sentence(PlanNode.AggregateNode aggregate, Link link, List<DateRange> windows) {
        List<Operand.Field> groups = new ArrayList<>();
        aggregate.memberBindings().values().stream()
                .filter(binding -> !totals || binding.scope() != PlanNode.MemberBinding.ROW)
                .map(PlanNode.MemberBinding::field)
                .distinct()
                .forEach(groups::add);
        if (groups.contains(link.key())) {
            return Optional.empty();
        }
        int split = groups.size();
        groups.add(link.key());
        DateRange days = windows.stream().reduce(DateRange.EMPTY, DateRange::hull);
        TotalsRequest request = TotalsRequest.daily(
                aggregate.series().fact(),
                aggregate.series().role(),
                days,
                groups,
                List.of(new TotalColumn(
                        TotalColumn.Kind.ROWS,
                        Optional.empty(),
                        aggregate.series().where())));
        boolean last = aggregate.aggregation() == Measure.Aggregation.LAST;
        @Nullable LeftOut latest = null;
        try (TotalsCursor cursor = data.totals(request)) {
            List<GroupTotals> together = new ArrayList<>();
            long looked = 0;
            for (GroupTotals group = cursor.next(); group != null; group = cursor.next()) {
                looked += windows.size();
                if (looked > MOST_WINDOWS_OF_MEMBERS) {
                    return Optional.of(Messages.format(
                            "%s is of one day in each window; there are too many members of %s to see which of them it leaves out.",
                            aggregate, link.name()));
                }
                if (!together.isEmpty() && !isSameRow(together.get(0), group, split)) {
                    latest = later(latest, leftOut(together, windows, last));
                    together.clear();
                }
                together.add(group);
            }
            latest = later(latest, leftOut(together, windows, last));
        }
        return Optional.ofNullable(latest).map(found -> found.sentence(aggregate, link, last, data.local()));
    }

    private static boolean isSameRow(GroupTotals a, GroupTotals b, int split) {
        return Arrays.equals(a.members(), 0, split, b.members(), 0, split);
    }

    private static @Nullable LeftOut later(@Nullable LeftOut a, @Nullable LeftOut b) {
        return a == null || b != null && b.window().lastEpochDay() > a.window().lastEpochDay() ? b : a;
    }

    /** Returns the latest window in which not all members that have rows have them on the day that counts; null if there is none. */
    private static @Nullable LeftOut leftOut(List<GroupTotals> members, List<DateRange> windows, boolean last) {
        @Nullable LeftOut latest = null;
        for (DateRange window : windows) {
            Comparator<Integer> order = last ? Comparator.reverseOrder() : Comparator.naturalOrder();
            TreeMap<Integer, List<GroupTotals>> byDay = new TreeMap<>(order);
            for (GroupTotals member : members) {
                OptionalInt day = day(member.days(), window, last);
                if (day.isPresent()) {
                    byDay.computeIfAbsent(day.getAsInt(), d -> new ArrayList<>())
                            .add(member);
                }
            }
            if (byDay.size() > 1) {
                int found = byDay.values().stream().mapToInt(List::size).sum();
                int counted = byDay.firstEntry().getValue().size();
                String[] example = byDay.lastEntry().getValue().get(0).members();
                latest = later(
                        latest,
                        new LeftOut(window, byDay.firstKey(), found, found - counted, example[example.length - 1]));
            }
        }
        return latest;
    }

    /** Returns the last or first of the days that lies in the window. */
    private static OptionalInt day(int[] days, DateRange window, boolean last) {
        int from = indexFrom(days, window.firstEpochDay());
        int to = indexFrom(days, window.lastEpochDay() + 1);
        return from == to ? OptionalInt.empty() : OptionalInt.of(days[last ? to - 1 : from]);
    }

    private static int indexFrom(int[] days, int day) {
        int found = Arrays.binarySearch(days, day);
        return found < 0 ? -found - 1 : found;
    }

    /**
     * A window in which members are left out.
     *
     * @param window the window
     * @param day the day whose rows count
     * @param members how many members have rows in it
     * @param leftOut how many of them have none on the day
     * @param example one of these; null for a blank key
     */
    private record LeftOut(DateRange window, int day, int members, int leftOut, @Nullable String example) {
        String sentence(PlanNode.AggregateNode aggregate, Link link, boolean last, LocalFormat local) {
            return Messages.format(
                    "%s is of one day: from %s of %s, which leaves out %d of %d members of %s, whose %s, such as '%s'; `each %s` takes"
                            + " the %s of each.",
                    aggregate,
                    local.range(window.first(), window.last()),
                    local.date(EpochDays.toDate(day)),
                    leftOut,
                    members,
                    link.name(),
                    last ? "last rows are earlier" : "first rows are later",
                    example == null ? "" : example,
                    link.name(),
                    last ? "last" : "first");
        }
    }
}
