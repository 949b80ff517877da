package dev.mile.testkit;

import dev.mile.calendar.DateRange;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;

/**
 * Asks an engine but for totals each question once, since many sessions over the same rows ask the same; some engines take as
 * long for each as for the totals.
 */
record MemoizingEngine(Engine base, Map<List<Object>, Object> answers) implements Engine {
    MemoizingEngine(Engine base) {
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
    public DataSchema schema() {
        return base.schema();
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
    public DateRange coverage(String fact, String role, DayContext days) {
        return once(() -> base.coverage(fact, role, days), "coverage", fact, role, days.dimensionRange());
    }

    @Override
    public TotalsCursor totals(TotalsRequest request, DayContext days) {
        return base.totals(request, days);
    }

    @Override
    public FactAccounts.Rejected rejected(String fact) {
        return base.rejected(fact);
    }

    @Override
    public FactAccounts accounts(String fact, List<Operand.Field> amounts, DayContext days) {
        return once(() -> base.accounts(fact, amounts, days), "accounts", fact, amounts, days.dimensionRange());
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
