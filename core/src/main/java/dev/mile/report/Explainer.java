package dev.mile.report;

import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import dev.mile.report.plan.MeasurePlanner;
import dev.mile.report.plan.PlanNode;
import dev.mile.span.SpanContext;
import dev.mile.span.Step;
import dev.mile.workday.WorkingWeek;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Explains one figure. Used once. */
final class Explainer {
    private final Session session;
    private final SpanContext frame;
    private final Evaluator evaluator;
    private final WorkingWeek week;

    Explainer(Session session, String calendar) {
        this.session = session;
        this.frame = session.frame(calendar);
        this.evaluator = new Evaluator(session, frame);
        this.week =
                session.project().workingWeeks().values().stream().findFirst().orElse(null);
    }

    Explanation explain(String text, Measure measure, String at, Optional<Condition> where) {
        MeasurePlanner planner = new MeasurePlanner(
                session.catalog(),
                session.project().measures(),
                session.project().workingWeeks().keySet(),
                List.of(),
                where);
        PlanNode plan = planner.plan(measure);
        evaluator.formula(plan);
        CalendarPeriod period = frame.period(at);
        Cell cell = new Cell(evaluator.moment(period.range(), List.of(), period.level()), Map.of());
        return new Explanation(
                text,
                period.label(),
                period.range(),
                session.asOf().map(Object::toString).orElse(""),
                part(plan, evaluator.spot(cell)));
    }

    private Explanation.Operand part(PlanNode node, Spot spot) {
        Value value = evaluator.formula(node).in(spot);
        Moment cell = spot.moment();
        if (node instanceof PlanNode.AggregateNode leaf) {
            return leaf(leaf, spot, value);
        }
        if (node instanceof PlanNode.DayCount count) {
            List<Explanation.StepResult> steps = steps(count.window(), cell);
            DateRange window = evaluator.window(count.window(), cell);
            return new Explanation.Operand(
                    count.toString(),
                    value,
                    value.isBlank() ? noDays(count.window(), cell, window) : "",
                    "",
                    0,
                    steps,
                    List.of());
        }
        if (node instanceof PlanNode.Arithmetic a) {
            Explanation.Operand left = part(a.left(), spot);
            Explanation.Operand right = part(a.right(), spot);
            String words =
                    switch (a.sign()) {
                        case PLUS -> "sum";
                        case MINUS -> "difference";
                        case TIMES -> "product";
                        case DIVIDED_BY -> "quotient";
                    };
            return inner(words, value, arithmetic(a.sign(), left.value(), right.value()), List.of(left, right));
        }
        if (node instanceof PlanNode.Negated n) {
            return inner("with the other sign", value, "what it is made of is blank", List.of(part(n.of(), spot)));
        }
        if (node instanceof PlanNode.OrElse o) {
            return inner("or " + o.otherwise() + " where blank", value, "", List.of(part(o.of(), spot)));
        }
        if (node instanceof PlanNode.Sum s) {
            return inner(
                    "up to the as-of date, then after it",
                    value,
                    "both sides are blank",
                    List.of(part(s.actual(), spot), part(s.after(), spot)));
        }
        if (node instanceof PlanNode.OnlyAt only) {
            return inner(
                    "only at " + only.level().word(),
                    value,
                    cell.finest().isCoarserThan(only.level())
                            ? "the cell is coarser than a " + only.level().word()
                            : "what it is made of is blank",
                    List.of(part(only.of(), spot)));
        }
        if (node instanceof PlanNode.Each each) {
            List<Explanation.Operand> members = new ArrayList<>();
            for (String member : spot.members((Formula.Each) evaluator.formula(each))) {
                Explanation.Operand one = part(each.of(), spot.inside(each.id(), member));
                members.add(inner(
                        each.dimension() + " " + (member == null ? "(blank)" : member),
                        one.value(),
                        one.reason(),
                        List.of(one)));
            }
            return inner("added over each " + each.dimension(), value, "no member has a value", members);
        }
        return inner("number", value, "", List.of());
    }

    private static Explanation.Operand inner(String text, Value value, String reason, List<Explanation.Operand> parts) {
        return new Explanation.Operand(text, value, value.isBlank() ? reason : "", "", 0, List.of(), parts);
    }

    private static String arithmetic(RowExpression.Sign sign, Value left, Value right) {
        if (left.isBlank() || right.isBlank()) {
            return left.isBlank() && right.isBlank()
                    ? "both sides are blank"
                    : "its " + (left.isBlank() ? "first" : "second") + " side is blank";
        }
        return sign == RowExpression.Sign.DIVIDED_BY ? "a division by zero is blank" : "";
    }

    private List<Explanation.StepResult> steps(PlanNode.WindowSpec timing, Moment cell) {
        List<Explanation.StepResult> steps = new ArrayList<>();
        steps.add(taken("the cell", cell.days()));
        DateRange days = cell.days();
        if (timing.cutAtAsOf() && days.lastEpochDay() > frame.asOf()) {
            days = days.notAfter(frame.asOf());
            steps.add(taken("cut at the as-of date", days));
        }
        if (days.isEmpty()) {
            return steps;
        }
        List<DateRange> windows = timing.span().trace(days, frame);
        for (int i = 0; i < windows.size(); i++) {
            Step step = timing.span().steps().get(i);
            steps.add(taken(step.toString(), windows.get(i)));
        }
        return steps;
    }

    private Explanation.StepResult taken(String step, DateRange days) {
        return new Explanation.StepResult(step, days, week == null ? null : week.workingDaysIn(days));
    }

    private Explanation.Operand leaf(PlanNode.AggregateNode leaf, Spot spot, Value value) {
        Moment cell = spot.moment();
        DateRange window =
                leaf.alwaysBlankBecause().isPresent() ? DateRange.EMPTY : evaluator.window(leaf.window(), cell);
        long rows = window.isEmpty()
                ? 0
                : spot.series(((Formula.Leaf) evaluator.formula(leaf)).reading(), Sight.ALL_DAYS)
                        .rows(window.firstEpochDay(), window.lastEpochDay());
        String role = leaf.series().fact() + " by " + leaf.series().role()
                + leaf.series().where().map(w -> " where " + w).orElse("");
        return new Explanation.Operand(
                leaf.toString(),
                value,
                value.isBlank() ? why(leaf, cell, window, rows) : "",
                role,
                rows,
                steps(leaf.window(), cell),
                List.of());
    }

    private String why(PlanNode.AggregateNode leaf, Moment cell, DateRange window, long rows) {
        if (leaf.alwaysBlankBecause().isPresent()) {
            return leaf.alwaysBlankBecause().get();
        }
        if (window.isEmpty()) {
            return noDays(leaf.window(), cell, window);
        }
        DateRange covered =
                evaluator.coverage(leaf.series().fact(), leaf.series().role());
        if (leaf.ifFull() && !covered.encloses(window)) {
            return Messages.format(
                    "if full: the window %s is not inside the days that %s covers, %s",
                    window, leaf.series().fact(), covered);
        }
        if (rows > 0) {
            return "the rows found there have no value";
        }
        String dated = leaf.series().fact() + " " + leaf.series().role();
        if (!covered.isEmpty() && window.lastEpochDay() < covered.firstEpochDay()) {
            return Messages.format(
                    "no rows: the window %s to %s lies before the first row of %s, %s",
                    window.first(), window.last(), dated, covered.first());
        }
        if (!covered.isEmpty() && window.firstEpochDay() > covered.lastEpochDay()) {
            return Messages.format(
                    "no rows: the window %s to %s lies after the last day that counts for %s, %s",
                    window.first(), window.last(), dated, covered.last());
        }
        return Messages.format("no rows of %s from %s to %s", dated, window.first(), window.last());
    }

    private String noDays(PlanNode.WindowSpec timing, Moment cell, DateRange window) {
        if (timing.cutAtAsOf() && cell.days().firstEpochDay() > frame.asOf()) {
            return "the cell lies after the as-of date, " + EpochDays.toDate(frame.asOf());
        }
        return window.isEmpty() ? "the steps lead to no days" : "";
    }
}
