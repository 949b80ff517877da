package dev.mile.report;

import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import dev.mile.internal.Messages;
import dev.mile.report.plan.PlanNode;
import dev.mile.span.SpanContext;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Words what a reader of a report must know: the as-of date, the period it cuts, blanks by design, and rows left out. */
final class ReportNotes {
    private final Session session;
    private final Report report;
    private final SpanContext frame;
    private final List<String> planned;

    ReportNotes(Session session, Report report, SpanContext frame, List<String> planned) {
        this.session = session;
        this.report = report;
        this.frame = frame;
        this.planned = planned;
    }

    List<String> notes(Optional<AxisPart.OfLevel> finest, List<PlanNode.Series> series) {
        List<String> notes = new ArrayList<>();
        session.asOf().ifPresent(asOf -> {
            String cut = finest.flatMap(level -> GridBuilder.cutPeriod(level, frame.asOf()))
                    .filter(p -> report.when()
                            .map(w -> w.resolve(frame).contains(p.range().firstEpochDay()))
                            .orElse(true))
                    .map(p -> Messages.format(
                            "; %s is not over, so it is compared with the same days of others", p.label()))
                    .orElse("");
            notes.add("Actuals as of " + asOf + cut + ".");
        });
        report.where().ifPresent(where -> notes.add("Only rows where " + where + "."));
        planned.forEach(note -> notes.add(sentence(note)));
        Map<String, Set<String>> roles = new LinkedHashMap<>();
        series.forEach(
                s -> roles.computeIfAbsent(s.fact(), f -> new LinkedHashSet<>()).add(s.role()));
        roles.forEach((fact, used) -> {
            if (!used.stream().allMatch(role -> session.isWhole(fact, role))) {
                accounts(session.accounts(fact), used, notes);
            }
        });
        return notes;
    }

    private static String sentence(String note) {
        return note.endsWith(".") ? note : note + ".";
    }

    private static void accounts(FactAccounts accounts, Set<String> roles, List<String> notes) {
        if (accounts.rejected().lines() > 0) {
            notes.add(Messages.format(
                    "%s: %s could not be read as rows, such as %s.",
                    accounts.fact(),
                    Messages.quantity(accounts.rejected().lines(), "line"),
                    accounts.rejected().example()));
        }
        for (RoleAccounts role : accounts.roles()) {
            if (!roles.contains(role.role())) {
                continue;
            }
            List<String> parts = new ArrayList<>();
            role.outcomes().forEach((part, account) -> {
                if (part != RoleAccounts.RowOutcome.PLACED) {
                    String example =
                            part == RoleAccounts.RowOutcome.UNREADABLE ? ", such as '" + role.unreadable() + "'" : "";
                    parts.add(Messages.quantity(account.rows(), "row") + " " + part.describe() + example
                            + amounts(accounts.amounts(), account.amounts()));
                }
            });
            if (!parts.isEmpty()) {
                notes.add(Messages.format(
                        "Not in any period, %s by %s: %s.", accounts.fact(), role.role(), String.join("; ", parts)));
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

    static String amounts(List<String> names, BigDecimal[] sums) {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            if (sums[i] != null) {
                parts.add(names.get(i) + " " + sums[i].toPlainString());
            }
        }
        return parts.isEmpty() ? "" : " (" + String.join(", ", parts) + ")";
    }
}
