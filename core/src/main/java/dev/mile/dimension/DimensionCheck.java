package dev.mile.dimension;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Checks a date dimension that was made elsewhere against the one that the model makes. Used once. */
public final class DimensionCheck {
    private static final int EXAMPLES = 3;
    private static final String MIDNIGHT = "[ T]00:00(:00(\\.0+)?)?Z?";

    /**
     * Something that is wrong.
     *
     * @param text what
     * @param rows how many rows are concerned
     * @param examples the first of them, with their line
     */
    public record DimensionDifference(String text, long rows, List<String> examples) {}

    private static final class Count {
        private long seen;
        private final List<String> examples = new ArrayList<>();

        private void add(String example) {
            seen++;
            if (examples.size() < EXAMPLES) {
                examples.add(example);
            }
        }
    }

    private final DateDimension model;
    private final Map<String, Count> counts = new LinkedHashMap<>();

    private DimensionCheck(DateDimension model) {
        this.model = model;
    }

    /**
     * {@return what is wrong with the rows; nothing for what Mile writes itself}
     *
     * @param model the dimension that the model makes
     * @param header the names of the columns
     * @param rows the values as texts, the first row being line 2
     */
    public static List<DimensionDifference> check(DateDimension model, List<String> header, List<List<String>> rows) {
        requireNonNull(model, "model is null");
        requireNonNull(header, "header is null");
        requireNonNull(rows, "rows is null");
        return new DimensionCheck(model).run(header, rows);
    }

    private void add(String text, String example) {
        counts.computeIfAbsent(text, t -> new Count()).add(example);
    }

    private List<DimensionDifference> run(List<String> header, List<List<String>> rows) {
        int date = header.indexOf("date");
        if (date < 0) {
            add("there is no column `date`; found " + String.join(", ", header), "line 1");
            return findings();
        }
        Integer previous = null;
        Map<Integer, Integer> seen = new LinkedHashMap<>();
        int first = Integer.MAX_VALUE;
        int last = Integer.MIN_VALUE;
        for (int r = 0; r < rows.size(); r++) {
            String line = "line " + (r + 2);
            String text = rows.get(r).get(date);
            if (text.length() > 10 && !text.substring(10).matches(MIDNIGHT)) {
                add("the date has a time of day", line + ": " + text);
            }
            Optional<LocalDate> day = text.length() < 10 ? Optional.empty() : EpochDays.parse(text.substring(0, 10));
            if (day.isEmpty()) {
                add("the date cannot be read", line + ": '" + text + "'");
                continue;
            }
            int at = EpochDays.of(day.get());
            Integer before = seen.putIfAbsent(at, r + 2);
            if (before != null) {
                add("the date occurs twice", line + ": " + day.get() + ", as in line " + before);
            }
            if (previous != null && at < previous) {
                add("the date comes before that of the row above", line + ": " + day.get());
            }
            previous = at;
            first = Math.min(first, at);
            last = Math.max(last, at);
            values(header, rows.get(r), at, line);
        }
        if (!seen.isEmpty()) {
            for (int day = first; day <= last; day++) {
                if (!seen.containsKey(day)) {
                    add("a date is missing", EpochDays.toDate(day).toString());
                }
            }
            partYears(DateRange.ofEpochDays(first, last));
        }
        return findings();
    }

    private void partYears(DateRange range) {
        boolean begins = model.calendars().isEmpty();
        boolean ends = begins;
        for (FiscalCalendar calendar : model.calendars().values()) {
            begins |=
                    calendar.rangeContaining(Level.YEAR, range.firstEpochDay()).firstEpochDay()
                            == range.firstEpochDay();
            ends |= calendar.rangeContaining(Level.YEAR, range.lastEpochDay()).lastEpochDay() == range.lastEpochDay();
        }
        if (!begins) {
            add("the first year is a part of one in every calendar", "it begins on " + range.first());
        }
        if (!ends) {
            add("the last year is a part of one in every calendar", "it ends on " + range.last());
        }
    }

    private void values(List<String> header, List<String> row, int day, String line) {
        for (int c = 0; c < header.size(); c++) {
            Optional<DateColumn> column = model.column(header.get(c));
            // the running index may begin anywhere
            if (column.isEmpty()
                    || header.get(c).equals("date")
                    || header.get(c).endsWith("working_day_index")) {
                continue;
            }
            Object expected = column.get().value(day);
            if (!same(expected, row.get(c))) {
                add(
                        Messages.format("the column `%s` contradicts the date", header.get(c)),
                        Messages.format(
                                "%s: %s has '%s'; expected '%s'",
                                line, EpochDays.toDate(day), row.get(c), expected == null ? "" : plain(expected)));
            }
        }
    }

    private static String plain(Object value) {
        return value instanceof BigDecimal n ? n.toPlainString() : value.toString();
    }

    private static boolean same(Object expected, String text) {
        String given = text.startsWith("'") ? text.substring(1) : text;
        if (expected == null || given.isEmpty()) {
            return expected == null && given.isEmpty();
        }
        if (expected instanceof Boolean flag) {
            return List.of("true", "yes", "t", "1", "y").contains(given.toLowerCase(Locale.ROOT)) == flag;
        }
        if (expected instanceof Integer || expected instanceof BigDecimal) {
            try {
                return new BigDecimal(given).compareTo(new BigDecimal(plain(expected))) == 0;
            } catch (NumberFormatException e) {
                return false;
            }
        }
        if (expected instanceof LocalDate) {
            return given.equals(expected.toString())
                    || given.startsWith(expected.toString())
                            && given.substring(10).matches(MIDNIGHT);
        }
        return given.equals(expected.toString());
    }

    private List<DimensionDifference> findings() {
        List<DimensionDifference> findings = new ArrayList<>();
        counts.forEach((text, count) -> findings.add(new DimensionDifference(text, count.seen, count.examples)));
        return findings;
    }
}
