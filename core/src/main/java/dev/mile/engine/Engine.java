package dev.mile.engine;

import dev.mile.calendar.DateRange;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Answers one kind of question: totals per group and day, with the accounts of every row. All engines give identical answers.
 *
 * <p>An engine reads; it changes nothing. It need not be safe for use by several threads.
 */
public interface Engine extends AutoCloseable, SchemaOwner {
    /** Returns the schema that it was opened over: it answers for these facts and lookups as they are defined there. */
    @Override
    DataSchema schema();

    /**
     * Returns the types of the columns of a fact or lookup by name, in the order of the source.
     *
     * @throws dev.mile.MileException if the source cannot be read
     */
    Map<String, ValueType> columns(String table);

    /** Returns how many rows each date has, in every role of the fact, of the rows that the fact keeps. */
    List<DateCount> dates(String fact);

    /** Returns a row of the fact that has the date in the role, as people can find it in the source; empty where none is known. */
    default Optional<String> example(String fact, String role, long day) {
        return Optional.empty();
    }

    /** Returns the first to the last placed day of the fact in the role; empty where no row is placed. */
    default DateRange coverage(String fact, String role, DayContext days) {
        DateRange covered = DateRange.EMPTY;
        for (DateCount date : dates(fact)) {
            if (date.role().equals(role)
                    && date.day() >= days.dimensionRange().firstEpochDay()
                    && date.day() <= days.dimensionRange().lastEpochDay()) {
                covered = covered.hull(DateRange.ofEpochDays((int) date.day(), (int) date.day()));
            }
        }
        return covered;
    }

    /**
     * Returns the totals by group and day, or bucket of days; the caller closes them.
     *
     * @throws dev.mile.MileException if a value that is added up is not a number, or a sum is too large
     */
    TotalsCursor totals(TotalsRequest request, DayContext days);

    /** Returns the lines of the source of a fact that are no rows. */
    default FactAccounts.Rejected rejected(String fact) {
        return FactAccounts.Rejected.NONE;
    }

    /** Returns what became of every row of the fact. */
    FactAccounts accounts(String fact, List<Operand.Field> amounts, DayContext days);

    /** Returns the rows of a lookup, or those that a fact keeps: plans are spread in memory. */
    Table rows(String table);

    @Override
    void close();
}
