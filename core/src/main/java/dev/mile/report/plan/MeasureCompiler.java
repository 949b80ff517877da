package dev.mile.report.plan;

import dev.mile.measure.Value;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Compiles plans: numbers their aggregates, day counts and series, and shares what is identical. */
public final class MeasureCompiler {
    private final Optional<StreamingPlan> streaming;
    private final Map<PlanNode, CompiledMeasure> byNode = new IdentityHashMap<>();
    private final Map<PlanNode, Integer> usesOfNode = new IdentityHashMap<>();
    private final Map<List<Object>, CompiledMeasure> aggregatesByKey = new HashMap<>();
    private final Map<List<Object>, SeriesBinding> bindingsByKey = new HashMap<>();
    private final List<PlanNode.AggregateNode> aggregates = new ArrayList<>();
    private final List<SeriesBinding> bindings = new ArrayList<>();
    private final List<PlanNode.DayCount> dayCounts = new ArrayList<>();
    private final List<PlanNode.Series> series = new ArrayList<>();
    private final List<CompiledMeasures.SeriesUse> uses = new ArrayList<>();
    private int shared;

    private MeasureCompiler(Optional<StreamingPlan> streaming) {
        this.streaming = streaming;
    }

    /**
     * Compiles the plans together.
     *
     * @param streaming how groups may come one member at a time; then totals of all members are planned by themselves
     */
    public static CompiledMeasures compile(List<PlanNode> plans, Optional<StreamingPlan> streaming) {
        MeasureCompiler compiler = new MeasureCompiler(streaming);
        compiler.countUses(plans);
        plans.forEach(compiler::compile);
        return new CompiledMeasures(
                compiler.byNode,
                compiler.aggregates,
                compiler.bindings,
                compiler.dayCounts,
                compiler.series,
                compiler.uses);
    }

    /** Counts from where each node is used. */
    private void countUses(List<PlanNode> plans) {
        Set<PlanNode> seen = Collections.newSetFromMap(new IdentityHashMap<>());
        plans.forEach(plan -> {
            usesOfNode.merge(plan, 1, Integer::sum);
            plan.visit(node -> {
                if (seen.add(node)) {
                    node.parts().forEach(part -> usesOfNode.merge(part, 1, Integer::sum));
                }
            });
        });
    }

    private CompiledMeasure compile(PlanNode node) {
        CompiledMeasure cached = byNode.get(node);
        if (cached == null) {
            cached = compileUncached(node);
            if (usesOfNode.getOrDefault(node, 0) > 1 && isWorthSharing(cached)) {
                cached = new CompiledMeasure.Shared(shared++, cached);
            }
            byNode.put(node, cached);
        }
        return cached;
    }

    private static boolean isWorthSharing(CompiledMeasure measure) {
        return !(measure instanceof CompiledMeasure.Constant || measure instanceof CompiledMeasure.DayCount);
    }

    private CompiledMeasure compileUncached(PlanNode node) {
        if (node instanceof PlanNode.AggregateNode aggregate) {
            return aggregate(aggregate);
        }
        if (node instanceof PlanNode.Number number) {
            return new CompiledMeasure.Constant(number.value());
        }
        if (node instanceof PlanNode.Arithmetic a) {
            return new CompiledMeasure.Arithmetic(compile(a.left()), a.sign(), compile(a.right()));
        }
        if (node instanceof PlanNode.Negated n) {
            return new CompiledMeasure.Negated(compile(n.of()));
        }
        if (node instanceof PlanNode.OrElse o) {
            return new CompiledMeasure.OrElse(compile(o.of()), o.otherwise());
        }
        if (node instanceof PlanNode.Sum s) {
            return new CompiledMeasure.Sum(compile(s.actual()), compile(s.after()));
        }
        if (node instanceof PlanNode.OnlyAt only) {
            return new CompiledMeasure.OnlyAt(only.level(), compile(only.of()));
        }
        if (node instanceof PlanNode.Each each) {
            return each(each);
        }
        dayCounts.add((PlanNode.DayCount) node);
        return new CompiledMeasure.DayCount(dayCounts.size() - 1);
    }

    private CompiledMeasure aggregate(PlanNode.AggregateNode node) {
        if (node.alwaysBlankBecause().isPresent()) {
            return new CompiledMeasure.Constant(Value.UNKNOWN);
        }
        List<String> dimensions = new ArrayList<>();
        List<Integer> scopes = new ArrayList<>();
        for (var group : node.series().groups()) {
            // two names may refer to one column; the later one is the nearer
            Map.Entry<String, PlanNode.MemberBinding> binding = node.memberBindings().entrySet().stream()
                    .filter(e -> e.getValue().field().equals(group))
                    .reduce((a, b) -> b)
                    .orElseThrow();
            dimensions.add(binding.getKey());
            scopes.add(binding.getValue().scope());
        }
        int ownSeries = register(node.series(), node);
        boolean alsoAll = streaming
                .filter(s -> s.needsAllMembers() && StreamingPlan.readsRowMember(node, s.dimension()))
                .isPresent();
        int allMembers = alsoAll ? register(node.series().withoutFirstGroup(), node) : ownSeries;
        SeriesBinding binding = binding(ownSeries, allMembers, dimensions, scopes, node.missingDimensions());
        PlanNode.WindowSpec window = node.window();
        List<Object> key = List.of(
                binding.number(),
                node.aggregation(),
                window.span(),
                window.cutAtAsOf(),
                window.per(),
                node.needsWhole(),
                node.across());
        return aggregatesByKey.computeIfAbsent(key, k -> {
            aggregates.add(node);
            bindings.add(binding);
            return new CompiledMeasure.Aggregate(
                    aggregates.size() - 1,
                    binding,
                    node.aggregation(),
                    node.series().value().isEmpty(),
                    node.across(),
                    node.limits());
        });
    }

    private int register(PlanNode.Series wanted, PlanNode.AggregateNode node) {
        if (!series.contains(wanted)) {
            series.add(wanted);
        }
        int number = series.indexOf(wanted);
        uses.add(new CompiledMeasures.SeriesUse(number, node.aggregation()));
        return number;
    }

    private SeriesBinding binding(
            int ownSeries, int allMembers, List<String> dimensions, List<Integer> scopes, List<String> missing) {
        return bindingsByKey.computeIfAbsent(
                List.of(ownSeries, allMembers, dimensions, scopes, missing),
                k -> new SeriesBinding(bindingsByKey.size(), ownSeries, allMembers, dimensions, scopes, missing));
    }

    private CompiledMeasure each(PlanNode.Each each) {
        CompiledMeasure operand = compile(each.of());
        // the loops below that take the member of this one
        Set<Integer> ids = new HashSet<>(Set.of(each.id()));
        each.of().visit(node -> {
            if (node instanceof PlanNode.Each inner && ids.contains(inner.within())) {
                ids.add(inner.id());
            }
        });
        List<CompiledMeasure.LoopMembers> sources = new ArrayList<>();
        for (PlanNode.AggregateNode aggregate : ReportPlan.aggregates(List.of(each.of()))) {
            aggregate.memberBindings().forEach((dimension, binding) -> {
                if (ids.contains(binding.scope())
                        && aggregate.alwaysBlankBecause().isEmpty()) {
                    sources.add(new CompiledMeasure.LoopMembers(
                            ((CompiledMeasure.Aggregate) compile(aggregate).unshared()).binding(),
                            aggregate.series().groups().indexOf(binding.field())));
                }
            });
        }
        return new CompiledMeasure.Each(
                each.id(),
                each.dimension(),
                each.within(),
                sources,
                each.with().map(this::compile).orElse(null),
                operand);
    }
}
