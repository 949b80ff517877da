package dev.mile.engine.rows;

import dev.mile.engine.RoleAccounts;
import dev.mile.engine.RoleAccounts.RowOutcome;
import dev.mile.engine.RowExpressionReader;
import java.math.BigDecimal;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Counts rows by what became of them, and adds up their amounts exactly. */
final class OutcomeSums {
    private final List<RowExpressionReader> amounts;
    private final long[] rows = new long[RowOutcome.values().length];
    private final boolean[] any;
    /** Sums of unscaled values by outcome and amount. */
    private final long[] sums;

    /** What did not fit into them. */
    private final BigDecimal[] carried;

    OutcomeSums(List<RowExpressionReader> amounts) {
        this.amounts = amounts;
        int cells = rows.length * amounts.size();
        any = new boolean[cells];
        sums = new long[cells];
        carried = new BigDecimal[cells];
    }

    void add(RowOutcome outcome, int row) {
        rows[outcome.ordinal()]++;
        for (int a = 0; a < amounts.size(); a++) {
            RowExpressionReader amount = amounts.get(a);
            if (!amount.isBlank(row)) {
                add(outcome.ordinal() * amounts.size() + a, amount.unscaled(row), amount.scale());
            }
        }
    }

    private void add(int cell, long value, int scale) {
        long before = sums[cell];
        long after = before + value;
        any[cell] = true;
        // both have another sign than their sum: it does not fit
        if (((before ^ after) & (value ^ after)) < 0) {
            BigDecimal carry = BigDecimal.valueOf(before, scale);
            carried[cell] = carried[cell] == null ? carry : carried[cell].add(carry);
            after = value;
        }
        sums[cell] = after;
    }

    /** Returns the accounts of outcomes that rows have. */
    Map<RowOutcome, RoleAccounts.Account> accounts() {
        Map<RowOutcome, RoleAccounts.Account> accounts = new EnumMap<>(RowOutcome.class);
        for (RowOutcome outcome : RowOutcome.values()) {
            if (rows[outcome.ordinal()] > 0) {
                BigDecimal[] of = new BigDecimal[amounts.size()];
                for (int a = 0; a < of.length; a++) {
                    of[a] = sum(
                            outcome.ordinal() * amounts.size() + a,
                            amounts.get(a).scale());
                }
                accounts.put(outcome, new RoleAccounts.Account(rows[outcome.ordinal()], of));
            }
        }
        return accounts;
    }

    private @Nullable BigDecimal sum(int cell, int scale) {
        if (!any[cell]) {
            return null;
        }
        BigDecimal sum = BigDecimal.valueOf(sums[cell], scale);
        return carried[cell] == null ? sum : sum.add(carried[cell]);
    }
}
