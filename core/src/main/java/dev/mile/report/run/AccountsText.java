package dev.mile.report.run;

import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import dev.mile.internal.LocalFormat;
import dev.mile.internal.Messages;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;

/** Words the accounts of a fact, alike under a report, in an explanation and in a check. */
final class AccountsText {
    private AccountsText() {}

    /** Returns how many rows had an outcome in a role, with an example and their amounts. */
    static String outcome(
            FactAccounts accounts,
            RoleAccounts role,
            RoleAccounts.RowOutcome outcome,
            RoleAccounts.Account account,
            String rows,
            LocalFormat local) {
        String example = outcome == RoleAccounts.RowOutcome.UNREADABLE ? ", such as " + role.unreadable() : "";
        return rows + " " + outcome.describe() + example + amounts(accounts.amounts(), account.amounts(), local);
    }

    /** Returns how many rows of a role lie after the as-of date, as a sentence. */
    static String afterAsOf(FactAccounts accounts, String role, LocalFormat local) {
        RoleAccounts found = accounts.roles().stream()
                .filter(account -> account.role().equals(role))
                .findFirst()
                .orElseThrow();
        RoleAccounts.Account account = found.outcomes().get(RoleAccounts.RowOutcome.AFTER_AS_OF);
        return Messages.format(
                "Not counted, %s by %s: %s.",
                accounts.fact(),
                role,
                outcome(
                        accounts,
                        found,
                        RoleAccounts.RowOutcome.AFTER_AS_OF,
                        account,
                        local.quantity(account.rows(), "row"),
                        local));
    }

    /** Returns which lines of the source are no rows. */
    static String rejected(FactAccounts accounts, LocalFormat local) {
        return local.quantity(accounts.rejected().lines(), "line") + " could not be read as rows, such as "
                + accounts.rejected().example();
    }

    /** Returns how many rows come after the end of the table. */
    static String afterEnd(FactAccounts accounts, LocalFormat local) {
        long rows = accounts.rejected().afterEnd();
        return local.quantity(rows, "row") + " after the end of the table (`until`) " + (rows == 1 ? "is" : "are")
                + " not read";
    }

    /** Returns the sums that there are, in brackets. */
    static String amounts(List<String> names, BigDecimal[] sums, LocalFormat local) {
        List<String> parts = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            if (sums[i] != null) {
                parts.add(names.get(i) + " " + local.exact(sums[i]));
            }
        }
        return parts.isEmpty() ? "" : " (" + String.join(", ", parts) + ")";
    }
}
