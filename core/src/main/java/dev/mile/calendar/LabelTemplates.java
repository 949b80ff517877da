package dev.mile.calendar;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.internal.Messages;
import dev.mile.internal.MonthAndWeekdayNames;
import java.io.Serializable;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * How a calendar's periods are labelled: {@code FY{year} P{period}} gives {@code FY2026 P01}.
 *
 * <p>A template may hold, in braces, {@code year}, {@code yy} (two digits), {@code half}, {@code quarter}, {@code period},
 * {@code week} (the last two with two digits), and, of the civil month that holds the period's middle day,
 * {@code civil_year}, {@code civil_month} (two digits), {@code mon} (short name) and {@code month_name}. The middle day is
 * taken so that a period from March 29 to May 2 is April's.
 */
public final class LabelTemplates implements Serializable {
    private static final long serialVersionUID = 1L;

    private static final Pattern PLACE = Pattern.compile("\\{([^{}]*)\\}");
    private static final List<String> PLACES = List.of(
            "year", "yy", "half", "quarter", "period", "week", "civil_year", "civil_month", "mon", "month_name");

    /** {@code FY2026}, {@code FY2026 H1}, {@code FY2026 Q1}, {@code FY2026 P01}, {@code FY2026 W01}. */
    public static final LabelTemplates DEFAULT = new LabelTemplates(Map.of(
            Level.YEAR, "FY{year}",
            Level.HALF, "FY{year} H{half}",
            Level.QUARTER, "FY{year} Q{quarter}",
            Level.PERIOD, "FY{year} P{period}",
            Level.WEEK, "FY{year} W{week}"));

    private final Map<Level, String> templates;
    private final EnumMap<Level, List<Piece>> pieces = new EnumMap<>(Level.class);

    /** A literal text, or a placeholder. */
    private record Piece(String text, boolean place) implements Serializable {}

    private LabelTemplates(Map<Level, String> templates) {
        this.templates = Map.copyOf(templates);
        templates.forEach((level, template) -> pieces.put(level, pieces(template)));
    }

    private static List<Piece> pieces(String template) {
        List<Piece> pieces = new ArrayList<>();
        Matcher place = PLACE.matcher(template);
        int at = 0;
        while (place.find()) {
            pieces.add(new Piece(template.substring(at, place.start()), false));
            pieces.add(new Piece(place.group(1), true));
            at = place.end();
        }
        pieces.add(new Piece(template.substring(at), false));
        return pieces;
    }

    /**
     * {@return these templates with another one for the level}
     *
     * @param level the level
     * @param template the template
     * @throws MileException for the level DAY, whose label is its ISO date, and for an unknown word between braces
     */
    public LabelTemplates with(Level level, String template) {
        requireNonNull(level, "level is null");
        requireNonNull(template, "template is null");
        if (level == Level.DAY) {
            throw ModelException.of(
                    "days are labelled by their ISO date; give templates to year, half, quarter, month, week");
        }
        Matcher place = PLACE.matcher(template);
        while (place.find()) {
            if (!PLACES.contains(place.group(1))) {
                throw ModelException.of(
                        "unknown word {%s} in the label template '%s'%s",
                        place.group(1), template, Messages.didYouMean(place.group(1), PLACES));
            }
        }
        Map<Level, String> more = new EnumMap<>(templates);
        more.put(level, template);
        return new LabelTemplates(more);
    }

    /** Returns whether a level has its default template, whose labels are known to distinguish periods. */
    boolean isDefault(Level level) {
        return DEFAULT.templates.get(level).equals(templates.get(level));
    }

    String label(Level level, int year, Map<Level, Integer> numbers, DateRange range, MonthAndWeekdayNames names) {
        LocalDate middle = LocalDate.ofEpochDay(Math.floorDiv(range.firstEpochDay() + range.lastEpochDay(), 2));
        StringBuilder label = new StringBuilder();
        for (Piece piece : pieces.get(level)) {
            if (!piece.place()) {
                label.append(piece.text());
                continue;
            }
            label.append(
                    switch (piece.text()) {
                        case "year" -> Integer.toString(year);
                        case "yy" -> two(Math.floorMod(year, 100));
                        case "half" -> Integer.toString(numbers.getOrDefault(Level.HALF, 0));
                        case "quarter" -> Integer.toString(numbers.getOrDefault(Level.QUARTER, 0));
                        case "period" -> two(numbers.getOrDefault(Level.PERIOD, 0));
                        case "week" -> two(numbers.getOrDefault(Level.WEEK, 0));
                        case "civil_year" -> Integer.toString(middle.getYear());
                        case "civil_month" -> two(middle.getMonthValue());
                        case "mon" -> names.shortMonth(middle.getMonthValue());
                        default -> names.month(middle.getMonthValue());
                    });
        }
        return label.toString();
    }

    private static String two(int number) {
        return number < 10 ? "0" + number : Integer.toString(number);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof LabelTemplates l && l.templates.equals(templates);
    }

    @Override
    public int hashCode() {
        return templates.hashCode();
    }
}
