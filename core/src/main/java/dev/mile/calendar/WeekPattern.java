package dev.mile.calendar;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;

/**
 * How the 52 weeks of a year are dealt out to periods: {@code 4-4-5}, {@code 4-5-4}, {@code 5-4-4}, {@code 13x4}, a list of
 * 12 or 13 numbers that add to 52, or {@link #NONE} for years and weeks alone.
 *
 * @param weeks the weeks of each period; empty for {@link #NONE}
 * @param describe the pattern as it was written
 */
public record WeekPattern(List<Integer> weeks, String describe) implements Serializable {
    private static final int MAX_LENGTH = 200;

    /** The weeks of a year without the extra one. */
    static final int WEEKS = 52;

    /** Years and weeks only, as in ISO 8601. */
    public static final WeekPattern NONE = new WeekPattern(List.of(), "none");

    public WeekPattern {
        weeks = List.copyOf(weeks);
        int sum = weeks.stream().mapToInt(Integer::intValue).sum();
        if (!weeks.isEmpty()) {
            if (weeks.stream().anyMatch(w -> w < 1)) {
                throw ModelException.of(
                        "weeks: '%s' has a period without weeks; give each period 1 week or more", describe);
            }
            if (weeks.size() != 12 && weeks.size() != 13) {
                throw ModelException.of(
                        "weeks: '%s' has %d periods; expected 12 or 13 numbers that add to 52", describe, weeks.size());
            }
            if (sum != WEEKS) {
                throw ModelException.of(
                        "weeks: '%s' adds to %d weeks a year; expected 52, such as 4-5-4 (a quarter, four times)",
                        describe, sum);
            }
        }
    }

    /**
     * {@return the pattern of a text: a quarter's pattern of three numbers, {@code 13x4}, a list of 12 or 13 numbers separated by
     * commas, spaces or dashes, or {@code none}}
     *
     * @param text the text
     * @throws MileException if the text is none of these, or its weeks do not add to 52
     */
    public static WeekPattern parse(String text) {
        requireNonNull(text, "text is null");
        String words = text.strip();
        if (words.equals("none")) {
            return NONE;
        }
        if (words.matches("13\\s*x\\s*4")) {
            return new WeekPattern(Collections.nCopies(13, 4), "13x4");
        }
        if (words.length() > MAX_LENGTH || !words.matches("\\[?\\d{1,2}([-,\\s]+\\d{1,2})*\\]?")) {
            throw ModelException.of(
                    "weeks: '%s' is not a pattern; expected 4-4-5, 4-5-4, 5-4-4, 13x4, a list of 12 or 13 numbers adding to 52,"
                            + " or none",
                    words);
        }
        List<Integer> numbers = new ArrayList<>();
        for (String part : words.replaceAll("[\\[\\]]", "").split("[-,\\s]+")) {
            numbers.add(Integer.parseInt(part));
        }
        if (numbers.size() == 3) {
            List<Integer> year = new ArrayList<>();
            for (int quarter = 0; quarter < 4; quarter++) {
                year.addAll(numbers);
            }
            return new WeekPattern(year, words);
        }
        return new WeekPattern(numbers, words);
    }

    boolean hasPeriods() {
        return !weeks.isEmpty();
    }

    boolean hasHalves() {
        return weeks.size() == 12;
    }

    /** Returns the quarter, from 0, of a period, from 0: the 13th of 13 joins the fourth. */
    static int quarterOf(int period) {
        return Math.min(period / 3, 3);
    }
}
