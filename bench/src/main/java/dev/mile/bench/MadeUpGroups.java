package dev.mile.bench;

import dev.mile.engine.BucketingCursor;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.EngineProvider;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * An engine that makes totals up while they are asked for: a number of groups, each with a total on each of a number of days. No
 * disk holds as many; what comes after the engine is the same. For {@code mile report --engine made-up-groups}.
 */
public final class MadeUpGroups implements EngineProvider {
    static final String NAME = "made-up-groups";
    static final String GROUPS = "mile.bench.groups";
    static final String DAYS = "mile.bench.days";
    private static final int FIRST = Math.toIntExact(SalesData.FIRST.toEpochDay());

    /** For {@link java.util.ServiceLoader}. */
    public MadeUpGroups() {}

    @Override
    public String name() {
        return NAME;
    }

    @Override
    public Engine open(DataSchema schema, Map<String, String> settings) {
        return new MadeUp(schema, Integer.getInteger(GROUPS), Integer.getInteger(DAYS));
    }

    /** Makes up the cents of a group on each of its days. */
    static long[] cents(int group, int days) {
        long[] cents = new long[days];
        long state = group * 0x9E3779B97F4A7C15L + 1;
        for (int d = 0; d < days; d++) {
            state = state * 6364136223846793005L + 1442695040888963407L;
            cents[d] = (state >>> 44) * 100_000 >>> 20;
        }
        return cents;
    }

    private record MadeUp(DataSchema schema, int groups, int days) implements Engine {
        @Override
        public Map<String, ValueType> columns(String table) {
            return Map.of("day", ValueType.DATE, "customer", ValueType.TEXT, "amount", ValueType.NUMBER);
        }

        @Override
        public List<DateCount> dates(String fact) {
            List<DateCount> dates = new ArrayList<>();
            for (int d = 0; d < days; d++) {
                dates.add(new DateCount("ordered", FIRST + d, groups));
            }
            return dates;
        }

        @Override
        public TotalsCursor totals(TotalsRequest request, DayContext known) {
            int[] all = new int[days];
            Arrays.setAll(all, d -> FIRST + d);
            long[] ones = new long[days];
            Arrays.fill(ones, 1);
            DailyTotals counts = DailyTotals.counts(ones);
            TotalsCursor daily = new TotalsCursor() {
                private int next;

                @Override
                public GroupTotals next() {
                    if (next == groups) {
                        return null;
                    }
                    int group = next++;
                    DailyTotals cents = new DailyTotals.Longs(cents(group, days), 2, null);
                    DailyTotals[] values = request.columns().stream()
                            .map(column -> column.kind() == TotalColumn.Kind.SUM ? cents : counts)
                            .toArray(DailyTotals[]::new);
                    return new GroupTotals(new String[] {String.format(Locale.ROOT, "C%08d", group)}, all, values);
                }

                @Override
                public Map<RoleAccounts.RowOutcome, Long> rowOutcomes() {
                    return Map.of(RoleAccounts.RowOutcome.PLACED, (long) groups * days);
                }

                @Override
                public double progress() {
                    return (double) next / groups;
                }

                @Override
                public void close() {}
            };
            return new BucketingCursor(daily, request);
        }

        @Override
        public FactAccounts accounts(String fact, List<Operand.Field> amounts, DayContext known) {
            throw new UnsupportedOperationException("every row is placed");
        }

        @Override
        public Table rows(String table) {
            throw new UnsupportedOperationException("rows are never made up, only their totals");
        }

        @Override
        public void close() {}
    }
}
