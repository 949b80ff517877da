package dev.mile.report.run;

import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import dev.mile.internal.EpochDays;
import dev.mile.internal.LocalFormat;
import dev.mile.internal.Messages;
import dev.mile.report.Report;
import dev.mile.report.axis.LevelAxis;
import dev.mile.report.axis.TimeCell;
import dev.mile.report.plan.CompiledReport;
import dev.mile.report.plan.PlanNode;
import dev.mile.report.plan.ReportPlan;
import dev.mile.span.SpanContext;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Words what a reader of a report must know: the as-of date, the period that it cuts, blanks by design, and rows left out. */
final class ReportNotes {
    private final ProjectData data;
    private final CompiledReport compiled;
    private final LocalFormat local;

    ReportNotes(ProjectData data, CompiledReport compiled) {
        this.data = data;
        this.compiled = compiled;
        this.local = data.local();
    }

    List<String> sentences() {
        Report report = compiled.report();
        List<String> notes = new ArrayList<>();
        data.asOf().ifPresent(asOf -> notes.add(asOf(asOf, report)));
        data.strayDates()
                .ifPresent(stray -> notes.add(Messages.format(
                        "%s of %s from %s on lie too far behind all others to set the as-of date.",
                        local.quantity(stray.rows(), "row"),
                        data.project().facts().keySet().iterator().next(),
                        local.date(EpochDays.toDate(stray.firstDay())))));
        addCutCells(notes);
        addCellsBeforeCoverage(notes);
        report.where().ifPresent(where -> notes.add("Only rows where " + where + "."));
        compiled.plan().notes().forEach(note -> notes.add(note.endsWith(".") ? note : note + "."));
        addBalances(notes);
        Map<String, Set<String>> rolesByFact = new LinkedHashMap<>();
        compiled.totals().series().forEach(series -> rolesByFact
                .computeIfAbsent(series.fact(), f -> new LinkedHashSet<>())
                .add(series.role()));
        addUnlistedDays(rolesByFact, notes);
        rolesByFact.forEach((fact, roles) -> {
            if (!roles.stream().allMatch(role -> data.isFullyPlaced(fact, role))) {
                addAccounts(data.accounts(fact), roles, notes);
            }
        });
        return notes.stream()
                .map(note -> Messages.limited(Messages.escaped(note)))
                .toList();
    }

    /** Accounts for rows on days that no row of the report has, since a listed calendar lacks them. */
    private void addUnlistedDays(Map<String, Set<String>> rolesByFact, List<String> notes) {
        DateRange dimension = data.dimension().range();
        DateRange shown = compiled.axes().when().map(dimension::intersect).orElse(dimension);
        UnlistedDays unlisted = new UnlistedDays(data);
        compiled.axes()
                .finestLevel()
                .ifPresent(axis -> rolesByFact.forEach((fact, roles) -> roles.forEach(
                        role -> unlisted.sentence(axis, fact, role, shown).ifPresent(notes::add))));
    }

    private String asOf(LocalDate asOf, Report report) {
        SpanContext spans = data.spanContext(report.calendar());
        String cut = compiled.axes()
                .finestLevel()
                .flatMap(axis -> cutPeriod(axis, EpochDays.of(asOf)))
                .filter(period -> report.when()
                        .map(when -> when.resolve(spans).contains(EpochDays.of(asOf)))
                        .orElse(true))
                .map(period -> "; " + period.label() + " is not over"
                        + (isCompared() ? ", so it is compared with the same days of others" : ""))
                .orElse("");
        return "Actuals as of " + local.date(asOf) + cut + ".";
    }

    private List<PlanNode.AggregateNode> aggregates() {
        return ReportPlan.aggregates(compiled.plan().shown());
    }

    /** Returns whether anything shown looks at days that a step moved, cut as the cell is. */
    private boolean isCompared() {
        return aggregates().stream()
                .anyMatch(aggregate -> aggregate.window().cutAtAsOf()
                        && aggregate.window().span().isMoved());
    }

    /** Says where balances leave members out; cells whose days are not consecutive are passed over. */
    private void addBalances(List<String> notes) {
        boolean totals = compiled.report().totals();
        Optional<Level> finest = compiled.axes().finestLevel().map(LevelAxis::level);
        List<TimeCell> cells = compiled.axes().timeCells().stream()
                .filter(cell ->
                        cell.filters().isEmpty() && (totals || cell.finest().equals(finest)))
                .toList();
        notes.addAll(new BalanceNotes(data, totals, aggregate -> cells.stream()
                        .map(cell -> compiled.window(aggregate.window(), cell)))
                .sentences(aggregates()));
    }

    /** Names the cells of which `when` keeps only a part. */
    private void addCutCells(List<String> notes) {
        List<String> cut = compiled.axes().cutPeriods();
        if (!cut.isEmpty()) {
            DateRange when = compiled.axes().when().orElseThrow();
            notes.add(Messages.format(
                    "Only %s; of %s not all days are shown.",
                    local.range(when.first(), when.last()), String.join(" and ", cut)));
        }
    }

    /** Names the cells that begin before the covered days of a fact shown. */
    private void addCellsBeforeCoverage(List<String> notes) {
        Optional<LevelAxis> coarsest = compiled.axes().coarsestLevel();
        Set<String> sentences = new LinkedHashSet<>();
        for (PlanNode.AggregateNode aggregate : aggregates()) {
            String fact = aggregate.series().fact();
            DateRange covered = aggregate.alwaysBlankBecause().isPresent()
                    ? DateRange.EMPTY
                    : data.coverage(fact, aggregate.series().role());
            if (covered.isEmpty() || coarsest.isEmpty()) {
                continue;
            }
            coarsest.get()
                    .calendar()
                    .period(coarsest.get().level(), covered.firstEpochDay())
                    .filter(period -> period.range().firstEpochDay() < covered.firstEpochDay())
                    .filter(period -> compiled.axes()
                            .when()
                            .map(when -> !when.intersect(period.range()).isEmpty())
                            .orElse(true))
                    .filter(period ->
                            !period.range().intersect(data.dimension().range()).isEmpty())
                    .map(period -> Messages.format(
                            "%s is not full: %s is covered from %s on.",
                            period.label(), fact, local.date(covered.first())))
                    .ifPresent(sentences::add);
        }
        notes.addAll(sentences);
    }

    /** Returns the period that the as-of date cuts. */
    private static Optional<CalendarPeriod> cutPeriod(LevelAxis axis, int asOf) {
        return axis.calendar()
                .period(axis.level(), asOf)
                .filter(period -> period.range().lastEpochDay() > asOf);
    }

    private void addAccounts(FactAccounts accounts, Set<String> roles, List<String> notes) {
        if (accounts.rejected().lines() > 0) {
            notes.add(accounts.fact() + ": " + AccountsText.rejected(accounts, local) + ".");
        }
        if (accounts.rejected().afterEnd() > 0) {
            notes.add(accounts.fact() + ": " + AccountsText.afterEnd(accounts, local) + ".");
        }
        long notKept = accounts.read() - accounts.rejected().lines() - accounts.kept();
        if (notKept > 0) {
            notes.add(Messages.format(
                    "%s: `keep` leaves %s out%s.",
                    accounts.fact(),
                    local.quantity(notKept, "row"),
                    accounts.undecided() > 0
                            ? Messages.format(
                                    ", %s because a value that it compares is blank",
                                    accounts.undecided() == notKept
                                            ? notKept == 1 ? "it" : "all"
                                            : local.quantity(accounts.undecided(), "row"))
                            : ""));
        }
        for (RoleAccounts role : accounts.roles()) {
            if (!roles.contains(role.role())) {
                continue;
            }
            List<String> outcomes = new ArrayList<>();
            role.outcomes().forEach((outcome, account) -> {
                if (outcome == RoleAccounts.RowOutcome.AFTER_AS_OF) {
                    notes.add(AccountsText.afterAsOf(accounts, role.role(), local));
                } else if (outcome != RoleAccounts.RowOutcome.PLACED) {
                    outcomes.add(AccountsText.outcome(
                            accounts, role, outcome, account, local.quantity(account.rows(), "row"), local));
                }
            });
            if (!outcomes.isEmpty()) {
                notes.add(Messages.format(
                        "Not in any period, %s by %s: %s.", accounts.fact(), role.role(), String.join("; ", outcomes)));
            }
        }
        accounts.unknownKeys()
                .forEach((column, unknown) -> notes.add(Messages.format(
                        "%s: %s with a %s that %s lacks, such as '%s'; they count, but have none of its attributes, and meet no condition on one.",
                        accounts.fact(),
                        local.quantity(unknown.rows(), "row"),
                        column,
                        unknown.lookup(),
                        unknown.example())));
    }
}
