package dev.mile.model;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.SupportedDates;
import dev.mile.internal.EpochDays;
import dev.mile.report.Report;
import dev.mile.report.When;
import java.time.LocalDate;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The small texts of a report, the same in the model file and on the command line. */
public final class ReportSyntax {
    private static final Pattern DATES = Pattern.compile("(\\d{4}-\\d{2}-\\d{2})\\s*\\.\\.\\s*(\\d{4}-\\d{2}-\\d{2})");

    private ReportSyntax() {}

    /**
     * {@return the days of {@code 2026-04-01..2026-06-30}, of a span on the as-of day ({@code year to date}), or of a period's label}
     *
     * @param text the text
     * @throws MileException for dates that are none, and for a first day after the last
     */
    public static When when(String text) {
        requireNonNull(text, "text is null");
        Matcher dates = DATES.matcher(text.strip());
        if (dates.matches()) {
            DateRange range = DateRange.of(date(dates.group(1)), date(dates.group(2)));
            if (range.isEmpty()) {
                throw ModelException.of("'%s' begins after it ends; put the earlier date first", text);
            }
            return new When.Dates(range);
        }
        if (text.strip().matches("last \\p{Alpha}+") || spanOf(text).isPresent()) {
            return new When.OnAsOf(MeasureLanguage.span(text));
        }
        return new When.Labelled(text.strip());
    }

    private static Optional<When> spanOf(String text) {
        try {
            return Optional.of(new When.OnAsOf(MeasureLanguage.parse(text, words -> {
                var span = new SpanParser(words).span();
                if (words.peek().kind() != Token.Kind.END) {
                    throw words.unexpected("the end");
                }
                return span;
            })));
        } catch (SyntaxException e) {
            return Optional.empty();
        }
    }

    private static LocalDate date(String text) {
        return SupportedDates.require(EpochDays.parse(text)
                .orElseThrow(() -> ModelException.of("'%s' is not a day of the calendar; write year-month-day", text)));
    }

    /**
     * {@return the order of {@code growth desc}; ascending where no word says so}
     *
     * @param text the text
     */
    public static Report.Sort sort(String text) {
        requireNonNull(text, "text is null");
        Matcher sort = Pattern.compile("(\\w+)(?:\\s+(asc|desc))?").matcher(text.strip());
        if (!sort.matches()) {
            throw ModelException.of(
                    "'%s' is not an order; expected a measure and asc or desc, such as `sales desc`", text);
        }
        return new Report.Sort(sort.group(1), "desc".equals(sort.group(2)));
    }

    /**
     * {@return the first rows of {@code 10 by sales}}
     *
     * @param text the text
     */
    public static Report.Top top(String text) {
        requireNonNull(text, "text is null");
        Matcher top = Pattern.compile("(\\d{1,6})\\s+by\\s+(\\w+)").matcher(text.strip());
        if (!top.matches() || Integer.parseInt(top.group(1)) == 0) {
            throw ModelException.of(
                    "'%s' is not a choice of rows; expected a number and a measure, such as `10 by sales`", text);
        }
        return new Report.Top(Integer.parseInt(top.group(1)), top.group(2));
    }
}
