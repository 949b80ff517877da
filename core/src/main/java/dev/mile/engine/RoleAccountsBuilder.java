package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.engine.RoleAccounts.Account;
import dev.mile.engine.RoleAccounts.RowOutcome;
import java.math.BigDecimal;
import java.util.EnumMap;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Adds up what became of the rows of a fact in one date role. For engines that read a fact once for all its roles, and count its rows by
 * their outcomes in each. Not for use by several threads.
 */
public final class RoleAccountsBuilder {
    private final String role;
    private final int amounts;
    private final Map<RowOutcome, Account> accounts = new EnumMap<>(RowOutcome.class);
    private @Nullable String unreadable;

    /**
     * Returns a builder without rows.
     *
     * @param role the role
     * @param amounts how many amount columns are added up
     */
    public RoleAccountsBuilder(String role, int amounts) {
        this.role = requireNonNull(role, "role is null");
        this.amounts = amounts;
    }

    /**
     * Adds rows that have the same outcome.
     *
     * @param outcome what became of them
     * @param rows how many
     * @param sums their amounts; null where no row has one
     * @param example a date of theirs that cannot be read; null if all can
     */
    public void add(RowOutcome outcome, long rows, BigDecimal[] sums, @Nullable String example) {
        requireNonNull(outcome, "outcome is null");
        Account before = accounts.getOrDefault(outcome, new Account(0, new BigDecimal[amounts]));
        BigDecimal[] together = new BigDecimal[amounts];
        for (int i = 0; i < amounts; i++) {
            BigDecimal known = before.amounts()[i];
            together[i] = known == null ? sums[i] : sums[i] == null ? known : known.add(sums[i]);
        }
        accounts.put(outcome, new Account(before.rows() + rows, together));
        if (example != null && (unreadable == null || Comparisons.BY_CODE_POINT.compare(example, unreadable) < 0)) {
            unreadable = example;
        }
    }

    /** {@return the role} */
    public String role() {
        return role;
    }

    /** {@return the first of the dates that cannot be read, by code point; empty if all can} */
    public Optional<String> unreadable() {
        return Optional.ofNullable(unreadable);
    }

    /**
     * {@return the accounts}
     *
     * @param example a date that cannot be read, in quotes, with what is known of it; empty if there is none
     */
    public RoleAccounts build(String example) {
        return new RoleAccounts(role, accounts, example);
    }
}
