package dev.mile.examples;

import dev.mile.StoppedException;
import dev.mile.engine.Comparisons;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.NeumaierSum;
import dev.mile.engine.RoleAccounts.RowOutcome;
import dev.mile.engine.RowExpressionReader;
import dev.mile.engine.RowPredicate;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.TruthValue;
import dev.mile.engine.memory.FactReader;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** An engine of one's own: rows in tables, totals in a HashMap. docs/engines.md explains it part by part. */
public final class HashMapEngine implements Engine {
    private static final int ROWS_AT_ONCE = 4096;

    private final DataSchema schema;
    private final Map<String, Table> tables;

    /** Returns an engine over tables by the names of facts and lookups. */
    public HashMapEngine(DataSchema schema, Map<String, Table> tables) {
        this.schema = schema;
        this.tables = Map.copyOf(tables);
    }

    private FactReader reader(String fact) {
        return FactReader.over(schema, fact, tables);
    }

    @Override
    public DataSchema schema() {
        return schema;
    }

    @Override
    public Map<String, ValueType> columns(String table) {
        return FactReader.columns(schema, table, tables);
    }

    @Override
    public Table rows(String table) {
        return FactReader.table(table, tables);
    }

    @Override
    public List<DateCount> dates(String fact) {
        return reader(fact).dates();
    }

    @Override
    public FactAccounts accounts(String fact, List<Operand.Field> amounts, DayContext days) {
        return reader(fact).accounts(amounts, days);
    }

    @Override
    public TotalsCursor totals(TotalsRequest request, DayContext days) {
        FactReader rows = reader(request.fact());
        RowPredicate filter = rows.filter(days);
        IntFunction<List<String>> group = rows.members(request.groups(), days);
        List<Column> columns = request.columns().stream()
                .map(column -> Column.of(column, rows, request.role(), days))
                .toList();
        Map<List<String>, TreeMap<Integer, Total[]>> groups = new HashMap<>();
        Map<RowOutcome, Long> outcomes = new EnumMap<>(RowOutcome.class);
        for (int row = 0; row < rows.rows(); row++) {
            if (row % ROWS_AT_ONCE == 0) {
                StoppedException.throwIfInterrupted(Thread.currentThread());
            }
            if (filter.test(row) != TruthValue.TRUE) {
                continue;
            }
            int day = rows.day(request.role(), row);
            outcomes.merge(RowOutcome.of(day, days.dimensionRange()), 1L, Long::sum);
            if (request.days().contains(day)) {
                Total[] totals = groups.computeIfAbsent(group.apply(row), g -> new TreeMap<>())
                        .computeIfAbsent(request.buckets().firstDayOfBucket(day), d -> Stream.generate(Total::new)
                                .limit(columns.size())
                                .toArray(Total[]::new));
                for (int c = 0; c < totals.length; c++) {
                    columns.get(c).add(row, totals[c]);
                }
            }
        }
        List<GroupTotals> found = new ArrayList<>();
        groups.forEach((members, byDay) -> found.add(new GroupTotals(
                members.toArray(String[]::new),
                byDay.keySet().stream().mapToInt(Integer::intValue).toArray(),
                IntStream.range(0, columns.size())
                        .mapToObj(c -> columns.get(c)
                                .values(byDay.values().stream()
                                        .map(totals -> totals[c])
                                        .toList()))
                        .toArray(DailyTotals[]::new))));
        found.sort(Comparator.comparing(GroupTotals::members, Comparisons.BY_MEMBERS));
        return TotalsCursor.of(found, outcomes);
    }

    /** What was found of one column on one day; each kind of total has its own part. */
    private static final class Total {
        private long count;
        private BigDecimal exact;
        private double floating = Double.NaN;
        private double roundingErrors;
        private final TreeSet<String> texts = new TreeSet<>(Comparisons.BY_CODE_POINT);
    }

    /** A column of totals, ready for rows. */
    private record Column(
            TotalColumn.Kind kind, RowPredicate counts, IntFunction<String> member, RowExpressionReader number) {
        static Column of(TotalColumn column, FactReader rows, String role, DayContext days) {
            RowPredicate counts = rows.counts(column, role, days);
            return switch (column.kind()) {
                case ROWS, COUNT -> new Column(column.kind(), counts, null, null);
                case DISTINCT ->
                    new Column(column.kind(), counts, rows.member(column.value().get(), days), null);
                case SUM, MIN, MAX ->
                    new Column(
                            column.kind(),
                            counts,
                            null,
                            rows.number(column.value().get(), days));
            };
        }

        void add(int row, Total total) {
            if (counts.test(row) != TruthValue.TRUE) {
                return;
            }
            if (member != null) {
                total.texts.add(member.apply(row));
            } else if (number == null) {
                total.count++;
            } else if (number.scale() == RowExpressionReader.FLOATING) {
                addFloating(number.asDouble(row), total);
            } else {
                BigDecimal value = number.decimal(row);
                BigDecimal before = total.exact == null ? value : total.exact;
                total.exact = kind == TotalColumn.Kind.MIN
                        ? before.min(value)
                        : kind == TotalColumn.Kind.MAX
                                ? before.max(value)
                                : total.exact == null ? value : before.add(value);
            }
        }

        /** Sums carry their rounding errors along, so that every engine finds the same double. */
        private void addFloating(double value, Total total) {
            if (Double.isNaN(total.floating)) {
                total.floating = value;
            } else if (kind == TotalColumn.Kind.SUM) {
                total.roundingErrors += NeumaierSum.roundingError(total.floating, value);
                total.floating += value;
            } else {
                total.floating = kind == TotalColumn.Kind.MIN
                        ? Math.min(total.floating, value)
                        : Math.max(total.floating, value);
            }
        }

        DailyTotals values(List<Total> days) {
            if (member != null) {
                return new DailyTotals.StringSets(days.stream()
                        .map(day -> day.texts.isEmpty() ? null : day.texts.toArray(String[]::new))
                        .toArray(String[][]::new));
            }
            if (number == null) {
                return DailyTotals.counts(
                        days.stream().mapToLong(day -> day.count).toArray());
            }
            return number.scale() == RowExpressionReader.FLOATING
                    ? new DailyTotals.Doubles(days.stream()
                            .mapToDouble(day -> day.floating + day.roundingErrors)
                            .toArray())
                    : DailyTotals.of(days.stream().map(day -> day.exact).toArray(BigDecimal[]::new));
        }
    }

    @Override
    public void close() {
        // nothing is open
    }
}
