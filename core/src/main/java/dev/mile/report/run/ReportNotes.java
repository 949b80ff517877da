package dev.mile.report.run;

import dev.mile.calendar.CalendarPeriod;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import dev.mile.report.Report;
import dev.mile.report.axis.LevelAxis;
import dev.mile.report.plan.CompiledReport;
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

    ReportNotes(ProjectData data, CompiledReport compiled) {
        this.data = data;
        this.compiled = compiled;
    }

    List<String> sentences() {
        Report report = compiled.report();
        List<String> notes = new ArrayList<>();
        data.asOf().ifPresent(asOf -> notes.add(asOf(asOf, report)));
        report.where().ifPresent(where -> notes.add("Only rows where " + where + "."));
        compiled.plan().notes().forEach(note -> notes.add(note.endsWith(".") ? note : note + "."));
        Map<String, Set<String>> rolesByFact = new LinkedHashMap<>();
        compiled.totals().series().forEach(series -> rolesByFact
                .computeIfAbsent(series.fact(), f -> new LinkedHashSet<>())
                .add(series.role()));
        rolesByFact.forEach((fact, roles) -> {
            if (!roles.stream().allMatch(role -> data.isFullyPlaced(fact, role))) {
                addAccounts(data.accounts(fact), roles, notes);
            }
        });
        return notes;
    }

    private String asOf(LocalDate asOf, Report report) {
        SpanContext spans = data.spanContext(report.calendar());
        String cut = compiled.axes()
                .finestLevel()
                .flatMap(axis -> cutPeriod(axis, EpochDays.of(asOf)))
                .filter(period -> report.when()
                        .map(when -> when.resolve(spans).contains(period.range().firstEpochDay()))
                        .orElse(true))
                .map(period -> "; " + period.label() + " is not over, so it is compared with the same days of others")
                .orElse("");
        return "Actuals as of " + asOf + cut + ".";
    }

    /** Returns the period that the as-of date cuts. */
    private static Optional<CalendarPeriod> cutPeriod(LevelAxis axis, int asOf) {
        return axis.calendar()
                .period(axis.level(), asOf)
                .filter(period -> period.range().lastEpochDay() > asOf);
    }

    private static void addAccounts(FactAccounts accounts, Set<String> roles, List<String> notes) {
        if (accounts.rejected().lines() > 0) {
            notes.add(accounts.fact() + ": " + AccountsText.rejected(accounts) + ".");
        }
        for (RoleAccounts role : accounts.roles()) {
            if (!roles.contains(role.role())) {
                continue;
            }
            List<String> outcomes = new ArrayList<>();
            role.outcomes().forEach((outcome, account) -> {
                if (outcome != RoleAccounts.RowOutcome.PLACED) {
                    outcomes.add(AccountsText.outcome(
                            accounts, role, outcome, account, Messages.quantity(account.rows(), "row")));
                }
            });
            if (!outcomes.isEmpty()) {
                notes.add(Messages.format(
                        "Not in any period, %s by %s: %s.", accounts.fact(), role.role(), String.join("; ", outcomes)));
            }
        }
        accounts.unknownKeys()
                .forEach((column, unknown) -> notes.add(Messages.format(
                        "%s: %s with a %s that %s lacks, such as '%s'; they count, without its attributes.",
                        accounts.fact(),
                        Messages.quantity(unknown.rows(), "row"),
                        column,
                        unknown.lookup(),
                        unknown.example())));
    }
}
