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
 * <p>An engine reads; it changes nothing. Sessions ask it from several threads at once; a cursor is read by one thread. Where
 * that is interrupted, the engine ends its work soon, forgets what is half done, and throws a {@link dev.mile.StoppedException}.
 */
public interface Engine extends AutoCloseable, SchemaOwner {
    /** Returns the schema that it was opened over: it answers for these facts and lookups as they are defined there. */
    @Override
    DataSchema schema();

    /**
     * {@return the types of the columns of a fact or lookup by name, in the order of the source}
     *
     * @param table a fact or lookup
     * @throws dev.mile.MileException if the source cannot be read
     */
    Map<String, ValueType> columns(String table);

    /**
     * {@return how many rows each date has, in every role of the fact, of the rows that the fact keeps}
     *
     * @param fact the fact
     */
    List<DateCount> dates(String fact);

    /**
     * {@return a row of the fact that has the date in the role, as people can find it in the source; empty where none is known}
     *
     * @param fact the fact
     * @param role the date role
     * @param day the epoch day
     */
    default Optional<String> example(String fact, String role, long day) {
        return Optional.empty();
    }

    /**
     * {@return the values of a column that cannot be read as what it is used as; empty where all can, and where the engine reads no files
     *     in which it could look}
     *
     * @param table a fact or lookup
     * @param column a column of its source
     * @param as what the values should be: numbers or dates
     */
    default Optional<UnreadValues> unread(String table, String column, ValueType as) {
        return Optional.empty();
    }

    /**
     * {@return the first to the last placed day of the fact in the role; empty where no row is placed}
     *
     * @param fact the fact
     * @param role the date role
     * @param days what is known of days
     */
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
     * {@return the totals by group and day, or bucket of days; the caller closes them}
     *
     * @param request what is asked
     * @param days what is known of days
     * @throws dev.mile.MileException if a value that is added up is not a number, or a sum is too large
     */
    TotalsCursor totals(TotalsRequest request, DayContext days);

    /**
     * {@return the lines of the source of a fact that are no rows}
     *
     * @param fact the fact
     */
    default FactAccounts.Rejected rejected(String fact) {
        return FactAccounts.Rejected.NONE;
    }

    /**
     * {@return what became of every row of the fact}
     *
     * @param fact the fact
     * @param amounts the amount columns that are added up
     * @param days what is known of days
     */
    FactAccounts accounts(String fact, List<Operand.Field> amounts, DayContext days);

    /**
     * {@return the rows of a lookup, or those that a fact keeps: plans are spread in memory}
     *
     * @param table a fact or lookup
     */
    Table rows(String table);

    @Override
    void close();
}
