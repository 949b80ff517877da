package dev.mile.dimension;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.calendar.SupportedDates;
import dev.mile.workday.WorkingWeek;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * One row a day over a range, without gaps, with every attribute of every calendar, working week and event.
 *
 * <p>The range asked for is widened to whole years of every calendar that holds its ends. Values are computed when asked for,
 * and are defined on days outside the range too. Immutable and safe for use by several threads.
 */
public final class DateDimension {
    private final DateRange range;
    private final Map<String, DateColumn> columns;
    private final Map<String, FiscalCalendar> calendars;
    private final Map<String, WorkingWeek> weeks;

    private DateDimension(Builder builder) {
        calendars = Collections.unmodifiableMap(new LinkedHashMap<>(builder.calendars));
        weeks = Collections.unmodifiableMap(new LinkedHashMap<>(builder.weeks));
        range = widened(builder.range, builder.calendars.values());
        columns = new LinkedHashMap<>();
        for (DateColumn column : new DateColumns(builder.settings(), range).all()) {
            if (columns.put(column.name(), column) != null) {
                throw ModelException.of(
                        "two columns of the date dimension would be called '%s'; rename the calendar, working week or event"
                                + " that makes the second",
                        column.name());
            }
        }
    }

    /** Returns the range widened to the whole years, in any of the calendars, that hold its ends. */
    static DateRange widened(DateRange range, Iterable<FiscalCalendar> calendars) {
        DateRange wide = range;
        if (range.isEmpty()) {
            return wide;
        }
        for (FiscalCalendar calendar : calendars) {
            wide = wide.hull(calendar.rangeContaining(Level.YEAR, range.firstEpochDay()))
                    .hull(calendar.rangeContaining(Level.YEAR, range.lastEpochDay()));
        }
        return wide;
    }

    /**
     * {@return a builder of a dimension over the range, which is widened to whole years}
     *
     * @param range the days
     */
    public static Builder over(DateRange range) {
        requireNonNull(range, "range is null");
        return new Builder(range);
    }

    /** {@return the first and last day of the dimension} */
    public DateRange range() {
        return range;
    }

    /** {@return the columns in order} */
    public List<DateColumn> columns() {
        return List.copyOf(columns.values());
    }

    /**
     * {@return the column of the name}
     *
     * @param name the name
     */
    public Optional<DateColumn> column(String name) {
        requireNonNull(name, "name is null");
        return Optional.ofNullable(columns.get(name));
    }

    /** {@return the calendars by name, in order} */
    public Map<String, FiscalCalendar> calendars() {
        return calendars;
    }

    /** {@return the working weeks by name, in order} */
    public Map<String, WorkingWeek> workingWeeks() {
        return weeks;
    }

    /** Says what the dimension is made of; not for use by several threads. */
    public static final class Builder {
        private final DateRange range;
        private final Map<String, FiscalCalendar> calendars = new LinkedHashMap<>();
        private final Map<String, WorkingWeek> weeks = new LinkedHashMap<>();
        private final List<EventColumn> events = new ArrayList<>();
        private @Nullable LocalDate asOf;
        private DayOfWeek weekStarts = DayOfWeek.MONDAY;
        private Locale locale = Locale.ENGLISH;
        private boolean built;

        private Builder(DateRange range) {
            this.range = requireNonNull(range, "range is null");
            if (!SupportedDates.RANGE.encloses(range)) {
                throw ModelException.of(
                                "the date dimension would run %s; Mile knows the days %s, so choose days inside them",
                                range, SupportedDates.RANGE)
                        .withModelWords(
                                "the date dimension would run %s; Mile knows the days %s, so set `dates: from` and `to` inside them",
                                range, SupportedDates.RANGE);
            }
        }

        private void checkNotBuilt() {
            if (built) {
                throw new IllegalStateException(
                        "the dimension is built already; begin another one with DateDimension.over");
            }
        }

        /**
         * Adds a calendar; the first is the default.
         *
         * @param name the name
         * @param calendar the calendar
         * @return this builder
         */
        public Builder calendar(String name, FiscalCalendar calendar) {
            requireNonNull(name, "name is null");
            requireNonNull(calendar, "calendar is null");
            checkNotBuilt();
            if (calendars.putIfAbsent(name, calendar) != null) {
                throw ModelException.of("the calendar '%s' was given twice; give each its own name", name);
            }
            return this;
        }

        /**
         * Adds a working week; the columns of the first carry no prefix.
         *
         * @param week the working week
         * @return this builder
         */
        public Builder working(WorkingWeek week) {
            requireNonNull(week, "week is null");
            checkNotBuilt();
            if (weeks.putIfAbsent(week.name(), week) != null) {
                throw ModelException.of("the working week '%s' was given twice; give each its own name", week.name());
            }
            return this;
        }

        /**
         * Adds a column of events.
         *
         * @param more the events
         * @return this builder
         */
        public Builder events(EventColumn more) {
            requireNonNull(more, "more is null");
            checkNotBuilt();
            events.add(more);
            return this;
        }

        /**
         * Sets the last day for which actuals count; without it the columns that depend on it are left out.
         *
         * @param day the day
         * @return this builder
         */
        public Builder asOf(LocalDate day) {
            requireNonNull(day, "day is null");
            checkNotBuilt();
            asOf = day;
            return this;
        }

        /**
         * Sets the weekday from which {@code weekday} and {@code week_of_month} count.
         *
         * @param weekday the weekday
         * @return this builder
         */
        public Builder weekStarts(DayOfWeek weekday) {
            requireNonNull(weekday, "weekday is null");
            checkNotBuilt();
            weekStarts = weekday;
            return this;
        }

        /**
         * Sets the language of month and weekday names.
         *
         * @param language the language
         * @return this builder
         */
        public Builder locale(Locale language) {
            requireNonNull(language, "language is null");
            checkNotBuilt();
            locale = language;
            return this;
        }

        private DateColumns.Settings settings() {
            return new DateColumns.Settings(calendars, weeks, events, Optional.ofNullable(asOf), weekStarts, locale);
        }

        /**
         * {@return the dimension}
         *
         * @throws MileException if two columns would have one name
         * @throws IllegalStateException if it was built before
         */
        public DateDimension build() {
            checkNotBuilt();
            built = true;
            return new DateDimension(this);
        }
    }
}
