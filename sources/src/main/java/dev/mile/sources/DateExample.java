package dev.mile.sources;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.Month;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * The format of dates, given by an example: {@code 31.12.2025}, {@code Dec 31, 2025 2:30 PM}, or the words {@code epoch seconds} and
 * {@code epoch milliseconds}. Years of two digits are 1970 to 2069. Immutable, but for answers that are kept; not for use by several
 * threads.
 */
public final class DateExample {
    /** What a group of digits or letters of the example is. */
    private enum Part {
        YEAR,
        MONTH,
        DAY
    }

    private static final int FIRST_OF_TWO_DIGITS = 1970;
    private static final int CENTURY = 100;
    private static final int NOON = 12;
    /** Files repeat dates; more different ones than this are rare. */
    private static final int MOST_KEPT = 100_000;

    private static final String BLANKS = "[\\s\\u00a0\\u202f]";
    private static final Pattern TIME = Pattern.compile("(?<date>.+?)(?:T|,?" + BLANKS + "+)"
            + "(?<hour>\\d{1,2}):(?<minute>\\d{2})(?::(?<second>\\d{2})(?<fraction>[.,]\\d{1,9})?)?(?:" + BLANKS
            + "*(?<half>[AaPp])\\.?[Mm]\\.?)?" + BLANKS + "*(?<offset>Z|[+-]\\d{2}:?\\d{2})?");
    private static final Pattern DIGITS_TOGETHER = Pattern.compile("\\d{8}");
    private static final Pattern GROUP = Pattern.compile("\\d+|\\p{L}+");

    /** A date in one reading: where its parts stand, and what stands between them. */
    private record Reading(Pattern pattern, List<Part> parts) {}

    private final String example;
    private final Optional<Reading> reading;
    private final long epochUnits;
    private final Map<String, Integer> months;
    private final Map<String, Optional<String>> kept = new HashMap<>();

    private DateExample(String example, Optional<Reading> reading, long epochUnits, Map<String, Integer> months) {
        this.example = example;
        this.reading = reading;
        this.epochUnits = epochUnits;
        this.months = months;
    }

    /**
     * {@return how dates are written, as the example shows}
     *
     * @param example a date as a file has it
     * @param locale the language of names of months
     * @throws ModelException if it is no date, or could be read in two ways
     */
    public static DateExample of(String example, Locale locale) {
        requireNonNull(example, "example is null");
        requireNonNull(locale, "locale is null");
        Map<String, Integer> months = months(locale);
        if (example.equals("epoch seconds")) {
            return new DateExample(example, Optional.empty(), 1, months);
        }
        if (example.equals("epoch milliseconds")) {
            return new DateExample(example, Optional.empty(), 1_000, months);
        }
        String date = date(example);
        Map<String, Reading> readings = readings(date, months);
        if (readings.isEmpty()) {
            throw ModelException.of(
                    "'%s' is not an example of a date; copy one from the file, such as '31.12.2025', or write epoch seconds or epoch"
                            + " milliseconds",
                    example);
        }
        if (readings.size() > 1) {
            throw ModelException.of(
                    "the example '%s' can be read in two ways, as %s; copy a date that tells, such as %s",
                    example,
                    String.join(" and as ", readings.keySet()),
                    readings.values().stream()
                            .map(reading -> "'" + unambiguous(date, reading) + "'")
                            .collect(Collectors.joining(" or ")));
        }
        return new DateExample(example, Optional.of(readings.values().iterator().next()), 0, months);
    }

    /** Returns the readings of a date by the order of its parts. */
    private static Map<String, Reading> readings(String date, Map<String, Integer> months) {
        Map<String, Reading> readings = new LinkedHashMap<>();
        for (List<Part> order : orders(date, months)) {
            reading(date, order, months).ifPresent(found -> read(found, date, months)
                    .ifPresent(day -> readings.put(written(order), found)));
        }
        return readings;
    }

    /**
     * Returns how dates may be written where one is written like a text: none where it is no date, several where it could be read in two
     * ways. The example of each can be read in one way only.
     */
    static List<DateExample> possible(String text, Locale locale) {
        Map<String, Integer> months = months(locale);
        String date = date(text);
        List<DateExample> possible = new ArrayList<>();
        for (Reading reading : readings(date, months).values()) {
            String example = unambiguous(date, reading);
            possible.add(new DateExample(example, Optional.of(reading), 0, months));
        }
        return possible;
    }

    private static String date(String text) {
        Matcher timed = TIME.matcher(text.strip());
        return timed.matches() ? timed.group("date") : text.strip();
    }

    private static Map<String, Integer> months(Locale locale) {
        Map<String, Integer> months = new HashMap<>();
        for (Month month : Month.values()) {
            for (TextStyle style :
                    List.of(TextStyle.FULL, TextStyle.FULL_STANDALONE, TextStyle.SHORT, TextStyle.SHORT_STANDALONE)) {
                String name =
                        month.getDisplayName(style, locale).replace(".", "").toLowerCase(locale);
                if (!name.chars().allMatch(Character::isDigit)) {
                    months.put(name, month.getValue());
                }
            }
        }
        return months;
    }

    /** Returns the orders in which people write the parts of such a date. */
    private static List<List<Part>> orders(String date, Map<String, Integer> months) {
        if (DIGITS_TOGETHER.matcher(date).matches()) {
            return List.of(List.of(Part.YEAR, Part.MONTH, Part.DAY));
        }
        List<List<Part>> orders = new ArrayList<>(
                List.of(List.of(Part.DAY, Part.MONTH, Part.YEAR), List.of(Part.MONTH, Part.DAY, Part.YEAR)));
        // a short year comes first between dashes only
        if (date.matches("\\d{4}.*|\\d{2}-\\d.*")) {
            orders.add(List.of(Part.YEAR, Part.MONTH, Part.DAY));
        }
        return orders;
    }

    private static Optional<Reading> reading(String date, List<Part> order, Map<String, Integer> months) {
        if (DIGITS_TOGETHER.matcher(date).matches()) {
            return Optional.of(new Reading(Pattern.compile("(\\d{4})(\\d{2})(\\d{2})"), order));
        }
        StringBuilder pattern = new StringBuilder();
        Matcher group = GROUP.matcher(date);
        int end = 0;
        int found = 0;
        while (group.find()) {
            boolean letters = Character.isLetter(group.group().codePointAt(0));
            if (letters && !months.containsKey(group.group().toLowerCase(Locale.ROOT))) {
                // a word between: 31 de diciembre de 2025
                continue;
            }
            if (found == order.size()) {
                return Optional.empty();
            }
            pattern.append(between(date.substring(end, group.start())));
            Part part = order.get(found++);
            if (letters && part != Part.MONTH) {
                return Optional.empty();
            }
            int length = group.group().length();
            if (part == Part.YEAR ? length != 2 && length != 4 : !letters && length > 2) {
                return Optional.empty();
            }
            // names of months are short in some files with a dot behind
            pattern.append(letters ? "(\\p{L}+)\\.?" : part == Part.YEAR ? "(\\d{" + length + "})" : "(\\d{1,2})");
            end = group.end();
            if (letters && date.startsWith(".", end)) {
                end++;
            }
        }
        pattern.append(between(date.substring(end)));
        return found == order.size()
                ? Optional.of(new Reading(Pattern.compile(pattern.toString()), order))
                : Optional.empty();
    }

    private static String between(String text) {
        StringBuilder pattern = new StringBuilder();
        for (String piece : text.split("(?<=" + BLANKS + ")|(?=" + BLANKS + ")")) {
            pattern.append(piece.matches(BLANKS + "+") ? BLANKS + "+" : piece.isEmpty() ? "" : Pattern.quote(piece));
        }
        return pattern.toString();
    }

    private static String written(List<Part> order) {
        return String.join(
                ", then ",
                order.stream().map(part -> part.name().toLowerCase(Locale.ROOT)).toList());
    }

    /** Returns the last day of a year, written like a date, in a reading of it. */
    private static String unambiguous(String date, Reading reading) {
        Matcher group = Pattern.compile("\\d+").matcher(date);
        StringBuilder text = new StringBuilder();
        List<Part> digits = new ArrayList<>(reading.parts());
        if (DIGITS_TOGETHER.matcher(date).matches()) {
            return "20251231";
        }
        if (reading.parts().size() > group.results().count()) {
            digits.remove(Part.MONTH);
        }
        group.reset();
        int part = 0;
        while (group.find()) {
            boolean longYear = group.group().length() == 4;
            String value =
                    switch (digits.get(part++)) {
                        case YEAR -> longYear ? "2025" : "99";
                        case MONTH -> "12";
                        case DAY -> "31";
                    };
            group.appendReplacement(text, value);
        }
        return group.appendTail(text).toString();
    }

    private static Optional<LocalDate> read(Reading reading, String date, Map<String, Integer> months) {
        Matcher match = reading.pattern().matcher(date);
        if (!match.matches()) {
            return Optional.empty();
        }
        int year = 0;
        int month = 0;
        int day = 0;
        for (int i = 0; i < reading.parts().size(); i++) {
            String text = match.group(i + 1);
            switch (reading.parts().get(i)) {
                case YEAR -> year = text.length() == 2 ? century(Integer.parseInt(text)) : Integer.parseInt(text);
                case MONTH ->
                    month = Character.isDigit(text.charAt(0))
                            ? Integer.parseInt(text)
                            : months.getOrDefault(text.toLowerCase(Locale.ROOT), 0);
                case DAY -> day = Integer.parseInt(text);
            }
        }
        try {
            return Optional.of(LocalDate.of(year, month, day));
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }

    private static int century(int year) {
        int first = FIRST_OF_TWO_DIGITS - FIRST_OF_TWO_DIGITS % CENTURY;
        return first + year < FIRST_OF_TWO_DIGITS ? first + CENTURY + year : first + year;
    }

    /** {@return the example} */
    public String example() {
        return example;
    }

    /**
     * {@return the date, or the date and its time, as ISO 8601 has it; empty where the text is not written like the example}
     *
     * @param text a value of a file
     */
    public Optional<String> read(String text) {
        requireNonNull(text, "text is null");
        Optional<String> known = kept.get(text);
        if (known == null) {
            known = iso(text.strip());
            if (kept.size() < MOST_KEPT) {
                kept.put(text, known);
            }
        }
        return known;
    }

    private Optional<String> iso(String text) {
        if (reading.isEmpty()) {
            return text.matches("-?\\d{1,15}")
                    ? Optional.of(Instant.ofEpochMilli(Math.multiplyExact(Long.parseLong(text), 1_000 / epochUnits))
                            .toString())
                    : Optional.empty();
        }
        Matcher timed = TIME.matcher(text);
        boolean withTime = timed.matches();
        Optional<LocalDate> date = read(reading.get(), withTime ? timed.group("date") : text, months);
        return withTime
                ? date.flatMap(day -> time(timed).map(time -> day + "T" + time))
                : date.map(LocalDate::toString);
    }

    private static Optional<String> time(Matcher timed) {
        int hour = Integer.parseInt(timed.group("hour"));
        String half = timed.group("half");
        boolean halfDay = half != null;
        if (halfDay && (hour < 1 || hour > NOON)) {
            return Optional.empty();
        }
        if (halfDay) {
            hour = hour % NOON + (half.equalsIgnoreCase("p") ? NOON : 0);
        }
        int minute = Integer.parseInt(timed.group("minute"));
        int second = timed.group("second") == null ? 0 : Integer.parseInt(timed.group("second"));
        if (hour > 23 || minute > 59 || second > 59) {
            return Optional.empty();
        }
        String fraction =
                timed.group("fraction") == null ? "" : timed.group("fraction").replace(',', '.');
        String offset = timed.group("offset") == null ? "" : timed.group("offset");
        return Optional.of(String.format(Locale.ROOT, "%02d:%02d:%02d%s%s", hour, minute, second, fraction, offset));
    }

    @Override
    public String toString() {
        return example;
    }
}
