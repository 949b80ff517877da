package dev.mile.report.run;

import dev.mile.calendar.DateRange;
import dev.mile.engine.BucketingCursor;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.DayBuckets;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.RowExpression.Operand;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Answers the requests of several reports by one pass over a fact where they differ in nothing but their totals and the days that
 * they take together. What a pass answers is held until the last report has read it, unless it takes too much memory: then each
 * report asks for itself. Not for use by several threads.
 */
public final class SharedPasses {
    /** Nothing is shared. */
    public static final SharedPasses NONE = new SharedPasses(List.of(), 0);

    /** What requests of one pass have in common. */
    private record Subject(String fact, String role, DateRange days, List<Operand.Field> groups) {
        static Subject of(TotalsRequest request) {
            return new Subject(request.fact(), request.role(), request.days(), request.groups());
        }
    }

    /** A request that is asked once, and how often it will still be read. */
    private static final class Pass {
        final TotalsRequest request;
        int readers;

        @Nullable
        List<GroupTotals> groups;

        Map<RoleAccounts.RowOutcome, Long> outcomes = Map.of();

        Pass(List<TotalsRequest> requests) {
            request = union(requests);
            readers = requests.size();
        }
    }

    private final Map<Subject, Pass> passes = new LinkedHashMap<>();
    private final long maxHeldBytes;

    /**
     * Returns the passes of some reports.
     *
     * @param reports the requests that each report will read
     * @param maxHeldBytes about how many bytes the answer of a pass may take
     */
    SharedPasses(List<List<TotalsRequest>> reports, long maxHeldBytes) {
        this.maxHeldBytes = maxHeldBytes;
        Map<Subject, List<TotalsRequest>> bySubject = new LinkedHashMap<>();
        reports.forEach(report -> report.forEach(request -> bySubject
                .computeIfAbsent(Subject.of(request), s -> new ArrayList<>())
                .add(request)));
        bySubject.forEach((subject, requests) -> {
            if (requests.size() > 1) {
                passes.put(subject, new Pass(requests));
            }
        });
    }

    private static TotalsRequest union(List<TotalsRequest> requests) {
        Set<TotalColumn> columns = new LinkedHashSet<>();
        Set<Integer> boundaries = new HashSet<>();
        boolean daily = false;
        for (TotalsRequest request : requests) {
            columns.addAll(request.columns());
            daily |= request.buckets().isDaily();
            for (int day : request.buckets().firstEpochDays()) {
                boundaries.add(day);
            }
        }
        TotalsRequest any = requests.get(0);
        return new TotalsRequest(
                any.fact(),
                any.role(),
                any.days(),
                daily ? DayBuckets.DAILY : DayBuckets.of(any.days(), boundaries),
                any.groups(),
                List.copyOf(columns));
    }

    /**
     * Returns the totals of a request.
     *
     * @param engine answers requests
     */
    TotalsCursor totals(TotalsRequest request, Function<TotalsRequest, TotalsCursor> engine) {
        Pass pass = passes.get(Subject.of(request));
        if (pass == null || pass.readers == 0 || !pass.request.columns().containsAll(request.columns())) {
            return engine.apply(request);
        }
        if (pass.groups == null && !read(pass, engine)) {
            passes.remove(Subject.of(request));
            return engine.apply(request);
        }
        List<GroupTotals> groups = Optional.ofNullable(pass.groups).orElseThrow();
        pass.readers--;
        if (pass.readers == 0) {
            pass.groups = null;
        }
        return new BucketingCursor(new Selection(pass, groups, request.columns()), request);
    }

    private boolean read(Pass pass, Function<TotalsRequest, TotalsCursor> engine) {
        List<GroupTotals> groups = new ArrayList<>();
        long bytes = 0;
        try (TotalsCursor cursor = engine.apply(pass.request)) {
            for (GroupTotals group = cursor.next(); group != null; group = cursor.next()) {
                groups.add(group);
                bytes += (long) group.days().length * Long.BYTES * (1 + group.values().length);
                if (bytes > maxHeldBytes) {
                    return false;
                }
            }
            pass.outcomes = cursor.rowOutcomes();
        }
        pass.groups = groups;
        return true;
    }

    /** The columns of one request among those of its pass; groups without a row in them are passed over by who reads them. */
    private static final class Selection implements TotalsCursor {
        private final List<GroupTotals> groups;
        private final Map<RoleAccounts.RowOutcome, Long> outcomes;
        private final int[] at;
        private int next;

        Selection(Pass pass, List<GroupTotals> groups, List<TotalColumn> columns) {
            this.groups = groups;
            this.outcomes = pass.outcomes;
            this.at = columns.stream()
                    .mapToInt(column -> pass.request.columns().indexOf(column))
                    .toArray();
        }

        @Override
        public @Nullable GroupTotals next() {
            if (next == groups.size()) {
                return null;
            }
            GroupTotals group = groups.get(next++);
            DailyTotals[] values = new DailyTotals[at.length];
            for (int c = 0; c < at.length; c++) {
                values[c] = group.values()[at[c]];
            }
            return new GroupTotals(group.members(), group.days(), values);
        }

        @Override
        public Map<RoleAccounts.RowOutcome, Long> rowOutcomes() {
            return outcomes;
        }

        @Override
        public double progress() {
            return next / (double) groups.size();
        }

        @Override
        public void close() {
            next = groups.size();
        }
    }
}
