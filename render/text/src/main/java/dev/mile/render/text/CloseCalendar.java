package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import biweekly.Biweekly;
import biweekly.ICalendar;
import biweekly.component.VEvent;
import biweekly.util.ICalDate;
import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.dimension.DateDimension;
import dev.mile.internal.EpochDays;
import dev.mile.workday.WorkingWeek;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Date;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;

/** Writes the close calendar as iCalendar (RFC 5545): starts and ends of periods, their last working days, and holidays. */
public final class CloseCalendar {
    private CloseCalendar() {}

    /**
     * Writes the first and last days of the periods of each calendar, its last working days, and the holidays of the working week.
     * The stamp of all events is the dimension's first day, so that equal calendars are equal files.
     *
     * @param dimension the date dimension
     * @param calendars the calendars by name
     * @param week the working week
     * @param days the days that have events
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void write(
            DateDimension dimension,
            Map<String, FiscalCalendar> calendars,
            WorkingWeek week,
            DateRange days,
            Appendable out)
            throws IOException {
        requireNonNull(week, "week is null");
        write(dimension, calendars, Optional.of(week), days, out);
    }

    /**
     * Writes the first and last days of the periods of each calendar, where there is no working week.
     *
     * @param dimension the date dimension
     * @param calendars the names of calendars
     * @param days the days
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void write(
            DateDimension dimension, Map<String, FiscalCalendar> calendars, DateRange days, Appendable out)
            throws IOException {
        write(dimension, calendars, Optional.empty(), days, out);
    }

    private static void write(
            DateDimension dimension,
            Map<String, FiscalCalendar> calendars,
            Optional<WorkingWeek> week,
            DateRange days,
            Appendable out)
            throws IOException {
        requireNonNull(dimension, "dimension is null");
        requireNonNull(calendars, "calendars is null");
        requireNonNull(days, "days is null");
        requireNonNull(out, "out is null");
        ICalendar calendar = new ICalendar();
        calendar.setProductId("-//Mile//Close calendar//EN");
        Date stamp = Date.from(
                dimension.range().first().atStartOfDay(ZoneId.of("UTC")).toInstant());
        calendars.forEach((name, of) -> {
            Level level = of.supports(Level.PERIOD) ? Level.PERIOD : Level.YEAR;
            for (CalendarPeriod period : of.periodsOverlapping(level, days)) {
                String label = period.label() + " (" + name + ")";
                String id = name + "-" + period.range().first();
                add(calendar, stamp, period.range().firstEpochDay(), label + " begins", "begin-" + id);
                add(calendar, stamp, period.range().lastEpochDay(), label + " ends", "end-" + id);
                week.map(w -> w.nthWorkingEpochDay(period.range(), -1))
                        .orElse(OptionalInt.empty())
                        .ifPresent(day -> add(calendar, stamp, day, "Last working day of " + label, "last-" + id));
            }
        });
        for (int day = days.firstEpochDay(); day <= days.lastEpochDay(); day++) {
            int on = day;
            week.map(w -> w.holidayName(on))
                    .filter(name -> !name.isEmpty())
                    .ifPresent(name -> add(calendar, stamp, on, name, "holiday-" + EpochDays.toDate(on)));
        }
        out.append(Biweekly.write(calendar).go());
    }

    private static void add(ICalendar calendar, Date stamp, int day, String summary, String id) {
        VEvent event = new VEvent();
        event.setUid(id + "@mile.example");
        event.setDateTimeStamp(stamp);
        event.setSummary(summary);
        event.setDateStart(date(EpochDays.toDate(day)));
        event.setDateEnd(date(EpochDays.toDate(day).plusDays(1)));
        calendar.addEvent(event);
    }

    /** The library writes a date by the machine's zone, whichever that is. */
    private static ICalDate date(LocalDate day) {
        Instant noon = day.atTime(12, 0).atZone(ZoneId.systemDefault()).toInstant();
        return new ICalDate(Date.from(noon), false);
    }
}
