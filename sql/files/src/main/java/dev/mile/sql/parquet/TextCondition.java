package dev.mile.sql.parquet;

import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression.Operand;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/**
 * A condition on texts of a row alone.
 *
 * @param condition the condition, its names looked up
 * @param fields the columns that it compares, each once
 * @param values the texts of these columns
 */
record TextCondition(Condition condition, List<Operand.Field> fields, List<TextValue> values) {
    /**
     * Returns the condition; empty if it compares anything else.
     *
     * @param texts finds the text that a column holds; empty where it holds something else
     */
    static Optional<TextCondition> of(Condition condition, Function<Operand.Field, Optional<TextValue>> texts) {
        List<Operand.Field> fields = new ArrayList<>();
        List<TextValue> values = new ArrayList<>();
        for (Operand operand : condition.operands()) {
            Operand innermost = operand.innermost();
            if (innermost instanceof Operand.Field field) {
                if (fields.contains(field)) {
                    continue;
                }
                Optional<TextValue> value = texts.apply(field);
                if (value.isEmpty()) {
                    return Optional.empty();
                }
                fields.add(field);
                values.add(value.get());
            } else if (!(innermost instanceof Operand.Text)) {
                return Optional.empty();
            }
        }
        return fields.isEmpty() ? Optional.empty() : Optional.of(new TextCondition(condition, fields, values));
    }
}
