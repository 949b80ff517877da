package dev.mile.model;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.SourceLocation;
import dev.mile.calendar.SupportedDates;
import dev.mile.internal.Messages;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Checks the events of an iCalendar file against RFC 5545, line by line, before the library reads it: that reads 31 June as 1 July, and leaves
 * out what it does not understand.
 */
final class ICalendarCheck {
    private static final String EVENT = "VEVENT";
    private static final String ZONE = "VTIMEZONE";
    private static final Pattern DURATION =
            Pattern.compile("\\+?P([0-9]{1,7}W|([0-9]{1,7}D)?(T(?=[0-9])([0-9]{1,7}H)?([0-9]{1,7}M)?([0-9]{1,7}S)?)?)");
    private static final Set<String> ONCE = Set.of("DTSTART", "DTEND", "DURATION", "RECURRENCE-ID", "SUMMARY", "UID");

    private final String file;
    private final Set<String> zones = new HashSet<>();
    private final List<SourceLocation> events = new ArrayList<>();
    private final Deque<ContentLine> open = new ArrayDeque<>();

    /** The properties of the event that is open. */
    private final Map<String, ContentLine> seen = new HashMap<>();

    /** A line, unfolded: a name, parameters and a value. */
    private record ContentLine(String name, Map<String, String> parameters, String value, SourceLocation location) {
        MileException error(String pattern, Object... values) {
            return DataException.of(pattern, values).withLocation(location);
        }
    }

    private ICalendarCheck(String file) {
        this.file = file;
    }

    /**
     * Returns where each event begins, in their order.
     *
     * @param text the file
     * @param name its name
     * @throws MileException if a line of an event is not what RFC 5545 asks for
     */
    static List<SourceLocation> check(String text, String name) {
        ICalendarCheck check = new ICalendarCheck(name);
        List<ContentLine> lines = check.lines(text);
        String within = "";
        for (ContentLine line : lines) {
            within = line.name().equals("BEGIN") ? line.value().toUpperCase(Locale.ROOT) : within;
            if (within.equals(ZONE) && line.name().equals("TZID")) {
                check.zones.add(line.value());
            }
        }
        lines.forEach(check::line);
        if (!check.open.isEmpty()) {
            throw check.open
                    .peek()
                    .error(
                            "the %s that begins here has no END",
                            check.open.peek().value());
        }
        return check.events;
    }

    // ---- lines

    /** Returns the lines of calendars; what stands before and after them belongs to no calendar. */
    private List<ContentLine> lines(String text) {
        List<ContentLine> lines = new ArrayList<>();
        StringBuilder unfolded = new StringBuilder();
        int first = 0;
        int number = 0;
        for (String raw : (text.startsWith("\uFEFF") ? text.substring(1) : text).split("\r\n|\n|\r", -1)) {
            number++;
            if (!unfolded.isEmpty() && (raw.startsWith(" ") || raw.startsWith("\t"))) {
                unfolded.append(raw, 1, raw.length());
                continue;
            }
            addLine(unfolded, first, lines);
            unfolded.append(raw);
            first = number;
        }
        addLine(unfolded, first, lines);
        return lines;
    }

    private void addLine(StringBuilder unfolded, int number, List<ContentLine> lines) {
        if (!unfolded.toString().isBlank() && (!lines.isEmpty() || isBegin(unfolded))) {
            lines.add(contentLine(unfolded.toString(), SourceLocation.of(file, number)));
        }
        unfolded.setLength(0);
    }

    private static boolean isBegin(StringBuilder line) {
        return line.toString().strip().equalsIgnoreCase("BEGIN:VCALENDAR");
    }

    private static ContentLine contentLine(String line, SourceLocation location) {
        List<String> parts = new ArrayList<>();
        boolean quoted = false;
        int start = 0;
        for (int i = 0; i < line.length(); i++) {
            char c = line.charAt(i);
            quoted ^= c == '"';
            if (!quoted && (c == ';' || c == ':')) {
                parts.add(line.substring(start, i));
                start = i + 1;
                if (c == ':') {
                    Map<String, String> parameters = new HashMap<>();
                    for (String part : parts.subList(1, parts.size())) {
                        int equals = part.indexOf('=');
                        parameters.put(
                                part.substring(0, Math.max(0, equals)).toUpperCase(Locale.ROOT),
                                part.substring(equals + 1).replace("\"", ""));
                    }
                    String name = parts.get(0).strip().toUpperCase(Locale.ROOT);
                    return new ContentLine(
                            name, parameters, line.substring(start).strip(), location);
                }
            }
        }
        throw DataException.of(
                        "'%s' is no line of iCalendar; expected a name, a colon and a value (RFC 5545)",
                        Messages.excerpt(line, 0))
                .withLocation(location);
    }

    // ---- components

    private void line(ContentLine line) {
        String value = line.value().toUpperCase(Locale.ROOT);
        if (line.name().equals("BEGIN")) {
            if (value.equals(EVENT)) {
                if (open.isEmpty() || !open.peek().value().equals("VCALENDAR")) {
                    throw line.error("this VEVENT does not stand in a VCALENDAR (RFC 5545)");
                }
                seen.clear();
                events.add(line.location());
            }
            open.push(new ContentLine(line.name(), Map.of(), value, line.location()));
        } else if (line.name().equals("END")) {
            if (open.isEmpty() || !open.peek().value().equals(value)) {
                throw line.error(
                        "END:%s ends nothing%s",
                        line.value(),
                        open.isEmpty()
                                ? ""
                                : "; open is the " + open.peek().value() + " that begins in line "
                                        + open.peek().location().line().orElse(0));
            }
            if (open.pop().value().equals(EVENT)) {
                event();
            }
        } else if (!open.isEmpty() && open.peek().value().equals(EVENT)) {
            property(line);
        }
    }

    private void property(ContentLine line) {
        if (seen.put(line.name(), line) != null && ONCE.contains(line.name())) {
            throw line.error("the event has a second %s; expected one (RFC 5545)", line.name());
        }
        switch (line.name()) {
            case "DTSTART", "DTEND", "RECURRENCE-ID" -> date(line, line.value());
            case "EXDATE", "RDATE" -> {
                for (String value : line.value().split(",", -1)) {
                    // a period of time: its end, or how long it is, comes behind its start
                    String start = line.parameters().getOrDefault("VALUE", "").equalsIgnoreCase("PERIOD")
                            ? value.replaceFirst("/.*", "")
                            : value;
                    date(line, start);
                }
            }
            case "RRULE", "EXRULE" -> new RecurrenceRuleCheck(line.name(), line.value(), line.location()).check();
            case "DURATION" -> {
                if (!DURATION.matcher(line.value()).matches() || line.value().endsWith("P")) {
                    throw line.error(
                            "the DURATION is '%s'; expected one such as P1D, P2W or PT8H, which is not negative (RFC 5545)",
                            line.value());
                }
            }
            default -> {
                // says nothing of days
            }
        }
        String zone = line.parameters().getOrDefault("TZID", "");
        if (!zone.isEmpty() && !zones.contains(zone) && !isZone(zone.startsWith("/") ? zone.substring(1) : zone)) {
            throw line.error("the time zone '%s' is unknown, and the file has no VTIMEZONE of it (RFC 5545)", zone);
        }
    }

    private static boolean isZone(String name) {
        try {
            ZoneId.of(name);
            return true;
        } catch (DateTimeException e) {
            return false;
        }
    }

    /** Checks what the properties of an event say together. */
    private void event() {
        ContentLine start = seen.get("DTSTART");
        if (start == null) {
            throw DataException.of("the event has no DTSTART; give it one (RFC 5545)")
                    .withLocation(events.get(events.size() - 1));
        }
        LocalDate first = ICalendarDate.day(start.value()).orElseThrow();
        try {
            SupportedDates.require(first);
        } catch (MileException e) {
            throw e.withLocation(start.location());
        }
        ContentLine last = seen.get("DTEND");
        if (last != null && seen.containsKey("DURATION")) {
            throw last.error("the event has both a DTEND and a DURATION; expected one (RFC 5545)");
        }
        if (last != null && ICalendarDate.day(last.value()).orElseThrow().isBefore(first)) {
            throw last.error("the event ends on %s, before it starts on %s", last.value(), start.value());
        }
    }

    private static void date(ContentLine line, String value) {
        if (ICalendarDate.day(value).isEmpty()) {
            throw line.error(
                    "the %s is '%s'; expected a date of the calendar such as 20261225, or with a time, 20261225T100000Z (RFC 5545)",
                    line.name(), value);
        }
    }
}
