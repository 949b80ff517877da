package dev.mile.report.plan;

import dev.mile.calendar.DateRange;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.axis.MemberAxis;
import dev.mile.report.axis.ReportAxes;
import dev.mile.report.axis.TimeCell;
import java.io.Serializable;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A report compiled: its axes, what it shows, where its aggregates look, and what is asked of an engine. Immutable, and the same
 * whether one machine runs it or many.
 *
 * <p>Serializable: what machines need to evaluate rows goes with it. What only the machine needs that asks the engine and words the
 * report (plans, requests, the resolver of windows) stays behind.
 */
public final class CompiledReport implements Serializable {
    private static final long serialVersionUID = 1L;

    private final transient Report report;
    private final transient ReportPlan plan;
    private final transient CompiledMeasures measures;
    private final transient WindowResolver resolver;
    private final ReportAxes axes;
    private final List<CompiledColumn> columns;
    private final @Nullable CompiledMeasure sort;
    private final @Nullable CompiledMeasure top;
    private final WindowTable windows;
    private final TotalsPlan totals;
    private final List<MemberSource> memberSources;
    private final @Nullable StreamingPlan streaming;
    private final boolean keepEmpty;

    /**
     * Compiles a report: looks names up, resolves windows to days, gathers what is asked of the engine.
     *
     * @throws dev.mile.MileException if it names what is not there, or what it asks makes no sense
     */
    public static CompiledReport compile(Report report, PlanningContext context) {
        Project project = context.project();
        ReportAxes axes = ReportAxes.of(report, context.spans(), context.dimension(), context.names());
        ReportPlan plan = new MeasurePlanner(context.names(), project, axes.dimensions(), report.where()).plan(report);
        return new CompiledReport(report, axes, plan, context);
    }

    private CompiledReport(Report report, ReportAxes axes, ReportPlan plan, PlanningContext context) {
        this.report = report;
        this.axes = axes;
        this.plan = plan;
        List<PlanNode.AggregateNode> aggregates = ReportPlan.aggregates(plan.all());
        Optional<StreamingPlan> streamed = StreamingPlan.of(report, axes, aggregates);
        this.streaming = streamed.orElse(null);
        this.measures = MeasureCompiler.compile(plan.all(), streamed);
        this.columns = plan.columns().stream().map(this::compiled).toList();
        this.sort = plan.sort().map(measures::of).orElse(null);
        this.top = plan.top().map(measures::of).orElse(null);
        this.resolver = new WindowResolver(context);
        WindowTable resolved = WindowTable.resolve(measures, axes.timeCells(), resolver);
        this.totals = TotalsPlan.of(measures, resolved, top != null && !restRowIsByMember(axes), context);
        this.windows = resolved.alignedTo(totals.bucketsByAggregate());
        this.memberSources = MemberSource.of(axes, ReportPlan.aggregates(plan.shown()), measures);
        this.keepEmpty = report.keepEmpty();
    }

    private CompiledColumn compiled(PlannedColumn column) {
        return new CompiledColumn(
                measures.of(column.value()),
                column.goal().map(goal -> measures.of(goal.against())).orElse(null),
                column.goal().map(goal -> goal.target().bands()).orElse(null));
    }

    /** Returns whether rows that `top` leaves out are members, not days, whose windows are known only when rows are ranked. */
    private static boolean restRowIsByMember(ReportAxes axes) {
        int rows = axes.rows().size();
        return rows > 0 && axes.rows().get(rows - 1) instanceof MemberAxis;
    }

    /** Returns the report; known where it was compiled. */
    public Report report() {
        return report;
    }

    /** Returns the plans of what it shows; known where it was compiled. */
    public ReportPlan plan() {
        return plan;
    }

    /** Returns its rows and columns. */
    public ReportAxes axes() {
        return axes;
    }

    /** Returns what it shows. */
    public List<CompiledColumn> columns() {
        return columns;
    }

    /** Returns how many columns of the grid there are for one key of the columns. */
    public int width() {
        return columns.stream()
                .mapToInt(column -> column.goal() == null ? 1 : 3)
                .sum();
    }

    /** Returns what rows are sorted by. */
    public Optional<CompiledMeasure> sort() {
        return Optional.ofNullable(sort);
    }

    /** Returns what the first rows are chosen by. */
    public Optional<CompiledMeasure> top() {
        return Optional.ofNullable(top);
    }

    /** Returns the windows of a cell. */
    public CellWindows windows(TimeCell cell) {
        return windows.of(cell);
    }

    /** Returns the windows of a cell that is known only now, such as the rest that `top` leaves out; where it was compiled. */
    public CellWindows resolve(TimeCell cell) {
        return resolver.resolve(measures, cell);
    }

    /** Returns the days that an aggregate or a day count looks at in a cell; where it was compiled. */
    public DateRange window(PlanNode.WindowSpec spec, TimeCell cell) {
        return resolver.window(spec, cell);
    }

    /** Returns what is asked of an engine. */
    public TotalsPlan totals() {
        return totals;
    }

    /** Returns the series whose groups show which members have rows. */
    public List<MemberSource> memberSources() {
        return memberSources;
    }

    /** Returns how its groups can be evaluated while they come. */
    public Optional<StreamingPlan> streaming() {
        return Optional.ofNullable(streaming);
    }

    /** Returns the requests whose groups come one member at a time; where it was compiled. */
    public Set<Integer> streamedRequests() {
        Set<Integer> requests = new LinkedHashSet<>();
        for (PlanNode.AggregateNode aggregate : ReportPlan.aggregates(plan.all())) {
            if (streaming != null && StreamingPlan.readsRowMember(aggregate, streaming.dimension())) {
                requests.add(requestOf(measures.of(aggregate).binding().series()));
            }
        }
        return requests;
    }

    /** Returns the request that the totals of a series come with. */
    public int requestOf(int series) {
        return totals.layouts().get(series).request();
    }

    /** Returns whether rows for which nothing was found stay. */
    public boolean keepsEmpty() {
        return keepEmpty;
    }

    /** Returns the aggregates that it shows; where it was compiled. */
    public List<PlanNode.AggregateNode> shownAggregates() {
        return ReportPlan.aggregates(plan.shown());
    }

    /** Returns the compiled aggregate of a node; where it was compiled. */
    public CompiledMeasure.Aggregate compiled(PlanNode.AggregateNode node) {
        return measures.of(node);
    }
}
