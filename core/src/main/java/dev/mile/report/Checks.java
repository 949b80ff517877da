package dev.mile.report;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.dimension.DateRangeFinder;
import dev.mile.engine.DateCount;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.ValueType;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.Target;
import dev.mile.report.plan.MeasurePlanner;
import dev.mile.workday.WorkingWeek;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Checks a model and its data. Used once. */
final class Checks {
    // a denominator that is zero in one month of ten makes a growth that misleads
    private static final int OFTEN = 10;
    // a shop may close for a week
    private static final int LONG_GAP = 7;

    private final Session session;
    private final Project project;
    private final List<Finding> findings = new ArrayList<>();

    Checks(Session session) {
        this.session = session;
        this.project = session.project();
    }

    List<Finding> run() {
        range();
        project.facts().values().forEach(this::data);
        if (findings.stream().anyMatch(f -> f.severity() == Finding.Severity.ERROR)) {
            // measures over data that cannot be read say the same again
            return findings;
        }
        measures();
        reports();
        used();
        return findings;
    }

    private void add(Finding.Severity severity, String place, String text, String mend) {
        findings.add(new Finding(severity, place, text, mend));
    }

    private void failed(MileException e, String place) {
        add(Finding.Severity.ERROR, place, e.getMessage(), "");
    }

    private void range() {
        try {
            for (DateRangeFinder.ExcludedDates left : session.excludedDates()) {
                add(
                        Finding.Severity.WARNING,
                        left.source(),
                        Messages.format(
                                "%s dated %s%s, %s%s",
                                Messages.quantity(left.rows(), "row"),
                                left.first(),
                                left.first().equals(left.last()) ? "" : " to " + left.last(),
                                left.sentinel() ? "a date that stands for none" : "far from all others",
                                session.example(left)
                                        .map(row -> ", such as " + row)
                                        .orElse("")),
                        "they are in no period; mend the dates at their source, or leave them out with `keep`");
            }
        } catch (MileException e) {
            failed(e, "dates");
        }
    }

    // ---- data

    private void data(Fact fact) {
        try {
            session.catalog().columnsOf(fact.name()).forEach((column, type) -> {
                if (type == ValueType.FLOATING) {
                    add(
                            Finding.Severity.WARNING,
                            fact.name() + "." + column,
                            "the column holds binary floating numbers, which are not exact decimals",
                            "store amounts as DECIMAL; sums of this column are compensated, not exact");
                }
            });
            accounts(session.accounts(fact.name()));
            if (!fact.plan()) {
                gaps(fact);
            }
        } catch (MileException e) {
            failed(e, fact.name());
        }
    }

    private void accounts(FactAccounts accounts) {
        if (accounts.rejected().lines() > 0) {
            add(
                    Finding.Severity.WARNING,
                    accounts.fact(),
                    Messages.quantity(accounts.rejected().lines(), "line") + " could not be read as rows, such as "
                            + accounts.rejected().example(),
                    "mend the lines: too few or too many values, or a quote that does not close");
        }
        for (RoleAccounts role : accounts.roles()) {
            role.outcomes().forEach((part, account) -> {
                if (part != RoleAccounts.RowOutcome.PLACED && account.rows() > 0) {
                    // an open order has no dispatch date yet: that is as it should be for all roles but the default
                    boolean open = part == RoleAccounts.RowOutcome.NO_DATE
                            && !role.role().equals(accounts.roles().get(0).role());
                    add(
                            open ? Finding.Severity.NOTE : Finding.Severity.WARNING,
                            accounts.fact() + " by " + role.role(),
                            Messages.quantity(account.rows(), "row") + " of "
                                    + Messages.quantity(accounts.kept(), "row") + " "
                                    + part.describe()
                                    + (part == RoleAccounts.RowOutcome.UNREADABLE
                                            ? ", such as '" + role.unreadable() + "'"
                                            : "")
                                    + ReportNotes.amounts(accounts.amounts(), account.amounts()),
                            part == RoleAccounts.RowOutcome.UNREADABLE
                                    ? "write dates as 2026-04-01, periods of plans by their labels"
                                    : "they are in no period of this role");
                }
            });
        }
        accounts.unknownKeys()
                .forEach((column, unknown) -> add(
                        Finding.Severity.WARNING,
                        accounts.fact() + "." + column,
                        Messages.quantity(unknown.rows(), "row") + " with a key that the lookup '" + unknown.lookup()
                                + "' lacks, such as '" + unknown.example() + "'",
                        "add the key to the lookup, or mend it in the fact; the rows count, without attributes"));
    }

    /** Working days without any row, between the first and the as-of date. */
    private void gaps(Fact fact) {
        WorkingWeek week = project.workingWeeks().values().stream().findFirst().orElse(null);
        DateRange covered = session.engine().coverage(fact.name(), fact.defaultRole(), session.dayContext());
        if (week == null || covered.isEmpty()) {
            return;
        }
        Set<Integer> days = new TreeSet<>();
        for (DateCount date : session.engine().dates(fact.name())) {
            if (date.role().equals(fact.defaultRole()) && covered.contains((int) date.day())) {
                days.add((int) date.day());
            }
        }
        int last = covered.firstEpochDay();
        int longest = 0;
        DateRange where = DateRange.EMPTY;
        boolean daily = days.size() * 2 > covered.length();
        for (int day : days) {
            int missed = (int)
                    week.workingDaysIn(DateRange.ofEpochDays(last + 1, day - 1)).doubleValue();
            if (missed > longest) {
                longest = missed;
                where = DateRange.ofEpochDays(last + 1, day - 1);
            }
            last = day;
        }
        if (daily && longest > LONG_GAP) {
            add(
                    Finding.Severity.WARNING,
                    fact.name(),
                    Messages.format("no rows on %s in a row, %s", Messages.quantity(longest, "working day"), where),
                    "check that the export is whole, or list the days as holidays");
        }
    }

    // ---- model

    private MeasurePlanner planner() {
        return new MeasurePlanner(
                session.catalog(), project.measures(), project.workingWeeks().keySet(), List.of(), Optional.empty());
    }

    private void measures() {
        for (MeasureDefinition definition : project.measures().values()) {
            try {
                MeasurePlanner planner = planner();
                planner.plan(new Measure.Named(definition.name()));
                planner.notes()
                        .forEach(note -> add(
                                Finding.Severity.WARNING,
                                definition.place(),
                                "the measure '" + definition.name() + "' can only be blank: " + note,
                                "name a column that the fact has"));
                denominators(definition, definition.expression());
            } catch (MileException e) {
                failed(e.withLocation(definition.place()), definition.place());
            }
        }
        for (Target target : project.targets().values()) {
            try {
                planner().plan(new Measure.Named(target.measure()));
                planner().plan(target.against());
            } catch (MileException e) {
                failed(e.withLocation(target.place()), target.place());
            }
        }
    }

    private void denominators(MeasureDefinition definition, Measure measure) {
        if (measure instanceof Measure.Arithmetic a && a.sign() == RowExpression.Sign.DIVIDED_BY) {
            Level level = session.frame("").calendar("").supports(Level.PERIOD) ? Level.PERIOD : Level.WEEK;
            Grid grid;
            try (Session own = session.with("denominator of " + definition.name(), a.right())) {
                grid = own.report(
                        Report.of("check", List.of(level.word()), List.of("denominator of " + definition.name())));
            }
            long cells = grid.rows().stream()
                    .filter(r -> r.kind() == Grid.RowKind.LEAF)
                    .count();
            long zero = grid.rows().stream()
                    .filter(r -> r.kind() == Grid.RowKind.LEAF)
                    .filter(r -> !r.values().get(0).isBlank()
                            && r.values().get(0).decimal().signum() == 0)
                    .count();
            if (zero * OFTEN > cells) {
                add(
                        Finding.Severity.WARNING,
                        definition.place(),
                        Messages.format(
                                "the measure '%s' divides by `%s`, which is zero in %d of %d %s",
                                definition.name(), a.right(), zero, cells, level.plural()),
                        "a division by zero is blank; divide by something that is not, or say what blank means with `or`");
            }
        }
        measure.parts().forEach(part -> denominators(definition, part));
    }

    /** Lets rows go, since a report may be longer than the memory. */
    private static final class NotesOnly implements GridSink {
        private List<String> notes = List.of();

        @Override
        public void header(Grid.Header head) {}

        @Override
        public void row(Grid.Row row) {}

        @Override
        public void notes(List<String> sentences) {
            notes = sentences;
        }
    }

    private void reports() {
        for (Report report : project.reports().values()) {
            try {
                NotesOnly sink = new NotesOnly();
                session.report(report, sink);
                sink.notes.stream()
                        .filter(note -> note.contains(" is blank"))
                        .forEach(note -> add(
                                Finding.Severity.NOTE,
                                report.place(),
                                "the report '" + report.name() + "': " + note,
                                "use `across` to show the whole there, or another report"));
            } catch (MileException e) {
                failed(e, report.place());
            }
        }
    }

    private void used() {
        Set<String> used = new LinkedHashSet<>();
        project.reports().values().forEach(r -> {
            used.addAll(r.show());
            r.sort().ifPresent(s -> used.add(s.measure()));
            r.top().ifPresent(t -> used.add(t.measure()));
        });
        project.targets().values().forEach(t -> {
            used.add(t.measure());
            used.addAll(t.against().names());
        });
        project.measures().values().forEach(d -> used.addAll(d.expression().names()));
        for (Map.Entry<String, MeasureDefinition> measure : project.measures().entrySet()) {
            if (!used.contains(measure.getKey())) {
                add(
                        Finding.Severity.NOTE,
                        measure.getValue().place(),
                        "no report and no measure uses '" + measure.getKey() + "'",
                        "show it, or take it away");
            }
        }
        for (String target : project.targets().keySet()) {
            if (!used.contains(target)) {
                add(
                        Finding.Severity.NOTE,
                        project.targets().get(target).place(),
                        "no report shows the target '" + target + "'",
                        "show it, or take it away");
            }
        }
    }
}
