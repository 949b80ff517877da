package dev.mile.report.plan;

import dev.mile.calendar.Level;
import dev.mile.measure.Value;
import java.util.Optional;
import java.util.Set;

/** What a compiled measure asks of the cell in which it is evaluated. */
public interface EvaluationContext {
    /** Returns the value of an aggregate in its window of the cell; notes whether it found rows of the row's own members. */
    Value aggregate(CompiledMeasure.Aggregate aggregate);

    /** Returns the days, or working days, of the count of the number. */
    Value dayCount(int number);

    /** Returns the finest level of the cell. */
    Optional<Level> finestLevel();

    /** Returns the members over which a loop runs in the cell, by code point, a blank as null. */
    Set<String> members(CompiledMeasure.Each loop);

    /** Returns the context of the same cell inside a loop, at one of its members. */
    EvaluationContext withMember(int loop, String member);
}
