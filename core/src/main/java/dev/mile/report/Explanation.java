package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.measure.Value;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/**
 * The way to a figure: which days each step gave, which rows were found there, and what was made of them.
 *
 * @param measure the measure as it was asked for
 * @param cell the label of the cell
 * @param days the days of the cell
 * @param asOf the as-of date; empty if no fact determines it
 * @param root the whole measure
 * @param notes what a reader must know, in sentences
 */
public record Explanation(
        String measure, String cell, DateRange days, Optional<LocalDate> asOf, Operand root, List<String> notes) {
    public Explanation {
        notes = List.copyOf(notes);
    }

    /**
     * A measure, or something that it is made of.
     *
     * @param text it in the language, or what is done with its operands
     * @param value its value
     * @param reason why it is blank; empty where it is not, or nothing more can be said
     * @param rows which rows were looked at ({@code sales by ordered}); empty for arithmetic
     * @param rowCount how many rows were found
     * @param steps the way from the days of the cell to the days looked at
     * @param operands what it is made of
     */
    public record Operand(
            String text,
            Value value,
            Optional<String> reason,
            Optional<String> rows,
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
     * @param workingDays the working days among them; empty where the model has no working week
     */
    public record StepResult(String step, DateRange days, Optional<BigDecimal> workingDays) {}
}
