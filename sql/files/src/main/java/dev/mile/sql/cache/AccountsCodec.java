package dev.mile.sql.cache;

import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Writes the accounts of a fact as rows of texts, each with a word in front that says what it is, and reads them back. */
final class AccountsCodec {
    private AccountsCodec() {}

    static List<List<String>> written(FactAccounts accounts) {
        List<List<String>> rows = new ArrayList<>();
        rows.add(List.of(
                "fact",
                accounts.fact(),
                Long.toString(accounts.read()),
                Long.toString(accounts.kept()),
                Long.toString(accounts.undecided())));
        rows.add(List.of(
                "rejected",
                Long.toString(accounts.rejected().lines()),
                accounts.rejected().example(),
                Long.toString(accounts.rejected().afterEnd())));
        accounts.amounts().forEach(amount -> rows.add(List.of("amount", amount)));
        for (RoleAccounts role : accounts.roles()) {
            rows.add(List.of("role", role.role(), role.unreadable()));
            role.outcomes().forEach((part, account) -> {
                List<String> row = new ArrayList<>(List.of("part", part.name(), Long.toString(account.rows())));
                for (BigDecimal amount : account.amounts()) {
                    row.add(amount == null ? null : amount.toString());
                }
                rows.add(row);
            });
        }
        accounts.unknownKeys()
                .forEach((column, unknown) -> rows.add(List.of(
                        "unknown", column, unknown.lookup(), Long.toString(unknown.rows()), unknown.example())));
        return rows;
    }

    static FactAccounts read(List<List<String>> rows) {
        String fact = "";
        long read = 0;
        long kept = 0;
        long undecided = 0;
        FactAccounts.Rejected rejected = FactAccounts.Rejected.NONE;
        List<String> amounts = new ArrayList<>();
        List<RoleAccounts> roles = new ArrayList<>();
        Map<String, FactAccounts.UnknownKeys> unknown = new LinkedHashMap<>();
        for (List<String> row : rows) {
            switch (row.get(0)) {
                case "fact" -> {
                    fact = row.get(1);
                    read = Long.parseLong(row.get(2));
                    kept = Long.parseLong(row.get(3));
                    undecided = Long.parseLong(row.get(4));
                }
                case "rejected" ->
                    rejected = new FactAccounts.Rejected(
                            Long.parseLong(row.get(1)), row.get(2), Long.parseLong(row.get(3)));
                case "amount" -> amounts.add(row.get(1));
                case "role" ->
                    roles.add(new RoleAccounts(row.get(1), new EnumMap<>(RoleAccounts.RowOutcome.class), row.get(2)));
                case "part" -> {
                    BigDecimal[] sums = row.subList(3, row.size()).stream()
                            .map(v -> v == null ? null : new BigDecimal(v))
                            .toArray(BigDecimal[]::new);
                    roles.get(roles.size() - 1)
                            .outcomes()
                            .put(
                                    RoleAccounts.RowOutcome.valueOf(row.get(1)),
                                    new RoleAccounts.Account(Long.parseLong(row.get(2)), sums));
                }
                default ->
                    unknown.put(
                            row.get(1),
                            new FactAccounts.UnknownKeys(row.get(2), Long.parseLong(row.get(3)), row.get(4)));
            }
        }
        return new FactAccounts(fact, read, rejected, kept, undecided, amounts, roles, unknown);
    }
}
