package dev.mile.workday;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import dev.mile.calendar.SupportedDates;

/**
 * A holiday that comes again by a rule.
 *
 * @param name how people call it
 * @param date its day in each year
 * @param observance what happens to it on a rest day
 * @param fromYear the first civil year in which it is kept
 * @param untilYear the last civil year in which it is kept
 */
public record HolidayRule(String name, HolidayDate date, HolidayObservance observance, int fromYear, int untilYear) {
    public HolidayRule {
        requireNonNull(name, "name is null");
        requireNonNull(date, "date is null");
        requireNonNull(observance, "move is null");
        if (fromYear > untilYear) {
            throw ModelException.of(
                    "the holiday '%s' is kept from %d until %d; the first year must not come after the last",
                    name, fromYear, untilYear);
        }
    }

    /**
     * {@return a holiday of every year that stays where it falls}
     *
     * @param name what people call it
     * @param date when it is
     */
    public static HolidayRule of(String name, HolidayDate date) {
        requireNonNull(name, "name is null");
        requireNonNull(date, "date is null");
        return new HolidayRule(
                name, date, HolidayObservance.STAYS, SupportedDates.FIRST_YEAR, SupportedDates.LAST_YEAR);
    }

    /**
     * {@return the same holiday, moved from rest days}
     *
     * @param to the second
     */
    public HolidayRule observed(HolidayObservance to) {
        requireNonNull(to, "to is null");
        return new HolidayRule(name, date, to, fromYear, untilYear);
    }

    /**
     * {@return the same holiday, kept in these years only, both included}
     *
     * @param first the first year
     * @param last the last year
     */
    public HolidayRule validBetween(int first, int last) {
        return new HolidayRule(name, date, observance, first, last);
    }
}
