package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.fact.DateCount;
import dev.mile.fact.DayKnowledge;
import dev.mile.fact.Engine;
import dev.mile.fact.FactAccounts;
import dev.mile.fact.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.TotalsCursor;
import dev.mile.fact.TotalsRequest;
import dev.mile.fact.ValueType;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;

/**
 * Asks an engine but for totals each question once, since many sessions over the same rows ask the same; some engines take as
 * long for each as for the totals.
 */
record AskedOnce(Engine base, Map<List<Object>, Object> answers) implements Engine {
    AskedOnce(Engine base) {
        this(base, new HashMap<>());
    }

    @SuppressWarnings("unchecked")
    private <T> T once(Supplier<T> asked, Object... question) {
        List<Object> key = List.of(question);
        // an answer may ask for others
        if (!answers.containsKey(key)) {
            answers.put(key, asked.get());
        }
        return (T) answers.get(key);
    }

    @Override
    public Map<String, ValueType> columns(String table) {
        return base.columns(table);
    }

    @Override
    public List<DateCount> dates(String fact) {
        return once(() -> base.dates(fact), "dates", fact);
    }

    @Override
    public DateRange coverage(String fact, String role, DayKnowledge days) {
        return once(() -> base.coverage(fact, role, days), "coverage", fact, role, days.placed());
    }

    @Override
    public TotalsCursor totals(TotalsRequest request, DayKnowledge days) {
        return base.totals(request, days);
    }

    @Override
    public FactAccounts.Rejected rejected(String fact) {
        return base.rejected(fact);
    }

    @Override
    public FactAccounts accounts(String fact, List<Operand.Field> amounts, DayKnowledge days) {
        return once(() -> base.accounts(fact, amounts, days), "accounts", fact, amounts, days.placed());
    }

    @Override
    public Table rows(String table) {
        return once(() -> base.rows(table), "rows", table);
    }

    @Override
    public void close() {
        base.close();
    }
}
