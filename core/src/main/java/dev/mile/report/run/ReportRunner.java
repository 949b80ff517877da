package dev.mile.report.run;

import dev.mile.engine.TotalsRequest;
import dev.mile.report.GridSink;
import dev.mile.report.Report;
import dev.mile.report.axis.BlankKey;
import dev.mile.report.axis.MemberAxis;
import dev.mile.report.axis.ReportAxes;
import dev.mile.report.plan.CompiledReport;
import dev.mile.report.plan.MemberSource;
import dev.mile.report.plan.TotalsPlan;
import dev.mile.report.series.MemberReader;
import dev.mile.report.series.SeriesStore;
import dev.mile.report.series.TotalsReader;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.DoubleConsumer;

/**
 * Runs reports: compiles them, chooses how to run them, loads what they need, and hands over the header, then the rows, then the
 * notes. Not for use by several threads.
 */
public final class ReportRunner {
    /** Rows that are held outside a file; one of six values takes about a third of a KiB. */
    private static final int MAX_BUFFERED_ROWS = 100_000;

    private final ProjectData data;
    private final boolean withWindows;
    private final long maxHeldBytes;
    private final DoubleConsumer progress;

    /**
     * Returns a runner.
     *
     * @param withWindows whether each value is handed over with the days that it looked at
     * @param maxHeldBytes how many bytes the totals of a report may take at once; beyond it, a report that can be is evaluated one
     *     member at a time and its rows sorted afterwards; 0 to do so at once
     * @param progress receives the fraction of a report that is done, and 1 at its end
     */
    public ReportRunner(ProjectData data, boolean withWindows, long maxHeldBytes, DoubleConsumer progress) {
        this.data = data;
        this.withWindows = withWindows;
        this.maxHeldBytes = maxHeldBytes;
        this.progress = progress;
    }

    /**
     * Compiles a report.
     *
     * @throws dev.mile.MileException if it names something unknown
     */
    public CompiledReport compile(Report report) {
        return CompiledReport.compile(report, data.planningContext(report.calendar()));
    }

    /**
     * Compiles a report and runs it by itself.
     *
     * @return the report as it was compiled
     * @throws dev.mile.MileException if the report names something unknown, or data cannot be read
     */
    public CompiledReport run(Report report, GridSink sink) {
        CompiledReport compiled = compile(report);
        run(compiled, SharedPasses.NONE, sink);
        return compiled;
    }

    /**
     * Returns the passes that some reports share.
     *
     * @param reports the reports that will be run, each once
     */
    public SharedPasses passes(List<CompiledReport> reports) {
        return reports.size() < 2
                ? SharedPasses.NONE
                : new SharedPasses(reports.stream().map(ReportRunner::requests).toList(), maxHeldBytes);
    }

    /** Returns all that a report asks for, however it is run. */
    private static List<TotalsRequest> requests(CompiledReport compiled) {
        Set<Integer> numbers = heldRequests(compiled, Set.of());
        numbers.addAll(heldRequests(compiled, compiled.streamedRequests()));
        numbers.addAll(compiled.streamedRequests());
        return numbers.stream().map(compiled.totals().requests()::get).toList();
    }

    /**
     * Runs a report.
     *
     * @param passes what it shares with other reports
     * @throws dev.mile.MileException if data cannot be read
     */
    public void run(CompiledReport compiled, SharedPasses passes, GridSink sink) {
        ExecutionMode mode = ExecutionMode.choose(compiled, withWindows, maxHeldBytes);
        if (mode == ExecutionMode.HELD) {
            long limit = ExecutionMode.limit(compiled, withWindows, maxHeldBytes);
            Optional<SeriesStore> store = load(compiled, heldRequests(compiled, Set.of()), passes, limit, fraction -> {
                if (fraction < 1) {
                    progress.accept(fraction);
                }
            });
            if (store.isPresent()) {
                runHeld(compiled, store.get(), sink);
                progress.accept(1);
            } else {
                runStreamed(compiled, ExecutionMode.REORDERED, passes, sink);
            }
        } else {
            runStreamed(compiled, mode, passes, sink);
        }
        sink.notes(new ReportNotes(data, compiled).sentences());
    }

    // ---- what is loaded

    private Optional<SeriesStore> load(
            CompiledReport compiled, Set<Integer> requests, SharedPasses passes, long limit, DoubleConsumer loaded) {
        return SeriesStore.load(
                compiled.totals().layouts(),
                requests,
                request -> data.openTotals(compiled.totals(), request, passes),
                limit,
                loaded);
    }

    /** Returns the requests that are loaded before rows are evaluated: all that are needed, but those that are streamed. */
    private static Set<Integer> heldRequests(CompiledReport compiled, Set<Integer> streamed) {
        TotalsPlan totals = compiled.totals();
        Set<Integer> requests = new LinkedHashSet<>();
        for (int request = 0; request < totals.requests().size(); request++) {
            if (totals.isNeeded(request) || !streamed.isEmpty() && totals.isNeededForAllMembers(request)) {
                requests.add(request);
            }
        }
        if (hasMembers(compiled.axes())) {
            compiled.memberSources().forEach(source -> requests.add(compiled.requestOf(source.series())));
        }
        requests.removeAll(streamed);
        return requests;
    }

    private static boolean hasMembers(ReportAxes axes) {
        return axes.all().stream().anyMatch(MemberAxis.class::isInstance);
    }

    // ---- rows

    private void runHeld(CompiledReport compiled, SeriesStore store, GridSink sink) {
        ReportAxes axes = compiled.axes();
        Set<List<Object>> memberKeys = memberKeys(compiled, store);
        List<List<Object>> columnKeys = axes.columnKeys(memberKeys);
        sink.header(new GridHeaderBuilder(data, compiled).build(columnKeys));
        if (axes.rows().isEmpty() || !axes.timeKeys().isEmpty() && !memberKeys.isEmpty()) {
            RowTree rows = rows(compiled, store, false, new RowCells(compiled, columnKeys));
            rows.emitAll(MemberTree.of(axes, memberKeys), rows.hasTotals(0), sink::row);
        }
    }

    private void runStreamed(CompiledReport compiled, ExecutionMode mode, SharedPasses passes, GridSink sink) {
        ReportAxes axes = compiled.axes();
        Set<Integer> streamed = compiled.streamedRequests();
        SeriesStore store = load(compiled, heldRequests(compiled, streamed), passes, Long.MAX_VALUE, fraction -> {})
                .orElseThrow();
        List<List<Object>> columnKeys = axes.columnKeys(List.of(axes.noMembers()));
        sink.header(new GridHeaderBuilder(data, compiled).build(columnKeys));
        RowCells cells = new RowCells(compiled, columnKeys);
        try (MemberReader members = openMemberReader(compiled, store, streamed, passes)) {
            if (mode == ExecutionMode.REORDERED) {
                runReordered(compiled, store, members, cells, sink);
            } else {
                runInOrder(compiled, store, members, cells, sink);
            }
        }
    }

    private MemberReader openMemberReader(
            CompiledReport compiled, SeriesStore store, Set<Integer> requests, SharedPasses passes) {
        Map<Integer, TotalsReader> readers = new LinkedHashMap<>();
        try {
            requests.forEach(request -> readers.put(request, data.openTotals(compiled.totals(), request, passes)));
            return new MemberReader(store, readers, progress);
        } catch (RuntimeException e) {
            readers.values().forEach(TotalsReader::close);
            throw e;
        }
    }

    private void runInOrder(
            CompiledReport compiled, SeriesStore store, MemberReader members, RowCells cells, GridSink sink) {
        boolean total = true;
        while (members.next()) {
            Set<List<Object>> memberKeys = memberKeys(compiled, store);
            if (!compiled.axes().timeKeys().isEmpty() && !memberKeys.isEmpty()) {
                RowTree rows = rows(compiled, store, true, cells);
                boolean shown =
                        rows.emitAll(MemberTree.of(compiled.axes(), memberKeys), total && rows.hasTotals(0), sink::row);
                total &= !shown;
            }
        }
    }

    private void runReordered(
            CompiledReport compiled, SeriesStore store, MemberReader members, RowCells cells, GridSink sink) {
        int leading = compiled.streaming().orElseThrow().leadingTimeAxes();
        ReportAxes axes = compiled.axes();
        try (ExternalRowSorter sorter =
                new ExternalRowSorter(MAX_BUFFERED_ROWS, RowTree.valueOrder(compiled.report()))) {
            while (members.next()) {
                Set<List<Object>> memberKeys = memberKeys(compiled, store);
                if (!axes.timeKeys().isEmpty() && !memberKeys.isEmpty()) {
                    rows(compiled, store, true, cells).collect(MemberTree.of(axes, memberKeys), leading, sorter);
                }
            }
            rows(compiled, store, true, cells)
                    .emitCollected(MemberTree.of(axes, List.of()), leading, sorter, sink::row);
        }
    }

    private RowTree rows(CompiledReport compiled, SeriesStore store, boolean streamed, RowCells cells) {
        return new RowTree(compiled, new RowEvaluator(compiled.columns(), store, streamed), cells, withWindows);
    }

    /** Returns the combinations of members that occur in some fact of the report, among the groups that the store has now. */
    private static Set<List<Object>> memberKeys(CompiledReport compiled, SeriesStore store) {
        ReportAxes axes = compiled.axes();
        Set<List<Object>> keys = new LinkedHashSet<>();
        if (!hasMembers(axes)) {
            keys.add(axes.noMembers());
            return keys;
        }
        for (MemberSource source : compiled.memberSources()) {
            for (String[] group : store.members(source.series())) {
                Object[] key = new Object[source.columns().size()];
                for (int i = 0; i < key.length; i++) {
                    int column = source.columns().get(i);
                    String member = column < 0 ? null : group[column];
                    key[i] = column >= 0 && member == null ? BlankKey.BLANK : member;
                }
                keys.add(Arrays.asList(key));
            }
        }
        return keys;
    }
}
