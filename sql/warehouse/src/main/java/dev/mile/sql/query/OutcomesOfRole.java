package dev.mile.sql.query;

import dev.mile.engine.RoleAccounts.Account;
import dev.mile.engine.RoleAccounts.RowOutcome;
import java.math.BigDecimal;
import java.util.EnumMap;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Adds up what became of the rows in one role, from rows that are counted by their outcomes in all roles. */
final class OutcomesOfRole {
    private final String role;
    private final int amounts;
    private final Map<RowOutcome, Account> accounts = new EnumMap<>(RowOutcome.class);
    private @Nullable String unreadable;

    OutcomesOfRole(String role, int amounts) {
        this.role = role;
        this.amounts = amounts;
    }

    /**
     * Adds rows.
     *
     * @param sums their amounts; null where no row has one
     * @param example a date that cannot be read; null if all can
     */
    void add(RowOutcome outcome, long rows, BigDecimal[] sums, @Nullable String example) {
        Account before = accounts.getOrDefault(outcome, new Account(0, new BigDecimal[amounts]));
        BigDecimal[] together = new BigDecimal[amounts];
        for (int i = 0; i < amounts; i++) {
            BigDecimal known = before.amounts()[i];
            together[i] = known == null ? sums[i] : sums[i] == null ? known : known.add(sums[i]);
        }
        accounts.put(outcome, new Account(before.rows() + rows, together));
        if (example != null && (unreadable == null || example.compareTo(unreadable) < 0)) {
            unreadable = example;
        }
    }

    String role() {
        return role;
    }

    Map<RowOutcome, Account> accounts() {
        return accounts;
    }

    /** Returns the first of the dates that cannot be read, if any. */
    Optional<String> unreadable() {
        return Optional.ofNullable(unreadable);
    }
}
