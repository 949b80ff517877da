package dev.mile.report.run;

import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.ValueType;
import dev.mile.measure.Measure;
import dev.mile.report.Project;
import dev.mile.report.plan.NameResolver;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Finds the amount columns of a fact: those that some measure adds up by themselves. */
final class AmountColumns {
    private AmountColumns() {}

    static List<Operand.Field> of(Project project, NameResolver catalog, Fact fact) {
        Set<String> names = new LinkedHashSet<>();
        project.measures().values().forEach(definition -> collect(definition.expression(), fact.name(), names));
        List<Operand.Field> amounts = new ArrayList<>();
        for (String name : names) {
            catalog.resolve(name, fact)
                    .filter(Operand.Field.class::isInstance)
                    .map(Operand.Field.class::cast)
                    .filter(f -> f.path().isEmpty() && f.named().isEmpty() && f.type() == ValueType.NUMBER)
                    .ifPresent(amounts::add);
        }
        return amounts;
    }

    private static void collect(Measure measure, String fact, Set<String> names) {
        if (measure instanceof Measure.Aggregate a
                && a.fact().equals(fact)
                && (a.aggregation() == Measure.Aggregation.SUM || a.aggregation() == Measure.Aggregation.LAST)
                && a.expression().isPresent()
                && a.expression().get() instanceof RowExpression.Value v
                && v.operand() instanceof Operand.Name name) {
            names.add(name.text());
        } else {
            measure.parts().forEach(part -> collect(part, fact, names));
        }
    }
}
