package dev.mile.model;

import biweekly.Biweekly;
import biweekly.ICalendar;
import biweekly.component.VEvent;
import biweekly.io.TimezoneInfo;
import biweekly.property.DateStart;
import biweekly.property.RecurrenceId;
import biweekly.property.RecurrenceRule;
import biweekly.util.com.google.ical.compat.javautil.DateIterator;
import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import dev.mile.calendar.SupportedDates;
import dev.mile.internal.EpochDays;
import dev.mile.workday.WorkingWeek;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.MalformedInputException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Date;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TimeZone;

/** Reads holidays from iCalendar (RFC 5545) and from CSV into a working week. */
final class HolidayFiles {
    /** Every day for a century is more than anyone's holidays. */
    private static final int MAX_OCCURRENCES = 40_000;

    private static final int MAX_DAYS_OF_AN_EVENT = 366;

    private final ZoneId zone;
    private final HolidayCache cache;

    HolidayFiles(ZoneId zone, HolidayCache cache) {
        this.zone = zone;
        this.cache = cache;
    }

    void read(Path file, WorkingWeek.Builder into) {
        if (!ModelCsvFile.exists(file)) {
            throw ModelCsvFile.missing(file);
        }
        String name = String.valueOf(file.getFileName());
        if (name.endsWith(".ics")) {
            iCalendar(file, name, into);
        } else if (name.endsWith(".csv")) {
            csv(file, into);
        } else {
            throw ModelException.of("holidays are read from .ics and .csv files; '%s' is neither", name);
        }
    }

    private static void csv(Path file, WorkingWeek.Builder into) {
        for (ModelCsvFile.Line line : ModelCsvFile.read(file, List.of("date", "name"), List.of("share"))) {
            String share = line.text("share");
            if (!share.matches("|[0-9](\\.[0-9]{1,6})?")) {
                throw DataException.of("the share is '%s'; expected a number from 0 (off) to 1 (worked)", share)
                        .withLocation(line.location());
            }
            try {
                into.specialDay(
                        line.date("date"),
                        line.text("name"),
                        share.isEmpty() ? BigDecimal.ZERO : new BigDecimal(share));
            } catch (MileException e) {
                throw e.withLocation(line.location());
            }
        }
    }

    private void iCalendar(Path file, String name, WorkingWeek.Builder into) {
        String text = text(file, name);
        List<String> key =
                List.of("holidays", text, zone.getId(), TimeZone.getDefault().getID());
        for (List<String> row : cache.rows(key, () -> rows(days(text, name)))) {
            into.specialDay(EpochDays.parse(row.get(0)).orElseThrow(), row.get(1), BigDecimal.ZERO);
        }
    }

    private static String text(Path file, String name) {
        try {
            return Files.readString(file);
        } catch (NoSuchFileException e) {
            throw ModelCsvFile.missing(file).withCause(e);
        } catch (MalformedInputException e) {
            throw DataException.of("the file is not UTF-8; save it in that encoding")
                    .withCause(e)
                    .withLocation(SourceLocation.of(name));
        } catch (IOException e) {
            throw unreadable(e, name);
        }
    }

    private static MileException unreadable(Exception e, String name) {
        return DataException.of("cannot be read as iCalendar: %s", String.valueOf(e.getMessage()))
                .withCause(e)
                .withLocation(SourceLocation.of(name));
    }

    /** A day that a calendar names. */
    private record Holiday(LocalDate day, String name) {}

    private static List<List<String>> rows(List<Holiday> days) {
        return days.stream()
                .map(holiday -> List.of(holiday.day().toString(), holiday.name()))
                .toList();
    }

    private List<Holiday> days(String text, String name) {
        SourceLocation whole = SourceLocation.of(name);
        List<ICalendar> calendars;
        List<SourceLocation> begins;
        try {
            begins = ICalendarCheck.check(text, name);
            calendars = Biweekly.parse(text).all();
        } catch (MileException e) {
            throw e;
        } catch (RuntimeException e) {
            throw unreadable(e, name);
        }
        if (calendars.isEmpty()) {
            throw DataException.of("the file holds no VCALENDAR; expected an iCalendar file (RFC 5545)")
                    .withLocation(whole);
        }
        if (calendars.stream().mapToInt(c -> c.getEvents().size()).sum() != begins.size()) {
            throw DataException.of("not every event of the file can be read; check it against RFC 5545")
                    .withLocation(whole);
        }
        List<Holiday> days = new ArrayList<>();
        int before = 0;
        for (ICalendar calendar : calendars) {
            int events = calendar.getEvents().size();
            try {
                add(calendar, begins.subList(before, before + events), days);
            } catch (MileException e) {
                throw e.withLocation(whole);
            }
            before += events;
        }
        return days;
    }

    private void add(ICalendar calendar, List<SourceLocation> begins, List<Holiday> into) {
        Map<VEvent, SourceLocation> places = new IdentityHashMap<>();
        for (int e = 0; e < begins.size(); e++) {
            places.put(calendar.getEvents().get(e), begins.get(e));
        }
        Map<Instance, VEvent> moved = moved(calendar, places);
        for (VEvent event : calendar.getEvents()) {
            if (event.getRecurrenceId() == null && !isCancelled(event)) {
                Set<Date> replaced = new HashSet<>();
                moved.keySet().stream().filter(i -> i.uid().equals(uid(event))).forEach(i -> replaced.add(i.start()));
                event(event, replaced, calendar.getTimezoneInfo(), places.get(event), into);
            }
        }
        for (VEvent event : moved.values()) {
            if (!isCancelled(event)) {
                event(event, Set.of(), calendar.getTimezoneInfo(), places.get(event), into);
            }
        }
    }

    /** One instance of a recurring event, by the start that it had before it was moved. */
    private record Instance(String uid, Date start) {}

    /** Returns the events that take the place of one instance of a recurring event: of several the latest revision. */
    private static Map<Instance, VEvent> moved(ICalendar calendar, Map<VEvent, SourceLocation> places) {
        Map<Instance, VEvent> moved = new LinkedHashMap<>();
        for (VEvent event : calendar.getEvents()) {
            RecurrenceId id = event.getRecurrenceId();
            if (id == null) {
                continue;
            }
            if (id.getValue() == null || uid(event).isEmpty() || id.getRange() != null) {
                throw DataException.of(
                                "the event '%s' takes the place of an instance that cannot be found; expected a UID and a"
                                        + " RECURRENCE-ID with the date of one instance (RFC 5545)",
                                summary(event))
                        .withLocation(places.get(event));
            }
            moved.merge(
                    new Instance(uid(event), asDate(id.getValue())),
                    event,
                    (a, b) -> revision(b) >= revision(a) ? b : a);
        }
        return moved;
    }

    private static String uid(VEvent event) {
        return event.getUid() == null || event.getUid().getValue() == null
                ? ""
                : event.getUid().getValue();
    }

    private static int revision(VEvent event) {
        return event.getSequence() == null || event.getSequence().getValue() == null
                ? 0
                : event.getSequence().getValue();
    }

    private static boolean isCancelled(VEvent event) {
        return event.getStatus() != null && event.getStatus().isCancelled();
    }

    private static String summary(VEvent event) {
        return event.getSummary() == null || event.getSummary().getValue() == null
                ? ""
                : event.getSummary().getValue().strip();
    }

    /** Adds the days of an event, but for the instances of which another event takes the place. */
    private void event(VEvent event, Set<Date> replaced, TimezoneInfo zones, SourceLocation place, List<Holiday> into) {
        String summary = summary(event);
        DateStart start = event.getDateStart();
        // what the library cannot read it keeps as raw text, and would leave out
        for (String property : List.of("DTSTART", "RRULE", "RDATE", "EXDATE", "DTEND", "DURATION")) {
            if (!event.getExperimentalProperties(property).isEmpty()) {
                throw DataException.of(
                                "the %s of the event '%s' cannot be read: %s; correct it (RFC 5545)",
                                property,
                                summary,
                                event.getExperimentalProperties(property).get(0).getValue())
                        .withLocation(place);
            }
        }
        List<RecurrenceRule> rules = event.getProperties(RecurrenceRule.class);
        if (rules.size() > 1) {
            throw DataException.of(
                            "the event '%s' has %d RRULEs; expected one, so write an event for each (RFC 5545)",
                            summary, rules.size())
                    .withLocation(place);
        }
        boolean recurs = !rules.isEmpty();
        boolean timed = start.getValue().hasTime();
        // a date without a time is read by the library at midnight of the machine's zone
        ZoneId read = timed ? zone : ZoneId.systemDefault();
        TimeZone steps = timed && zones.getTimezone(start) != null
                ? zones.getTimezone(start).getTimeZone()
                : TimeZone.getTimeZone(read);
        long days = length(event, read);
        if (days > MAX_DAYS_OF_AN_EVENT) {
            throw DataException.of(
                            "the event '%s' lasts %,d days; expected at most %d, so correct its DTEND or DURATION",
                            summary, days, MAX_DAYS_OF_AN_EVENT)
                    .withLocation(place);
        }
        if (!recurs && !replaced.contains(asDate(start.getValue()))) {
            // dates of their own come beside the start, which the library then leaves out
            add(day(start.getValue(), read), days, summary, into);
        }
        for (Date date : occurrences(event, steps, read, place)) {
            LocalDate first = day(date, read);
            boolean isStart = !recurs && first.equals(day(start.getValue(), read));
            if (!isStart && !replaced.contains(asDate(date))) {
                add(first, days, summary, into);
            }
        }
    }

    /** Returns when an event happens, as far as days are supported. */
    private static List<Date> occurrences(VEvent event, TimeZone steps, ZoneId read, SourceLocation place) {
        List<Date> occurrences = new ArrayList<>();
        try {
            DateIterator dates = event.getDateIterator(steps);
            while (dates.hasNext() && occurrences.size() <= MAX_OCCURRENCES) {
                Date date = dates.next();
                if (day(date, read).getYear() > SupportedDates.LAST_YEAR) {
                    return occurrences;
                }
                occurrences.add(date);
            }
        } catch (RuntimeException | AssertionError e) {
            // the library takes parts of rules that contradict each other, and fails over them
            throw DataException.of(
                            "the dates of the event '%s' cannot be computed: %s; correct its RRULE (RFC 5545)",
                            summary(event), String.valueOf(e.getMessage()))
                    .withCause(e)
                    .withLocation(place);
        }
        if (occurrences.size() > MAX_OCCURRENCES) {
            throw DataException.of(
                            "the event '%s' recurs more than %,d times; give its RRULE an UNTIL, or a longer interval",
                            summary(event), MAX_OCCURRENCES)
                    .withLocation(place);
        }
        return occurrences;
    }

    private static void add(LocalDate first, long days, String summary, List<Holiday> into) {
        for (long i = 0; i < days; i++) {
            LocalDate day = first.plusDays(i);
            if (SupportedDates.RANGE.contains(EpochDays.of(day))) {
                into.add(new Holiday(day, summary));
            }
        }
    }

    /** The library's own kind of date equals no other. */
    private static Date asDate(Date date) {
        return new Date(date.getTime());
    }

    private static LocalDate day(Date date, ZoneId zone) {
        return date.toInstant().atZone(zone).toLocalDate();
    }

    /** Returns how many days the event touches; its end is exclusive, as RFC 5545 has it. */
    private static long length(VEvent event, ZoneId zone) {
        Date start = event.getDateStart().getValue();
        Date end;
        if (event.getDateEnd() != null && event.getDateEnd().getValue() != null) {
            end = event.getDateEnd().getValue();
        } else if (event.getDuration() != null && event.getDuration().getValue() != null) {
            end = event.getDuration().getValue().add(start);
        } else {
            return 1;
        }
        LocalDate last = day(new Date(Math.max(start.getTime(), end.getTime() - 1)), zone);
        return Math.max(1, last.toEpochDay() - day(start, zone).toEpochDay() + 1);
    }
}
