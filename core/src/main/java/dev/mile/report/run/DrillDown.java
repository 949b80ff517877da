package dev.mile.report.run;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.Level;
import dev.mile.report.Report;
import dev.mile.report.When;
import dev.mile.span.SpanContext;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Opens one period of a report one level down. */
public final class DrillDown {
    private DrillDown() {}

    /**
     * Returns the report of the parts of the period: at the next level that the report has, or that its calendar has.
     *
     * @throws MileException if no calendar has the period, or it is a day
     */
    public static Report into(Report report, String label, SpanContext spans) {
        CalendarPeriod period = spans.period(label);
        String calendar = spans.calendarOfPeriod(label).orElse(spans.defaultCalendar());
        Level next = report.rows().stream()
                .flatMap(axis -> levelOf(axis, calendar, spans).stream())
                .filter(period.level()::isCoarserThan)
                .findFirst()
                .or(() -> spans.calendars().get(calendar).levels().stream()
                        .filter(period.level()::isCoarserThan)
                        .findFirst())
                .orElseThrow(() -> ModelException.of("'%s' is a day, which has no parts to open", label));
        List<Report.AxisSpec> rows = new ArrayList<>();
        rows.add(new Report.NamedAxis(
                calendar.equals(spans.defaultCalendar()) ? next.word() : calendar + "." + next.word()));
        report.rows().stream().filter(axis -> !isTime(axis, spans)).forEach(rows::add);
        return report.withRows(rows)
                .withWhen(new When.Labelled(label))
                .withTitle(report.title().orElse(report.name()) + ", " + period.label());
    }

    private static boolean isTime(Report.AxisSpec axis, SpanContext spans) {
        return axis instanceof Report.RecentPeriods
                || spans.calendars().keySet().stream()
                        .anyMatch(name -> levelOf(axis, name, spans).isPresent());
    }

    /** Returns the level of the axis, where it is one of the calendar. */
    private static Optional<Level> levelOf(Report.AxisSpec axis, String calendar, SpanContext spans) {
        if (!(axis instanceof Report.NamedAxis named)) {
            return Optional.empty();
        }
        String text = named.text();
        if (text.startsWith(calendar + ".")) {
            return Level.parse(text.substring(calendar.length() + 1));
        }
        if (!calendar.equals(spans.defaultCalendar())) {
            return Optional.empty();
        }
        return text.equals("date") ? Optional.of(Level.DAY) : Level.parse(text);
    }
}
