package dev.mile.report.run;

import dev.mile.ModelException;
import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import dev.mile.report.Explanation;
import dev.mile.report.Report;
import dev.mile.report.ReportExplanation;
import dev.mile.report.axis.AttributeAxis;
import dev.mile.report.axis.Axis;
import dev.mile.report.axis.ReportAxes;
import dev.mile.report.axis.TimeCell;
import dev.mile.report.plan.CompiledFigures;
import dev.mile.report.plan.CompiledMeasure;
import dev.mile.report.plan.MeasurePlanner;
import dev.mile.report.plan.PlanNode;
import dev.mile.report.plan.PlannedColumn;
import dev.mile.report.plan.PlanningContext;
import dev.mile.report.plan.ReportPlan;
import dev.mile.report.series.SeriesStore;
import dev.mile.span.SpanContext;
import dev.mile.workday.WorkingWeek;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** Explains one figure. Not for use by several threads. */
public final class Explainer {
    private static final int MAX_OPERANDS = 2_000;

    private final ProjectData data;
    private final SpanContext spans;
    private final Optional<WorkingWeek> week;

    /** What was compiled for one explanation. */
    private record Figure(CompiledFigures compiled, TimeCell cell) {}

    /**
     * Returns an explainer.
     *
     * @param calendar the calendar of steps that name none; empty for the first
     */
    public Explainer(ProjectData data, Optional<String> calendar) {
        this.data = data;
        this.spans = data.spanContext(calendar);
        this.week = data.project().workingWeeks().values().stream().findFirst();
    }

    /**
     * Explains the figure of a measure in a period.
     *
     * @param text how the measure was asked for
     * @param at the label of the period, or a date
     * @param where the rows that count; empty for all
     * @throws dev.mile.MileException if a name or the period is unknown
     */
    public Explanation explain(String text, Measure measure, String at, Optional<Condition> where) {
        PlanNode plan = new MeasurePlanner(data.names(), data.project(), List.of(), where).plan(measure);
        if (operands(plan, new IdentityHashMap<>()) > MAX_OPERANDS) {
            throw ModelException.of(
                    "`%s` is made of more than %,d operands; explain the measures that it names", text, MAX_OPERANDS);
        }
        CalendarPeriod period = spans.period(at);
        TimeCell cell = new TimeCell(0, period.range(), List.of(), period.level());
        CompiledFigures compiled = CompiledFigures.compile(List.of(plan), List.of(cell), context());
        RowEvaluator evaluator = evaluator(compiled);
        Figure figure = new Figure(compiled, cell);
        return explanation(text, period.label(), plan, figure, evaluator, notes(plan, figure));
    }

    private PlanningContext context() {
        return data.planningContext(Optional.of(spans.defaultCalendar()));
    }

    private RowEvaluator evaluator(CompiledFigures compiled) {
        Set<Integer> requests = new TreeSet<>();
        IntStream.range(0, compiled.totals().requests().size()).forEach(requests::add);
        SeriesStore store = SeriesStore.load(
                        compiled.totals().layouts(),
                        requests,
                        request -> data.openTotals(compiled.totals(), request, SharedPasses.NONE),
                        Long.MAX_VALUE,
                        fraction -> {})
                .orElseThrow();
        return new RowEvaluator(List.of(), store, false);
    }

    private Explanation explanation(
            String text, String label, PlanNode plan, Figure figure, RowEvaluator evaluator, List<String> notes) {
        CellContext context = evaluator.context(figure.compiled().windows(figure.cell()), evaluator.totalsOf(Map.of()));
        return new Explanation(text, label, figure.cell().days(), data.asOf(), explain(plan, figure, context), notes);
    }

    /**
     * Explains what a report shows, once for each measure and period, of all members together.
     *
     * @param mostFigures how many measures and periods there may be
     * @return the explanations; empty if there are more
     * @throws dev.mile.MileException if a name is unknown
     */
    public Optional<ReportExplanation> explain(Report report, int mostFigures) {
        ReportAxes axes = ReportAxes.of(report, spans, data.dimension(), data.names());
        List<String> attributes = axes.all().stream()
                .filter(AttributeAxis.class::isInstance)
                .map(Axis::name)
                .toList();
        List<PlannedColumn> columns = new MeasurePlanner(data.names(), data.project(), attributes, report.where())
                .plan(report)
                .columns();
        List<PlanNode> shown = new ArrayList<>();
        List<String> names = new ArrayList<>();
        for (PlannedColumn column : columns) {
            shown.add(column.value());
            names.add(column.definition().title());
            column.goal().ifPresent(goal -> {
                shown.add(goal.against());
                names.add(goal.target().against().toString());
                // the status is of the value
                shown.add(column.value());
                names.add(column.definition().title());
            });
        }
        Map<PlanNode, Integer> operands = new IdentityHashMap<>();
        if (shown.stream().anyMatch(plan -> operands(plan, operands) > MAX_OPERANDS)) {
            return Optional.empty();
        }
        List<TimeCell> cells = axes.timeCells();
        if ((long) cells.size() * shown.size() > mostFigures) {
            return Optional.empty();
        }
        CompiledFigures compiled = CompiledFigures.compile(shown, cells, context());
        RowEvaluator evaluator = evaluator(compiled);
        Map<TimeCell, List<Explanation>> byCell = new HashMap<>();
        for (TimeCell cell : cells) {
            if (axes.cellExists(cell)) {
                Figure figure = new Figure(compiled, cell);
                byCell.put(
                        cell,
                        IntStream.range(0, shown.size())
                                .mapToObj(
                                        i -> explanation(names.get(i), "", shown.get(i), figure, evaluator, List.of()))
                                .toList());
            }
        }
        return Optional.of(new ReportExplanation(axes.timesOfRows(byCell), shown.size()));
    }

    /** Says which rows never count, and which members a balance leaves out. */
    private List<String> notes(PlanNode plan, Figure figure) {
        List<PlanNode.AggregateNode> aggregates = ReportPlan.aggregates(List.of(plan));
        List<String> notes = new ArrayList<>(new BalanceNotes(
                        data, true, aggregate -> Stream.of(figure.compiled().window(aggregate.window(), figure.cell())))
                .sentences(aggregates));
        aggregates.stream()
                .map(PlanNode.AggregateNode::series)
                .map(series -> List.of(series.fact(), series.role()))
                .distinct()
                .filter(dated -> data.hasRowsAfterAsOf(data.project().facts().get(dated.get(0)), dated.get(1)))
                .forEach(dated ->
                        notes.add(AccountsText.afterAsOf(data.accounts(dated.get(0)), dated.get(1), data.local())));
        return notes;
    }

    /** Returns how many operands an explanation of a plan shows, each as often as it is used; one more than it may where there are more. */
    private static int operands(PlanNode node, Map<PlanNode, Integer> known) {
        Integer count = known.get(node);
        if (count == null) {
            count = 1;
            for (PlanNode part : node.parts()) {
                count = Math.min(MAX_OPERANDS + 1, count + operands(part, known));
            }
            known.put(node, count);
        }
        return count;
    }

    private Explanation.Operand explain(PlanNode node, Figure figure, CellContext context) {
        Value value = figure.compiled().compiled(node).evaluate(context);
        if (node instanceof PlanNode.AggregateNode aggregate) {
            return aggregate(aggregate, figure, context, value);
        }
        if (node instanceof PlanNode.DayCount count) {
            DateRange window = figure.compiled().window(count.window(), figure.cell());
            return new Explanation.Operand(
                    count.toString(),
                    value,
                    value.isBlank()
                            ? emptyWindowReason(count.window(), figure.cell(), window)
                                    .map(why -> "unknown: " + why)
                            : Optional.empty(),
                    Optional.empty(),
                    0,
                    steps(count.window(), figure.cell()),
                    List.of());
        }
        if (node instanceof PlanNode.Arithmetic a) {
            Explanation.Operand left = explain(a.left(), figure, context);
            Explanation.Operand right = explain(a.right(), figure, context);
            String words =
                    switch (a.sign()) {
                        case PLUS -> "sum";
                        case MINUS -> "difference";
                        case TIMES -> "product";
                        case DIVIDED_BY -> "quotient";
                    };
            return composite(words, value, blankReason(a.sign(), left.value(), right.value()), List.of(left, right));
        }
        if (node instanceof PlanNode.Negated n) {
            return composite(
                    "with the other sign",
                    value,
                    kind(value) + ", as what it is made of",
                    List.of(explain(n.of(), figure, context)));
        }
        if (node instanceof PlanNode.OrElse o) {
            return composite(
                    "or " + o.otherwise() + " for nothing and undefined",
                    value,
                    "unknown, for which no number stands in",
                    List.of(explain(o.of(), figure, context)));
        }
        if (node instanceof PlanNode.Sum s) {
            return composite(
                    "up to the as-of date, then after it",
                    value,
                    kind(value) + ": neither side has a number",
                    List.of(explain(s.actual(), figure, context), explain(s.after(), figure, context)));
        }
        if (node instanceof PlanNode.OnlyAt only) {
            boolean coarser = context.finestLevel()
                    .map(finest -> finest.isCoarserThan(only.level()))
                    .orElse(true);
            return composite(
                    "only at " + only.level().word(),
                    value,
                    coarser
                            ? "unknown: the cell is coarser than a "
                                    + only.level().word()
                            : kind(value) + ", as what it is made of",
                    List.of(explain(only.of(), figure, context)));
        }
        if (node instanceof PlanNode.Each each) {
            return loop(each, figure, context, value);
        }
        return composite("number", value, "", List.of());
    }

    private Explanation.Operand loop(PlanNode.Each each, Figure figure, CellContext context, Value value) {
        List<Explanation.Operand> members = new ArrayList<>();
        CompiledMeasure.Each loop =
                (CompiledMeasure.Each) figure.compiled().compiled(each).unshared();
        for (String member : context.members(loop)) {
            if (each.with().isPresent()
                    && figure.compiled()
                            .compiled(each.with().get())
                            .evaluate(context.withMember(each.id(), member))
                            .isBlank()) {
                continue;
            }
            Explanation.Operand one = explain(each.of(), figure, context.withMember(each.id(), member));
            members.add(composite(
                    each.dimension() + " " + (member == null ? "(blank)" : member),
                    one.value(),
                    one.reason().orElse(""),
                    List.of(one)));
        }
        return composite(
                "added over each " + each.dimension(), value, kind(value) + ": no member has a number", members);
    }

    private static Explanation.Operand composite(
            String text, Value value, String blankReason, List<Explanation.Operand> operands) {
        return new Explanation.Operand(
                text,
                value,
                value.isBlank() && !blankReason.isEmpty() ? Optional.of(blankReason) : Optional.empty(),
                Optional.empty(),
                0,
                List.of(),
                operands);
    }

    private static String blankReason(RowExpression.Sign sign, Value left, Value right) {
        boolean divided = sign == RowExpression.Sign.DIVIDED_BY;
        for (Value kind : List.of(Value.UNKNOWN, Value.UNDEFINED)) {
            if (left.equals(kind) || right.equals(kind)) {
                String side = left.equals(right)
                        ? "both sides are "
                        : left.equals(kind) ? "its first side is " : "its second side is ";
                return kind(kind) + ": " + side + kind(kind);
            }
        }
        if (divided && right.isNothing()) {
            return "undefined: a division by nothing";
        }
        if (divided && !right.isBlank() && !left.isBlank()) {
            return "undefined: a division by zero";
        }
        return divided || sign == RowExpression.Sign.TIMES
                ? "nothing: one side is nothing"
                : "nothing: both sides are nothing";
    }

    /** Returns the kind of a blank in words. */
    private static String kind(Value blank) {
        return blank.isNothing() ? "nothing" : blank.equals(Value.UNKNOWN) ? "unknown" : "undefined";
    }

    private List<Explanation.StepResult> steps(PlanNode.WindowSpec spec, TimeCell cell) {
        List<Explanation.StepResult> steps = new ArrayList<>();
        steps.add(stepResult("the cell", cell.days()));
        DateRange days = cell.days();
        if (spec.cutAtAsOf() && days.lastEpochDay() > spans.asOf()) {
            days = days.notAfter(spans.asOf());
            steps.add(stepResult("cut at the as-of date", days));
        }
        if (days.isEmpty()) {
            return steps;
        }
        List<DateRange> windows = spec.span().trace(days, spans);
        for (int i = 0; i < windows.size(); i++) {
            steps.add(stepResult(spec.span().steps().get(i).toString(), windows.get(i)));
        }
        return steps;
    }

    private Explanation.StepResult stepResult(String step, DateRange days) {
        return new Explanation.StepResult(step, days, week.map(w -> w.workingDaysIn(days)));
    }

    private Explanation.Operand aggregate(
            PlanNode.AggregateNode aggregate, Figure figure, CellContext context, Value value) {
        boolean alwaysBlank = aggregate.alwaysBlankBecause().isPresent();
        DateRange window = alwaysBlank ? DateRange.EMPTY : figure.compiled().window(aggregate.window(), figure.cell());
        long rows = window.isEmpty()
                ? 0
                : context.rowsBetween(
                        figure.compiled().compiled(aggregate), window.firstEpochDay(), window.lastEpochDay());
        String source = aggregate.series().fact() + " by " + aggregate.series().role()
                + aggregate.series().where().map(w -> " where " + w).orElse("");
        return new Explanation.Operand(
                aggregate.toString(),
                value,
                value.isBlank()
                        ? Optional.of(blankReason(aggregate, figure.cell(), window, rows, value))
                        : Optional.empty(),
                Optional.of(source),
                rows,
                steps(aggregate.window(), figure.cell()),
                List.of());
    }

    private String blankReason(
            PlanNode.AggregateNode aggregate, TimeCell cell, DateRange window, long rows, Value value) {
        if (aggregate.alwaysBlankBecause().isPresent()) {
            return "unknown: " + aggregate.alwaysBlankBecause().get();
        }
        if (window.isEmpty()) {
            return "unknown: "
                    + emptyWindowReason(aggregate.window(), cell, window).orElse("");
        }
        String dated = aggregate.series().fact() + " by " + aggregate.series().role();
        DateRange covered =
                data.coverage(aggregate.series().fact(), aggregate.series().role());
        if (value.equals(Value.UNKNOWN)) {
            return coverageReason(aggregate, window, covered, dated);
        }
        if (value.isNothing()) {
            return rows > 0
                    ? "nothing: the rows found there have no value"
                    : Messages.format(
                            "nothing: no rows of %s from %s",
                            dated, data.local().range(window.first(), window.last()));
        }
        return rows > 0 ? "undefined: the rows found there have no value" : "undefined: no rows to take it of";
    }

    /** Says which day is missing, and what would mend it. */
    private String coverageReason(PlanNode.AggregateNode aggregate, DateRange window, DateRange covered, String dated) {
        String fact = aggregate.series().fact();
        if (covered.isEmpty()) {
            return Messages.format("unknown: %s covers no day", dated);
        }
        boolean before = window.firstEpochDay() < covered.firstEpochDay();
        LocalDate missing = before
                ? window.first()
                : EpochDays.toDate(Math.max(window.firstEpochDay(), covered.lastEpochDay() + 1));
        String remedy = before
                ? Messages.format(
                        "if its rows are complete from %s on, say `covers: {from: %s}` at the fact",
                        data.local().date(missing), missing)
                : Messages.format("its days end on %s", data.local().date(covered.last()));
        boolean whole = aggregate.needsWhole() && !window.intersect(covered).isEmpty();
        return Messages.format(
                "unknown: %s covers %s, so %s is missing; %s%s",
                dated,
                data.local().range(covered.first(), covered.last()),
                data.local().date(missing),
                remedy,
                whole ? ", or say `if any` for a figure of the days that " + fact + " covers" : "");
    }

    private Optional<String> emptyWindowReason(PlanNode.WindowSpec spec, TimeCell cell, DateRange window) {
        if (spec.cutAtAsOf() && cell.days().firstEpochDay() > spans.asOf()) {
            return Optional.of(
                    "the cell lies after the as-of date, " + data.local().date(EpochDays.toDate(spans.asOf())));
        }
        return window.isEmpty() ? Optional.of("the steps lead to no days") : Optional.empty();
    }
}
