package dev.mile.report.plan;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.UnreadValues;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.ValueType;
import dev.mile.internal.Messages;
import dev.mile.measure.Clauses;
import dev.mile.measure.Measure;
import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.Per;
import dev.mile.measure.Target;
import dev.mile.measure.Value;
import dev.mile.report.Chart;
import dev.mile.report.ModelElement;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.span.Span;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Makes the plan of measures for one report: carries the clauses down to the aggregates, outer steps first, and looks every name
 * up. Not for use by several threads.
 */
public final class MeasurePlanner {
    private static final int MAX_PARTS = 100_000;

    private final NameResolver names;
    private final Project project;
    private final Map<String, MeasureDefinition> measures;
    private final Set<String> weeks;
    private final List<String> dimensions;
    private final Optional<Condition> where;
    private final Set<String> notes = new LinkedHashSet<>();
    private final Map<List<Object>, PlanNode> plannedByNameAndScope = new HashMap<>();
    private final Map<String, Boolean> ratios = new HashMap<>();
    private int loops;
    private int parts;

    /**
     * Returns a planner.
     *
     * @param names what names refer to
     * @param dimensions the dimensions in the rows and columns of the report; date attributes among them
     * @param where the condition of the report
     */
    public MeasurePlanner(NameResolver names, Project project, List<String> dimensions, Optional<Condition> where) {
        this.names = names;
        this.project = project;
        this.measures = project.measures();
        this.weeks = project.workingWeeks().keySet();
        this.dimensions = dimensions;
        this.where = where;
    }

    /** What comes down to an aggregate from the operands around it. */
    private record Scope(
            Span span,
            boolean inFull,
            boolean split,
            Optional<String> role,
            List<Condition> conditions,
            Map<String, Integer> scopes,
            Set<String> across,
            Optional<Per> per,
            Optional<Clauses.CoverageRule> coverage) {
        /**
         * Returns the key of the plan of a measure that is named in this scope. It is a list, since Java makes the equality of a record when it is
         * first used, and a program that has just started would wait for it.
         */
        List<Object> keyOf(String name) {
            return List.of(name, span, inFull, split, role, conditions, scopes, across, per, coverage);
        }

        /** Returns the scope of one side of {@code then}, which gets the part of the days that the side covers. */
        Scope withSide(Span side) {
            return new Scope(span.then(side), inFull, true, role, conditions, scopes, across, per, coverage);
        }

        /** Returns the scope behind some clauses; dimensions that they name have been looked up. */
        Scope withClauses(Clauses clauses, Map<String, Integer> newScopes) {
            List<Condition> all = new ArrayList<>(conditions);
            clauses.where().ifPresent(all::add);
            Set<String> ignored = new LinkedHashSet<>(across);
            ignored.addAll(clauses.across());
            return new Scope(
                    span.then(clauses.over()),
                    inFull || clauses.inFull(),
                    split,
                    clauses.on().or(() -> role),
                    all,
                    newScopes,
                    ignored,
                    clauses.per().or(() -> per),
                    clauses.coverage().or(() -> coverage));
        }

        /** Returns the scope in which some loops have a member each. */
        Scope withMembers(List<PlanNode.Each> loops) {
            Map<String, Integer> inner = new LinkedHashMap<>(scopes);
            loops.forEach(loop -> inner.put(loop.dimension(), loop.id()));
            return new Scope(span, inFull, split, role, conditions, inner, across, per, coverage);
        }

        /** Returns whether the window must be covered whole: one that is moved is compared with the cell. */
        boolean needsWhole() {
            return coverage.map(rule -> rule == Clauses.CoverageRule.IF_FULL).orElse(span.isMoved());
        }

        PlanNode.WindowSpec window(boolean ofPlan) {
            return new PlanNode.WindowSpec(span, !split && !inFull && !ofPlan, per);
        }
    }

    /**
     * Plans all that a report shows.
     *
     * @throws MileException for unknown names and clauses that make no sense
     */
    public ReportPlan plan(Report report) {
        if (report.show().isEmpty()) {
            throw ModelException.of("the report '%s' shows nothing; name measures for it to show", report.name())
                    .withModelWords("the report '%s' shows nothing; name measures: `show: [sales]`", report.name());
        }
        List<PlannedColumn> columns = report.show().stream().map(this::column).toList();
        checkShown(report, report.bars(), "the list of bars");
        checkShown(report, report.chart().map(Chart::show).orElse(List.of()), "the chart");
        Optional<PlanNode> sort = report.sort()
                .map(Report.Sort::measure)
                .or(() -> report.top().map(Report.Top::measure))
                .map(name -> plan(new Measure.Named(name)));
        Optional<PlanNode> top = report.top().map(first -> plan(new Measure.Named(first.measure())));
        return new ReportPlan(columns, sort, top, List.copyOf(notes));
    }

    private static void checkShown(Report report, List<String> shown, String where) {
        for (String name : shown) {
            if (!report.show().contains(name)) {
                throw ModelException.of(
                        "the report '%s' does not show '%s', which %s names%s",
                        report.name(), name, where, Messages.didYouMean(name, report.show()));
            }
        }
    }

    private PlannedColumn column(String name) {
        Target target = project.targets().get(name);
        if (target != null) {
            try {
                return new PlannedColumn(
                        measures.get(target.measure()),
                        plan(new Measure.Named(target.measure())),
                        Optional.of(new PlannedColumn.Goal(target, plan(target.against()))));
            } catch (MileException e) {
                throw project.located(e, ModelElement.TARGET, name);
            }
        }
        MeasureDefinition definition = measures.get(name);
        if (definition == null) {
            Set<String> known = new LinkedHashSet<>(measures.keySet());
            known.addAll(project.targets().keySet());
            throw ModelException.unknownName("measure or target", name, known);
        }
        return new PlannedColumn(definition, plan(new Measure.Named(name)), Optional.empty());
    }

    /**
     * Plans one measure.
     *
     * @throws MileException for unknown names and clauses that make no sense
     */
    public PlanNode plan(Measure measure) {
        Map<String, Integer> rows = new LinkedHashMap<>();
        dimensions.forEach(d -> rows.put(d, PlanNode.MemberBinding.ROW));
        return plan(
                measure,
                new Scope(
                        Span.NONE,
                        false,
                        false,
                        Optional.empty(),
                        where.map(List::of).orElse(List.of()),
                        rows,
                        Set.of(),
                        Optional.empty(),
                        Optional.empty()));
    }

    /** Returns why measures planned so far are blank on some rows, in sentences. */
    public List<String> notes() {
        return List.copyOf(notes);
    }

    private PlanNode plan(Measure measure, Scope around) {
        if (++parts > MAX_PARTS) {
            throw ModelException.of(
                    "what is shown has more than %,d parts, since measures name others with steps of their own again and again; show fewer"
                            + " of them, or nest them less",
                    MAX_PARTS);
        }
        // measures name each other in long chains: what few of them need would take room on the stack for each
        if (measure instanceof Measure.Named n) {
            return planNamed(n.name(), around);
        }
        return measure instanceof Measure.Arithmetic a ? planArithmetic(a, around) : planOther(measure, around);
    }

    private PlanNode planArithmetic(Measure.Arithmetic a, Scope around) {
        PlanNode left = plan(a.left(), around);
        return new PlanNode.Arithmetic(left, a.sign(), plan(a.right(), around));
    }

    private PlanNode planOther(Measure measure, Scope around) {
        if (measure instanceof Measure.Constant c) {
            return new PlanNode.Number(Value.of(c.value()));
        }
        if (measure instanceof Measure.Negated n) {
            return new PlanNode.Negated(plan(n.of(), around));
        }
        if (measure instanceof Measure.OrElse o) {
            return new PlanNode.OrElse(plan(o.of(), around), Value.of(o.otherwise()));
        }
        if (measure instanceof Measure.Then t) {
            return new PlanNode.Sum(
                    plan(t.actual(), around.withSide(Span.soFar())), plan(t.after(), around.withSide(Span.toCome())));
        }
        if (measure instanceof Measure.Qualified w) {
            return planWith(w, around);
        }
        if (measure instanceof Measure.DayCount d) {
            if (d.working()) {
                checkWeek(d.week());
            }
            return new PlanNode.DayCount(
                    d.working(),
                    d.week(),
                    around.window(false),
                    dimensions.stream().filter(around.across()::contains).toList());
        }
        return planAggregate((Measure.Aggregate) measure, around);
    }

    private void checkWeek(Optional<String> week) {
        if (weeks.isEmpty()) {
            throw ModelException.of(
                            "the project has no working week, so working days cannot be counted; add one, such as"
                                    + " working(WorkingWeek.named(\"shops\").rest(SUNDAY).build())")
                    .withModelWords(
                            "the model has no working week, so working days cannot be counted; add `working: {shops: {rest:"
                                    + " [sunday]}}`");
        }
        if (week.isPresent() && !weeks.contains(week.get())) {
            throw ModelException.unknownName("working week", week.get(), weeks);
        }
    }

    private PlanNode planNamed(String name, Scope a) {
        MeasureDefinition definition = measures.get(name);
        if (definition == null) {
            throw ModelException.unknownName("measure", name, measures.keySet());
        }
        try {
            List<Object> key = a.keyOf(name);
            PlanNode known = plannedByNameAndScope.get(key);
            if (known == null) {
                known = plan(definition.expression(), a);
                plannedByNameAndScope.put(key, known);
            }
            return known;
        } catch (MileException e) {
            throw project.location(ModelElement.MEASURE, name)
                    .map(e::withLocation)
                    .orElse(e);
        }
    }

    private PlanNode planWith(Measure.Qualified with, Scope a) {
        Clauses c = with.clauses();
        if (c.per().isPresent() && (a.per().isPresent() || isRatio(with.of()))) {
            throw ModelException.of(
                    "`%s` divides a ratio by `per %s`; put `per` after the sums, before they are divided",
                    with, c.per().get());
        }
        if (c.per().isPresent() && c.per().get().working()) {
            checkWeek(c.per().get().week());
        }
        if (c.on().isPresent()) {
            checkRole(with.of(), c.on().get());
        }
        Map<String, Integer> scopes = new LinkedHashMap<>(a.scopes());
        for (String dimension : c.across()) {
            checkDimension(dimension);
            scopes.remove(dimension);
        }
        List<PlanNode.Each> eachs = new ArrayList<>();
        for (String dimension : c.each()) {
            checkDimension(dimension);
            if (!names.isDimension(dimension)) {
                throw ModelException.of(
                        "`each %s` needs a dimension of a fact, such as a shop; it is an attribute of days", dimension);
            }
            Set<String> facts = new LinkedHashSet<>();
            collectFacts(with.of(), facts);
            if (facts.isEmpty()) {
                throw ModelException.of(
                        "`%s` looks at no rows, so `each %s` finds no members; take `each` away", with.of(), dimension);
            }
            int within = scopes.getOrDefault(dimension, PlanNode.Each.ALL);
            int id = loops++;
            scopes.put(dimension, id);
            eachs.add(new PlanNode.Each(id, dimension, within, Optional.empty(), new PlanNode.Number(Value.UNKNOWN)));
        }
        PlanNode node = plan(with.of(), a.withClauses(c, scopes));
        // the factor is asked for in the innermost loop, of the members of all loops
        Optional<PlanNode> factor = with.factor().map(measure -> plan(measure, a.withMembers(eachs)));
        for (int i = eachs.size() - 1; i >= 0; i--) {
            PlanNode.Each each = eachs.get(i);
            node = new PlanNode.Each(
                    each.id(),
                    each.dimension(),
                    each.within(),
                    i == eachs.size() - 1 ? factor : Optional.empty(),
                    node);
        }
        return c.onlyAt().isPresent() ? new PlanNode.OnlyAt(c.onlyAt().get(), node) : node;
    }

    private void checkDimension(String name) {
        if (!names.isDimension(name) && !names.isAttribute(name)) {
            throw ModelException.unknownName("dimension", name, names.all());
        }
    }

    /** A role must be one of some fact below. */
    private void checkRole(Measure measure, String role) {
        Set<String> facts = new LinkedHashSet<>();
        collectFacts(measure, facts);
        if (!facts.isEmpty()
                && facts.stream().noneMatch(f -> names.fact(f).dates().containsKey(role))) {
            throw names.fact(facts.iterator().next()).unknownRole(role);
        }
    }

    private void collectFacts(Measure measure, Set<String> facts) {
        collectFacts(measure, facts, new HashSet<>());
    }

    private void collectFacts(Measure measure, Set<String> facts, Set<String> seen) {
        if (measure instanceof Measure.Aggregate a) {
            facts.add(a.fact());
        } else if (measure instanceof Measure.Named n) {
            if (measures.containsKey(n.name()) && seen.add(n.name())) {
                collectFacts(measures.get(n.name()).expression(), facts, seen);
            }
        } else {
            measure.parts().forEach(part -> collectFacts(part, facts, seen));
        }
    }

    private boolean isRatio(Measure measure) {
        if (measure instanceof Measure.Arithmetic a && a.sign() == RowExpression.Sign.DIVIDED_BY
                || measure instanceof Measure.Qualified w && w.clauses().per().isPresent()) {
            return true;
        }
        if (measure instanceof Measure.Qualified w) {
            return isRatio(w.of());
        }
        if (measure instanceof Measure.Named n) {
            Boolean known = ratios.get(n.name());
            if (known == null) {
                known = measures.containsKey(n.name())
                        && isRatio(measures.get(n.name()).expression());
                ratios.put(n.name(), known);
            }
            return known;
        }
        return measure.parts().stream().anyMatch(this::isRatio);
    }

    private PlanNode planAggregate(Measure.Aggregate aggregate, Scope a) {
        Fact fact = names.fact(aggregate.fact());
        String role = a.role().filter(fact.dates()::containsKey).orElse(fact.defaultRole());
        List<String> missing = new ArrayList<>();
        List<Condition> conditions = a.conditions().stream()
                .map(c -> c.map(operand -> resolve(operand, fact, missing)))
                .toList();
        conditions.stream().flatMap(Condition::elapsed).forEach(this::checkWeek);
        // distinct counts the values of a column, whatever computes them
        Optional<RowExpression> of = aggregate
                .expression()
                .map(e -> aggregate.aggregation() == Measure.Aggregation.DISTINCT
                        ? names.lookUp(e, fact)
                        : names.expression(e, fact));
        of.ifPresent(e -> checkExpression(aggregate, e));
        Map<String, PlanNode.MemberBinding> reach = new LinkedHashMap<>();
        List<String> lacks = new ArrayList<>();
        a.scopes().forEach((dimension, loop) -> {
            if (!names.isDimension(dimension) && names.isAttribute(dimension)) {
                return;
            }
            Optional<Operand.Field> field = names.dimension(dimension, fact);
            if (field.isPresent()) {
                reach.put(dimension, new PlanNode.MemberBinding(field.get(), loop));
            } else if (loop == PlanNode.MemberBinding.ROW) {
                lacks.add(dimension);
                notes.add(Messages.format(
                        "%s is blank by %s: the fact '%s' has no '%s'", aggregate, dimension, fact.name(), dimension));
            } else {
                missing.add(dimension);
            }
        });
        Optional<String> never = missing.isEmpty()
                ? Optional.empty()
                : Optional.of(Messages.format("the fact '%s' has no '%s'", fact.name(), missing.get(0)));
        never.ifPresent(why -> notes.add(aggregate + " is blank: " + why));
        List<Operand.Field> groups = reach.values().stream()
                .map(PlanNode.MemberBinding::field)
                .distinct()
                .toList();
        Optional<Condition> where = conditions.isEmpty()
                ? Optional.empty()
                : Optional.of(conditions.size() == 1 ? conditions.get(0) : new Condition.And(conditions));
        return new PlanNode.AggregateNode(
                new PlanNode.Series(fact.name(), role, of, never.isPresent() ? Optional.empty() : where, groups),
                aggregate.aggregation(),
                a.window(fact.plan()),
                a.needsWhole(),
                limits(fact, reach),
                reach,
                lacks,
                dimensions.stream().filter(a.across()::contains).toList(),
                never,
                aggregate.toString());
    }

    private List<MemberLimit> limits(Fact fact, Map<String, PlanNode.MemberBinding> reach) {
        List<MemberLimit> limits = new ArrayList<>();
        reach.forEach((dimension, binding) -> {
            Map<String, DateRange> days = names.memberDays(binding.field(), fact);
            if (!days.isEmpty()) {
                limits.add(new MemberLimit(dimension, binding.scope(), days));
            }
        });
        return limits;
    }

    private void checkExpression(Measure.Aggregate aggregate, RowExpression e) {
        e.elapsed().forEach(this::checkWeek);
        boolean value = e instanceof RowExpression.Value;
        boolean counted = aggregate.aggregation() == Measure.Aggregation.COUNT
                || aggregate.aggregation() == Measure.Aggregation.DISTINCT;
        boolean column = value && ((RowExpression.Value) e).operand() instanceof Operand.Field;
        if (aggregate.aggregation() == Measure.Aggregation.DISTINCT && !column) {
            throw ModelException.of("`%s` counts the values of an expression; distinct takes a column", aggregate);
        }
        if (!counted && value && !(((RowExpression.Value) e).operand() instanceof Operand.Field)) {
            throw ModelException.of(
                    "`%s` adds up dates; write days(first, second) for the time between two dates of a row", aggregate);
        }
        if (!counted) {
            checkNumbers(aggregate, e);
        }
    }

    private void checkWeek(RowExpression.Elapsed elapsed) {
        if (elapsed.unit() == RowExpression.TimeUnit.WORKING_DAYS) {
            checkWeek(elapsed.week());
        }
    }

    private void checkNumbers(Measure.Aggregate aggregate, RowExpression e) {
        if (e instanceof RowExpression.OrElse o) {
            checkNumbers(aggregate, o.of());
        } else if (e instanceof RowExpression.Arithmetic a) {
            checkNumbers(aggregate, a.left());
            checkNumbers(aggregate, a.right());
        } else if (e instanceof RowExpression.Value v
                && v.operand() instanceof Operand.Field f
                && (f.type() == ValueType.TEXT || f.type() == ValueType.DATE)) {
            Optional<UnreadValues> unread =
                    f.path().isEmpty() ? names.unread(aggregate.fact(), f.column()) : Optional.empty();
            throw DataException.of(
                    "`%s` needs numbers, but the column '%s' of the fact '%s' holds values that are not numbers%s; correct the data, or count"
                            + " them with count() or distinct()",
                    aggregate,
                    f.column(),
                    aggregate.fact(),
                    unread.map(values -> Messages.format(
                                    ": %d of %d, the first is %s", values.unread(), values.values(), values.example()))
                            .orElse(""));
        }
    }

    /** Looks the names of a condition's operand up; those that the fact lacks and another has are added to the missing. */
    private Operand resolve(Operand operand, Fact fact, List<String> missing) {
        if (operand instanceof Operand.Changed changed) {
            return new Operand.Changed(changed.function(), resolve(changed.of(), fact, missing));
        }
        if (operand instanceof Operand.Computed computed) {
            int before = missing.size();
            computed.of().map(name -> name.isAsOf() ? name : resolve(name, fact, missing));
            return missing.size() > before ? computed : new Operand.Computed(names.expression(computed.of(), fact));
        }
        if (!(operand instanceof Operand.Name name)) {
            return operand;
        }
        Optional<Operand> found = names.resolve(name.text(), fact);
        if (found.isEmpty()) {
            missing.add(name.text());
        }
        return found.orElse(operand);
    }
}
