package dev.mile.report;

import dev.mile.fact.Fact;
import dev.mile.fact.Operand;
import dev.mile.fact.RowExpression;
import dev.mile.fact.ValueType;
import dev.mile.measure.Catalog;
import dev.mile.measure.Measure;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Finds the amount columns of a fact: those that some measure adds up by themselves. */
final class Amounts {
    private Amounts() {}

    static List<Operand.Field> of(Project project, Catalog catalog, Fact fact) {
        Set<String> names = new LinkedHashSet<>();
        project.measures().values().forEach(definition -> collect(definition.is(), fact.name(), names));
        List<Operand.Field> amounts = new ArrayList<>();
        for (String name : names) {
            catalog.dimension(name, fact)
                    .filter(f -> f.path().isEmpty() && f.type() == ValueType.NUMBER)
                    .ifPresent(amounts::add);
        }
        return amounts;
    }

    private static void collect(Measure measure, String fact, Set<String> names) {
        if (measure instanceof Measure.Aggregate a
                && a.fact().equals(fact)
                && (a.how() == Measure.Aggregation.SUM || a.how() == Measure.Aggregation.LAST)
                && a.of().isPresent()
                && a.of().get() instanceof RowExpression.Value v
                && v.operand() instanceof Operand.Name name) {
            names.add(name.text());
        } else {
            measure.parts().forEach(part -> collect(part, fact, names));
        }
    }
}
