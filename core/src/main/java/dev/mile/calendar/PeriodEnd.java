package dev.mile.calendar;

import static java.util.Objects.requireNonNull;

import dev.mile.Located;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import java.io.Serializable;
import java.time.LocalDate;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * The end of one period of a listed calendar. Immutable and safe for use by several threads.
 *
 * <p>It ends on a day, belongs to a year, and is the year's period of a number, from 1; it may say which quarter of the year it is in.
 */
public final class PeriodEnd implements Located, Serializable {
    private static final long serialVersionUID = 1L;

    private static final int NO_QUARTER = 0;

    private final LocalDate end;
    private final int year;
    private final int period;
    private final int quarter;
    private final transient Optional<SourceLocation> location;

    private PeriodEnd(LocalDate end, int year, int period, int quarter, Optional<SourceLocation> location) {
        this.end = requireNonNull(end, "end is null");
        this.year = year;
        this.period = period;
        this.quarter = quarter;
        this.location = location;
    }

    /**
     * {@return the end of a period that is in no quarter}
     *
     * @param end the last day
     * @param year the year
     * @param period the number of the period in its year, from 1
     */
    public static PeriodEnd of(LocalDate end, int year, int period) {
        requireNonNull(end, "end is null");
        return new PeriodEnd(end, year, period, NO_QUARTER, Optional.empty());
    }

    /**
     * {@return the end with the quarter of its year}
     *
     * @param number the number
     * @throws MileException if the number is below 1
     */
    public PeriodEnd withQuarter(int number) {
        if (number < 1) {
            throw ModelException.of("the quarter of a period is %d; expected 1 or more", number);
        }
        return new PeriodEnd(end, year, period, number, location);
    }

    /**
     * {@return the end with where it is listed, for messages}
     *
     * @param where its file, line and column
     */
    public PeriodEnd withLocation(SourceLocation where) {
        requireNonNull(where, "where is null");
        return new PeriodEnd(end, year, period, quarter, Optional.of(where));
    }

    /** {@return the last day of the period} */
    public LocalDate end() {
        return end;
    }

    /** {@return the number of the year} */
    public int year() {
        return year;
    }

    /** {@return the number of the period in its year} */
    public int period() {
        return period;
    }

    /** {@return the number of the quarter in its year; empty where the calendar has none} */
    public OptionalInt quarter() {
        return quarter == NO_QUARTER ? OptionalInt.empty() : OptionalInt.of(quarter);
    }

    @Override
    public Optional<SourceLocation> location() {
        return location == null ? Optional.empty() : location;
    }

    /** Returns whether the other is the same end, wherever it is listed. */
    @Override
    public boolean equals(Object other) {
        return other instanceof PeriodEnd p
                && p.end.equals(end)
                && p.year == year
                && p.period == period
                && p.quarter == quarter;
    }

    @Override
    public int hashCode() {
        return end.hashCode();
    }

    /** Returns {@code 2026-01-31, period 1 of 2026}. */
    @Override
    public String toString() {
        return end + ", period " + period + " of " + year;
    }
}
