package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.measure.Value;
import java.math.BigDecimal;
import java.util.List;

/**
 * The way to a figure: which days each step took, which rows were found there, and what was made of them.
 *
 * @param measure the measure as it was asked for
 * @param cell the cell's label
 * @param days the cell's days
 * @param asOf the as-of date in words; empty where there is none
 * @param root the whole measure
 */
public record Explanation(String measure, String cell, DateRange days, String asOf, Operand root) {
    /**
     * A part of a measure.
     *
     * @param text the part in the language, or what is done with the parts below
     * @param value its value
     * @param reason why it is blank; empty where it is not
     * @param rows which rows were looked at ({@code sales by ordered}); empty for arithmetic
     * @param rowCount how many rows were found
     * @param steps the way from the cell's days to the days looked at
     * @param operands the parts it is made of
     */
    public record Operand(
            String text,
            Value value,
            String reason,
            String rows,
            long rowCount,
            List<StepResult> steps,
            List<Operand> operands) {
        public Operand {
            steps = List.copyOf(steps);
            operands = List.copyOf(operands);
        }
    }

    /**
     * The days after a step.
     *
     * @param step the step in the language
     * @param days its days
     * @param workingDays the working days among them; null where the model has no working week
     */
    public record StepResult(String step, DateRange days, BigDecimal workingDays) {}
}
