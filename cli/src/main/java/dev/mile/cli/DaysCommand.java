package dev.mile.cli;

import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.calendar.SupportedDates;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import dev.mile.model.Model;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code mile days}. */
@Command(
        name = "days",
        description = "Counts working days between two dates, or adds working days to one.",
        footer = {"", "Examples:", "  mile days 2026-03-02 2026-04-17", "  mile days 2026-03-02 +10 --week office"})
final class DaysCommand extends BaseCommand implements Callable<Integer> {
    @Parameters(index = "0", paramLabel = "FROM", description = "A date.")
    private String from;

    @Parameters(index = "1", paramLabel = "TO", description = "A date, or +N or -N working days.")
    private String to;

    @Option(names = "--week", paramLabel = "NAME", description = "The working week (default: the model's first).")
    private String weekName;

    @Override
    public Integer call() {
        Model model = Model.read(file);
        WorkingWeek week = week(model);
        int first = day(from);
        if (to.matches("[+-]\\d+(\\.\\d+)?")) {
            add(week, first, new BigDecimal(to));
        } else {
            count(
                    week,
                    first,
                    day(to),
                    model.project().calendars().get(model.project().defaultCalendar()),
                    model.project().weekStarts());
        }
        return 0;
    }

    private WorkingWeek week(Model model) {
        var weeks = model.project().workingWeeks();
        if (weeks.isEmpty()) {
            throw ModelException.of("the model has no working week; add `working: {shops: {rest: [sunday]}}`");
        }
        if (weekName == null) {
            return weeks.values().iterator().next();
        }
        if (!weeks.containsKey(weekName)) {
            throw ModelException.unknownName("working week", weekName, weeks.keySet());
        }
        return weeks.get(weekName);
    }

    private static int day(String text) {
        return EpochDays.of(SupportedDates.require(EpochDays.parse(text)
                .orElseThrow(() -> ModelException.of(
                        "'%s' is not a day of the calendar; expected a date such as 2026-03-02, or +10 for working days ahead",
                        text))));
    }

    private void add(WorkingWeek week, int first, BigDecimal days) {
        int found = week.plusWorkingDays(first, days)
                .orElseThrow(() -> ModelException.of(
                        "%s working days from %s lie outside the days that Mile knows, %s",
                        to, from, SupportedDates.RANGE));
        out().println(EpochDays.toDate(found));
        info(String.format(
                Locale.ROOT,
                "%s working %s %s %s in the working week %s",
                days.abs().toPlainString(),
                days.abs().compareTo(BigDecimal.ONE) == 0 ? "day" : "days",
                days.signum() < 0 ? "before" : "after",
                from,
                week.name()));
        holidays(week, DateRange.ofEpochDays(Math.min(first, found), Math.max(first, found)));
    }

    private void count(WorkingWeek week, int first, int second, FiscalCalendar calendar, DayOfWeek weekStarts) {
        DateRange range = DateRange.ofEpochDays(Math.min(first, second), Math.max(first, second));
        line(
                "inclusive",
                week.workingDaysIn(range).toPlainString() + " working days of "
                        + Messages.quantity(range.length(), "day") + ", first and last included");
        line(
                "elapsed",
                week.workingDaysBetween(first, second).toPlainString() + " working days after " + from
                        + " up to and including " + to);
        StringBuilder units = new StringBuilder();
        for (Level level : calendar.levels()) {
            if (level != Level.DAY) {
                int complete = calendar.completeUnits(first, second, level);
                int crossed = level == Level.WEEK && !calendar.hasNestedWeeks()
                        ? weeksCrossed(first, second, weekStarts)
                        : calendar.boundariesCrossed(first, second, level);
                if (complete != FiscalCalendar.NONE && crossed != FiscalCalendar.NONE) {
                    units.append(units.isEmpty() ? "" : "; ")
                            .append(level.plural())
                            .append(' ')
                            .append(complete)
                            .append(" / ")
                            .append(crossed);
                }
            }
        }
        line("complete / crossed", units.toString());
        holidays(week, range);
    }

    /** Civil weeks begin on their weekday alone, not anew with the fiscal year. */
    private static int weeksCrossed(int first, int second, DayOfWeek weekStarts) {
        return Math.floorDiv(daysSinceWeekStart(second, weekStarts), 7)
                - Math.floorDiv(daysSinceWeekStart(first, weekStarts), 7);
    }

    /** Returns the days since some first day of a week: 1970-01-01 was a Thursday. */
    private static int daysSinceWeekStart(int epochDay, DayOfWeek weekStarts) {
        return epochDay + DayOfWeek.THURSDAY.getValue() - weekStarts.getValue();
    }

    private void line(String name, String text) {
        out().printf(Locale.ROOT, "%-20s%s%n", name, Messages.escaped(text));
    }

    private void holidays(WorkingWeek week, DateRange range) {
        for (int day = range.firstEpochDay(); day <= range.lastEpochDay(); day++) {
            if (!week.holidayName(day).isEmpty()) {
                line(
                        "holiday",
                        EpochDays.toDate(day) + " " + week.holidayName(day) + " ("
                                + week.dayType(day).word() + ")");
            }
        }
    }
}
