package dev.mile.report.run;

import dev.mile.MileException;
import dev.mile.SourceLocation;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.calendar.SupportedDates;
import dev.mile.dimension.ExcludedDates;
import dev.mile.engine.DateCount;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.ValueType;
import dev.mile.internal.LocalFormat;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.Target;
import dev.mile.report.Finding;
import dev.mile.report.Grid;
import dev.mile.report.GridCollector;
import dev.mile.report.GridSink;
import dev.mile.report.ModelElement;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.plan.CompiledReport;
import dev.mile.report.plan.MeasurePlanner;
import dev.mile.workday.WorkingWeek;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Checks a model and its data. Used once. */
public final class ProjectChecker {
    // a denominator that is zero in one month of ten makes a growth that misleads
    private static final int MAX_ZERO_RATIO = 10;
    // a shop may close for a week
    private static final int MAX_GAP_DAYS = 7;
    /** Fewer different dates, or days of the month, show nothing. */
    private static final int MIN_DATES = 12;

    private static final int MIN_DAYS_OF_MONTH = 4;
    private static final int MONTHS = 12;

    private final ProjectData data;
    private final Project project;
    private final List<Finding> findings = new ArrayList<>();

    /** Whether something could not be read at all. */
    private boolean hasFailed;

    /** What the filter of a fact is called by whoever wrote the project. */
    private final String filter;

    /** Returns a checker of a project and its data. */
    public ProjectChecker(ProjectData data) {
        this.data = data;
        this.project = data.project();
        this.filter = project.isFromModelFile() ? "`keep`" : "the filter of the fact";
    }

    /** Returns all that was found. */
    public List<Finding> check() {
        checkDateRange();
        project.facts().values().forEach(this::checkFact);
        if (hasFailed) {
            // measures over data that cannot be read say the same again
            return findings;
        }
        checkLabels();
        checkMeasures();
        checkReports();
        checkUnused();
        return findings;
    }

    private void add(Finding.Severity severity, String subject, String text, String remedy) {
        add(severity, subject, Optional.empty(), text, remedy);
    }

    private void add(
            Finding.Severity severity, String subject, Optional<SourceLocation> location, String text, String remedy) {
        findings.add(new Finding(severity, subject, location, text, Optional.of(remedy)));
    }

    private void addFailure(MileException e, String subject, Optional<SourceLocation> location) {
        MileException worded = project.isFromModelFile() ? e.inModelWords() : e;
        MileException at = location.map(worded::withLocation).orElse(worded);
        hasFailed = true;
        findings.add(new Finding(Finding.Severity.ERROR, subject, at.location(), at.sentence(), Optional.empty()));
    }

    private void checkDateRange() {
        try {
            for (ExcludedDates excluded : data.excludedDates()) {
                add(
                        Finding.Severity.WARNING,
                        excluded.source(),
                        Messages.format(
                                "%s dated %s%s, %s%s",
                                Messages.quantity(excluded.rows(), "row"),
                                excluded.first(),
                                excluded.first().equals(excluded.last()) ? "" : " to " + excluded.last(),
                                excluded.sentinel() ? "a date that means none" : "far from all others",
                                data.example(excluded)
                                        .map(row -> ", such as " + row)
                                        .orElse("")),
                        "they are in no period; correct the dates at their source, or leave them out with " + filter);
            }
        } catch (MileException e) {
            addFailure(e, "dates", Optional.empty());
        }
    }

    // ---- data

    private void checkFact(Fact fact) {
        try {
            data.names().columnsOf(fact.name()).forEach((column, type) -> {
                if (type == ValueType.FLOATING && !fact.columns().containsKey(column)) {
                    add(
                            Finding.Severity.WARNING,
                            fact.name() + "." + column,
                            "the column holds binary floating numbers, which are not exact decimals",
                            "store amounts as DECIMAL; sums of this column are compensated, not exact");
                }
            });
            checkAccounts(data.accounts(fact.name()));
            if (!fact.plan()) {
                checkGaps(fact);
                checkDayAndMonth(fact);
            }
        } catch (MileException e) {
            addFailure(e, fact.name(), Optional.empty());
        }
    }

    private void checkAccounts(FactAccounts accounts) {
        if (accounts.rejected().lines() > 0) {
            add(
                    Finding.Severity.WARNING,
                    accounts.fact(),
                    AccountsText.rejected(accounts, LocalFormat.PLAIN),
                    "correct the lines: too few or too many values, or a quote that does not close");
        }
        if (accounts.rejected().afterEnd() > 0) {
            add(
                    Finding.Severity.NOTE,
                    accounts.fact(),
                    AccountsText.afterEnd(accounts, LocalFormat.PLAIN),
                    "`until` at the source says where the table ends; correct it if they belong to the table");
        }
        if (accounts.undecided() > 0) {
            add(
                    Finding.Severity.NOTE,
                    accounts.fact(),
                    Messages.quantity(accounts.undecided(), "row") + " that " + filter
                            + " leaves out because a value that it compares is blank",
                    "say in " + filter + " what becomes of blanks: add `or … is blank` to count them");
        }
        for (RoleAccounts role : accounts.roles()) {
            role.outcomes().forEach((outcome, account) -> {
                if (outcome != RoleAccounts.RowOutcome.PLACED && account.rows() > 0) {
                    checkOutcome(accounts, role, outcome, account);
                }
            });
        }
        accounts.unknownKeys()
                .forEach((column, unknown) -> add(
                        Finding.Severity.WARNING,
                        accounts.fact() + "." + column,
                        Messages.quantity(unknown.rows(), "row") + " with a key that the lookup '" + unknown.lookup()
                                + "' lacks, such as '" + unknown.example() + "'",
                        "add the key to the lookup, or correct it in the fact; the rows count, without attributes"));
    }

    private void checkOutcome(
            FactAccounts accounts, RoleAccounts role, RoleAccounts.RowOutcome outcome, RoleAccounts.Account account) {
        // an open order has no dispatch date yet: that is as it should be for all roles but the default
        boolean open = outcome == RoleAccounts.RowOutcome.AFTER_AS_OF
                || outcome == RoleAccounts.RowOutcome.NO_DATE
                        && !role.role().equals(accounts.roles().get(0).role());
        Finding.Severity severity =
                outcome == RoleAccounts.RowOutcome.UNREADABLE ? Finding.Severity.ERROR : Finding.Severity.WARNING;
        add(
                open ? Finding.Severity.NOTE : severity,
                accounts.fact() + " by " + role.role(),
                AccountsText.outcome(
                        accounts,
                        role,
                        outcome,
                        account,
                        Messages.quantity(account.rows(), "row") + " of " + Messages.quantity(accounts.kept(), "row"),
                        LocalFormat.PLAIN),
                outcome == RoleAccounts.RowOutcome.UNREADABLE
                        ? "write dates as 2026-04-01, periods of plans by their labels"
                        : outcome == RoleAccounts.RowOutcome.AFTER_AS_OF
                                ? "they never count; a later as-of date takes them in"
                                : "they are in no period of this role");
    }

    private static boolean isSupported(long day) {
        return day >= SupportedDates.RANGE.firstEpochDay() && day <= SupportedDates.RANGE.lastEpochDay();
    }

    /** Dates none of which falls after the 12th of its month: day and month may be swapped. */
    private void checkDayAndMonth(Fact fact) {
        for (String role : fact.roles()) {
            Set<Integer> days = new TreeSet<>();
            Set<LocalDate> dates = new TreeSet<>();
            for (DateCount date : data.engine().dates(fact.name())) {
                if (date.role().equals(role) && isSupported(date.day())) {
                    LocalDate on = LocalDate.ofEpochDay(date.day());
                    dates.add(on);
                    days.add(on.getDayOfMonth());
                }
            }
            // monthly figures stand on one day of the month
            if (dates.size() >= MIN_DATES && days.size() >= MIN_DAYS_OF_MONTH && Collections.max(days) <= MONTHS) {
                add(
                        Finding.Severity.WARNING,
                        fact.name() + " by " + role,
                        Messages.format(
                                "none of %s falls after the 12th of its month",
                                Messages.quantity(dates.size(), "different date")),
                        "day and month may be swapped: compare some dates with the file, and set `dates:` at the source to"
                                + " an example that shows which comes first");
            }
        }
    }

    /** Working days without any row, between the first and the as-of date. */
    private void checkGaps(Fact fact) {
        WorkingWeek week = project.workingWeeks().values().stream().findFirst().orElse(null);
        DateRange covered = data.engine().coverage(fact.name(), fact.defaultRole(), data.dayContext());
        if (week == null || covered.isEmpty()) {
            return;
        }
        Set<Integer> days = new TreeSet<>();
        for (DateCount date : data.engine().dates(fact.name())) {
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
        if (daily && longest > MAX_GAP_DAYS) {
            add(
                    Finding.Severity.WARNING,
                    fact.name(),
                    Messages.format("no rows on %s in a row, %s", Messages.quantity(longest, "working day"), where),
                    "check that the export is complete, or list the days as holidays");
        }
    }

    // ---- model

    private MeasurePlanner planner() {
        return new MeasurePlanner(data.names(), project, List.of(), Optional.empty());
    }

    private void checkLabels() {
        project.labels().keySet().forEach(dimension -> {
            int dot = dimension.indexOf('.');
            List<String> tables =
                    dot < 0 ? List.copyOf(project.facts().keySet()) : List.of(dimension.substring(0, dot));
            Set<String> columns = new LinkedHashSet<>();
            tables.forEach(table -> columns.addAll(data.names().columnsOf(table).keySet()));
            String column = dimension.substring(dot + 1);
            if (!columns.contains(column)) {
                add(
                        Finding.Severity.WARNING,
                        dimension,
                        "`labels` names the column '" + column + "', which is not there"
                                + Messages.didYouMean(column, columns),
                        "name a column of the fact or lookup");
            }
        });
    }

    private void checkMeasures() {
        for (MeasureDefinition definition : project.measures().values()) {
            Optional<SourceLocation> location = project.location(ModelElement.MEASURE, definition.name());
            try {
                MeasurePlanner planner = planner();
                planner.plan(new Measure.Named(definition.name()));
                planner.notes()
                        .forEach(note -> add(
                                Finding.Severity.WARNING,
                                definition.name(),
                                location,
                                "the measure '" + definition.name() + "' can only be blank: " + note,
                                "name a column that the fact has"));
                checkDenominators(definition, definition.expression(), location);
            } catch (MileException e) {
                addFailure(e, definition.name(), location);
            }
        }
        for (Target target : project.targets().values()) {
            try {
                planner().plan(new Measure.Named(target.measure()));
                planner().plan(target.against());
            } catch (MileException e) {
                addFailure(e, target.name(), project.location(ModelElement.TARGET, target.name()));
            }
        }
    }

    private void checkDenominators(MeasureDefinition definition, Measure measure, Optional<SourceLocation> location) {
        if (measure instanceof Measure.Arithmetic a && a.sign() == RowExpression.Sign.DIVIDED_BY) {
            Level level = data.spanContext().calendar().supports(Level.PERIOD) ? Level.PERIOD : Level.WEEK;
            String name = "denominator of " + definition.name();
            GridCollector grid = new GridCollector();
            runner(data.withMeasure(name, a.right()))
                    .run(Report.of("check", List.of(level.word()), List.of(name)), grid);
            List<Grid.Row> cells = grid.grid().rows().stream()
                    .filter(row -> row.kind() == Grid.RowKind.LEAF)
                    .toList();
            long zero = cells.stream()
                    .filter(row -> !row.values().get(0).isBlank()
                            && row.values().get(0).decimal().signum() == 0)
                    .count();
            if (zero * MAX_ZERO_RATIO > cells.size()) {
                add(
                        Finding.Severity.WARNING,
                        definition.name(),
                        location,
                        Messages.format(
                                "the measure '%s' divides by `%s`, which is zero in %d of %d %s",
                                definition.name(), a.right(), zero, cells.size(), level.plural()),
                        "a division by zero is blank; divide by something that is not, or say what blank means with `or`");
            }
        }
        measure.parts().forEach(part -> checkDenominators(definition, part, location));
    }

    private static ReportRunner runner(ProjectData data) {
        return new ReportRunner(data, false, Long.MAX_VALUE, fraction -> {});
    }

    /** Discards a report, of which only the notes of its plan are needed. */
    private static final class DiscardingSink implements GridSink {
        @Override
        public void header(Grid.Header header) {}

        @Override
        public void row(Grid.Row row) {}

        @Override
        public void notes(List<String> notes) {}
    }

    private void checkReports() {
        for (Report report : project.reports().values()) {
            Optional<SourceLocation> location = project.location(ModelElement.REPORT, report.name());
            try {
                CompiledReport compiled = runner(data).run(report, new DiscardingSink());
                compiled.plan()
                        .notes()
                        .forEach(note -> add(
                                Finding.Severity.NOTE,
                                report.name(),
                                location,
                                "the report '" + report.name() + "': " + note + ".",
                                "use `across` to show the whole there, or another report"));
            } catch (MileException e) {
                addFailure(project.located(e, ModelElement.REPORT, report.name()), report.name(), Optional.empty());
            }
        }
    }

    private void checkUnused() {
        Set<String> used = new LinkedHashSet<>();
        project.reports().values().forEach(report -> {
            used.addAll(report.show());
            report.sort().ifPresent(sort -> used.add(sort.measure()));
            report.top().ifPresent(top -> used.add(top.measure()));
        });
        project.targets().values().forEach(target -> {
            used.add(target.measure());
            used.addAll(target.against().names());
        });
        project.measures()
                .values()
                .forEach(definition -> used.addAll(definition.expression().names()));
        for (String measure : project.measures().keySet()) {
            if (!used.contains(measure)) {
                add(
                        Finding.Severity.NOTE,
                        measure,
                        project.location(ModelElement.MEASURE, measure),
                        "no report and no measure uses '" + measure + "'",
                        "show it, or remove it");
            }
        }
        for (String target : project.targets().keySet()) {
            if (!used.contains(target)) {
                add(
                        Finding.Severity.NOTE,
                        target,
                        project.location(ModelElement.TARGET, target),
                        "no report shows the target '" + target + "'",
                        "show it, or remove it");
            }
        }
    }
}
