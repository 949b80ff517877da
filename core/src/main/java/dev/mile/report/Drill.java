package dev.mile.report;

import dev.mile.MileException;
import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.Level;
import dev.mile.span.SpanContext;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Opens one period of a report one level down. */
final class Drill {
    private Drill() {}

    /** Returns the report of the parts of the period: at the next level that the report has, or that its calendar has. */
    static Report into(Report report, String label, SpanContext frame) {
        CalendarPeriod period = frame.period(label);
        String own = frame.calendarOfPeriod(label).orElse(frame.defaultCalendar());
        Level next = report.rows().stream()
                .flatMap(part -> levelOf(part, own, frame).stream())
                .filter(period.level()::isCoarserThan)
                .findFirst()
                .or(() -> frame.calendars().get(own).levels().stream()
                        .filter(period.level()::isCoarserThan)
                        .findFirst())
                .orElseThrow(() -> MileException.invalidModel("'%s' is a day, which has no parts to open", label));
        List<Report.AxisSpec> rows = new ArrayList<>();
        rows.add(new Report.NamedAxis(own.equals(frame.defaultCalendar()) ? next.word() : own + "." + next.word()));
        report.rows().stream().filter(part -> !isTime(part, frame)).forEach(rows::add);
        String title = report.title().isEmpty() ? report.name() : report.title();
        return report.by(rows, report.columns())
                .when(Optional.of(new When.Labelled(label)))
                .withTitle(title + ", " + period.label());
    }

    private static boolean isTime(Report.AxisSpec part, SpanContext frame) {
        return part instanceof Report.RecentPeriods
                || frame.calendars().keySet().stream()
                        .anyMatch(name -> levelOf(part, name, frame).isPresent());
    }

    /** Returns the level of the part, where it is one of the calendar. */
    private static Optional<Level> levelOf(Report.AxisSpec part, String calendar, SpanContext frame) {
        if (!(part instanceof Report.NamedAxis name)) {
            return Optional.empty();
        }
        String text = name.text();
        if (text.startsWith(calendar + ".")) {
            return Level.parse(text.substring(calendar.length() + 1));
        }
        if (!calendar.equals(frame.defaultCalendar())) {
            return Optional.empty();
        }
        return text.equals("date") ? Optional.of(Level.DAY) : Level.parse(text);
    }
}
