package dev.mile.model;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.SourceLocation;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Checks the parts of a recurrence rule against RFC 5545, section 3.3.10. */
final class RecurrenceRuleCheck {
    private static final Pattern NUMBER = Pattern.compile("[+-]?[0-9]{1,9}");
    private static final Pattern WEEKDAY = Pattern.compile("([+-]?[0-9]{1,2})?(MO|TU|WE|TH|FR|SA|SU)");
    private static final Set<String> FREQUENCIES = Set.of("YEARLY", "MONTHLY", "WEEKLY", "DAILY");
    private static final int MOST = 999_999_999;
    private static final int WEEKS_OF_A_MONTH = 5;

    private final String property;
    private final SourceLocation location;
    private final Map<String, String> parts = new HashMap<>();

    /**
     * Reads a rule.
     *
     * @param property RRULE or EXRULE
     * @param text its value
     */
    RecurrenceRuleCheck(String property, String text, SourceLocation location) {
        this.property = property;
        this.location = location;
        for (String part : text.toUpperCase(Locale.ROOT).split(";", -1)) {
            int equals = part.indexOf('=');
            if (equals < 0 && !part.isEmpty()) {
                throw error("the %s has '%s', which is no part of a rule; expected parts such as FREQ=YEARLY", part);
            }
            if (equals >= 0 && parts.put(part.substring(0, equals), part.substring(equals + 1)) != null) {
                throw error("the %s has %s twice", part.substring(0, equals));
            }
        }
    }

    void check() {
        if (!FREQUENCIES.contains(parts.getOrDefault("FREQ", ""))) {
            throw error("the %s has no frequency of holidays; expected FREQ=YEARLY, MONTHLY, WEEKLY or DAILY");
        }
        if (parts.containsKey("COUNT") && parts.containsKey("UNTIL")) {
            throw error("the %s has both COUNT and UNTIL; expected one");
        }
        parts.forEach(this::part);
    }

    private void part(String name, String value) {
        switch (name) {
            case "FREQ" -> {
                // looked at before
            }
            case "UNTIL" -> {
                if (ICalendarDate.day(value).isEmpty()) {
                    throw error("the %s has UNTIL=%s; expected a date of the calendar such as 20261225", value);
                }
            }
            case "COUNT", "INTERVAL" -> numbers(name, value, 1, MOST, false);
            case "BYMONTH" -> numbers(name, value, 1, 12, false);
            case "BYMONTHDAY" -> numbers(name, value, 1, 31, true);
            case "BYYEARDAY", "BYSETPOS" -> numbers(name, value, 1, 366, true);
            case "BYWEEKNO" -> numbers(name, value, 1, 53, true);
            case "BYHOUR" -> numbers(name, value, 0, 23, false);
            case "BYMINUTE" -> numbers(name, value, 0, 59, false);
            case "BYSECOND" -> numbers(name, value, 0, 60, false);
            case "BYDAY" -> weekdays(value);
            case "WKST" -> {
                Matcher weekday = WEEKDAY.matcher(value);
                if (!weekday.matches() || weekday.group(1) != null) {
                    throw error("the %s has WKST=%s; expected a weekday: MO, TU, WE, TH, FR, SA or SU", value);
                }
            }
            default -> throw error("the %s has the unknown part '%s'", name);
        }
    }

    private void numbers(String name, String values, int least, int most, boolean negative) {
        for (String value : values.split(",", -1)) {
            boolean isNumber = NUMBER.matcher(value).matches();
            int number = isNumber ? Integer.parseInt(value) : 0;
            int size = negative ? Math.abs(number) : number;
            if (!isNumber || size < least || size > most) {
                throw error(
                        "the %s has %s=%s; expected %s%s",
                        name,
                        value,
                        most == MOST ? "a whole number from " + least : least + " to " + most,
                        negative ? ", or as many from the end with a minus sign" : "");
            }
        }
    }

    private void weekdays(String values) {
        boolean ofMonths = parts.get("FREQ").equals("MONTHLY") || parts.containsKey("BYMONTH");
        for (String value : values.split(",", -1)) {
            Matcher weekday = WEEKDAY.matcher(value);
            if (!weekday.matches()) {
                throw error("the %s has BYDAY=%s; expected weekdays such as MO, or 1MO and -1FR in a month", value);
            }
            if (weekday.group(1) != null) {
                numbers("BYDAY", weekday.group(1), 1, ofMonths ? WEEKS_OF_A_MONTH : 53, true);
            }
        }
    }

    /** Returns an error about the property, which is the first value. */
    private MileException error(String pattern, Object... values) {
        Object[] all = new Object[values.length + 1];
        all[0] = property;
        System.arraycopy(values, 0, all, 1, values.length);
        return DataException.of(pattern + " (RFC 5545)", all).withLocation(location);
    }
}
