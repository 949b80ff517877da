package dev.mile.engine.rows;

import dev.mile.ModelException;
import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.UnreadValues;
import dev.mile.fact.ColumnValues;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Spread;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import dev.mile.internal.InterruptibleLock;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntToLongFunction;

/**
 * Spreads plans whose rows are about whole periods over their days, in memory; hands every other question to the engine that holds
 * the rows. So plans are spread once, in one place, whatever the engine.
 */
public final class SpreadingEngine implements Engine {
    private final InterruptibleLock lock = new InterruptibleLock();
    private final Engine base;
    private final DataSchema schema;
    private final Map<String, FactRows> rowsByFact = new HashMap<>();
    private final Map<RoleOfFact, RowDays> daysByRole = new HashMap<>();

    private record RoleOfFact(String fact, String role) {}

    /**
     * Returns an engine that spreads the plans among the facts.
     *
     * @param base the engine that holds the rows; closed with this one
     */
    public SpreadingEngine(Engine base) {
        this.base = base;
        this.schema = base.schema();
    }

    @Override
    public DataSchema schema() {
        return schema;
    }

    private boolean spreads(String fact) {
        return schema.facts().containsKey(fact) && schema.fact(fact).grain().isPresent();
    }

    private FactRows rowsOf(String fact) {
        return lock.during(() -> {
            return rowsByFact.computeIfAbsent(fact, name -> {
                Map<String, Table> tables = new HashMap<>();
                schema.tablesBelow(name).forEach(table -> tables.put(table, base.rows(table)));
                return new FactRows(schema, name, tables, 1);
            });
        });
    }

    @Override
    public Map<String, ValueType> columns(String table) {
        return base.columns(table);
    }

    @Override
    public List<DateCount> dates(String fact) {
        return base.dates(fact);
    }

    @Override
    public Optional<String> example(String fact, String role, long day) {
        return base.example(fact, role, day);
    }

    @Override
    public Optional<UnreadValues> unread(String table, String column, ValueType as) {
        return base.unread(table, column, as);
    }

    @Override
    public Table rows(String table) {
        return base.rows(table);
    }

    @Override
    public DateRange coverage(String fact, String role, DayContext days) {
        if (!spreads(fact)) {
            return base.coverage(fact, role, days);
        }
        // whole periods, also days of them that get nothing
        Table table = rowsOf(fact).table();
        Grain grain = schema.fact(fact).grain().orElseThrow();
        FiscalCalendar calendar = grain.calendar().map(days::calendar).orElseGet(days::calendar);
        DateRange covered = DateRange.EMPTY;
        for (int row = 0; row < table.rows(); row++) {
            String text =
                    rowsOf(fact).isKept(row) ? table.textAt(schema.fact(fact).column(role), row) : null;
            Optional<DateRange> period = text == null
                    ? Optional.empty()
                    : period(calendar, grain.level(), text, EpochDays.toDate(days.asOf()));
            covered = covered.hull(period.orElse(DateRange.EMPTY));
        }
        return covered.intersect(days.dimensionRange());
    }

    @Override
    public TotalsCursor totals(TotalsRequest request, DayContext days) {
        return spreads(request.fact())
                ? rowsOf(request.fact()).totals(request, rowDays(request.fact(), request.role(), days), days)
                : base.totals(request, days);
    }

    @Override
    public FactAccounts.Rejected rejected(String fact) {
        return base.rejected(fact);
    }

    @Override
    public FactAccounts accounts(String fact, List<Operand.Field> amounts, DayContext days) {
        if (!spreads(fact)) {
            return base.accounts(fact, amounts, days);
        }
        Map<String, RowDays> byRole = new HashMap<>();
        schema.fact(fact).roles().forEach(role -> byRole.put(role, rowDays(fact, role, days)));
        return rowsOf(fact).accounts(amounts, byRole, days);
    }

    private RowDays rowDays(String fact, String role, DayContext days) {
        return lock.during(() -> {
            RoleOfFact key = new RoleOfFact(fact, role);
            RowDays known = daysByRole.get(key);
            if (known == null) {
                known = spread(schema.fact(fact), role, days);
                daysByRole.put(key, known);
            }
            return known;
        });
    }

    private RowDays spread(Fact fact, String role, DayContext days) {
        Table table = rowsOf(fact.name()).table();
        Grain grain = fact.grain().orElseThrow();
        FiscalCalendar calendar = grain.calendar().map(days::calendar).orElseGet(days::calendar);
        DayWeights weigher = weigher(fact, role, table, days);
        int[] rows = new int[Math.max(table.rows(), 16)];
        int[] on = new int[rows.length];
        BigDecimal[] weights = new BigDecimal[rows.length];
        int size = 0;
        for (int row = 0; row < table.rows(); row++) {
            String text = table.textAt(fact.column(role), row);
            Optional<DateRange> period = text == null
                    ? Optional.empty()
                    : period(calendar, grain.level(), text, EpochDays.toDate(days.asOf()));
            DateRange range = period.orElse(DateRange.ofEpochDays(0, 0));
            int width = range.length();
            if (size + width > rows.length) {
                int wider = Math.max(rows.length * 2, size + width);
                rows = Arrays.copyOf(rows, wider);
                on = Arrays.copyOf(on, wider);
                weights = Arrays.copyOf(weights, wider);
            }
            if (period.isEmpty()) {
                rows[size] = row;
                on[size] = text == null ? Table.NO_DATE : Table.UNREADABLE;
                weights[size++] = BigDecimal.ONE;
                continue;
            }
            BigDecimal[] each = new BigDecimal[width];
            boolean anyWeight = false;
            for (int i = 0; i < width; i++) {
                each[i] = weigher.weight(row, range.firstEpochDay() + i).max(BigDecimal.ZERO);
                anyWeight |= each[i].signum() > 0;
            }
            for (int i = 0; i < width; i++) {
                BigDecimal weight = anyWeight ? each[i] : BigDecimal.ONE;
                if (weight.signum() > 0) {
                    rows[size] = row;
                    on[size] = range.firstEpochDay() + i;
                    weights[size++] = weight;
                }
            }
        }
        return new RowDays(
                Arrays.copyOf(rows, size),
                ColumnValues.Dates.of(Arrays.copyOf(on, size)),
                Arrays.copyOf(weights, size));
    }

    private static Optional<DateRange> period(FiscalCalendar calendar, Level level, String text, LocalDate near) {
        return calendar.parse(text, level, near)
                .or(() -> EpochDays.parse(text).flatMap(day -> calendar.period(level, day)))
                .map(CalendarPeriod::range);
    }

    /** Says how much of a row a day gets. */
    @FunctionalInterface
    private interface DayWeights {
        BigDecimal weight(int row, int day);
    }

    private DayWeights weigher(Fact fact, String role, Table table, DayContext days) {
        if (fact.spread() instanceof Spread.WorkingDays working) {
            IntToLongFunction worked =
                    working.week().map(days::cumulativeWorkingMillionths).orElseGet(days::cumulativeWorkingMillionths);
            return (row, day) -> BigDecimal.valueOf(worked.applyAsLong(day) - worked.applyAsLong(day - 1));
        }
        return fact.spread() instanceof Spread.Like like ? like(fact, like, table, days) : (row, day) -> BigDecimal.ONE;
    }

    /** Weighs by another fact's amounts one year back, for the row's members of the dimensions that both have. */
    private DayWeights like(Fact fact, Spread.Like like, Table table, DayContext days) {
        Fact other = schema.fact(like.fact());
        Map<String, ValueType> theirs = base.columns(like.fact());
        ValueType weighed = theirs.get(like.column());
        if (weighed == null || weighed == ValueType.TEXT || weighed == ValueType.DATE) {
            throw ModelException.of(
                    "the fact '%s' is spread like '%s.%s', which is no column of numbers; its columns are %s",
                    fact.name(), like.fact(), like.column(), String.join(", ", theirs.keySet()));
        }
        List<String> shared = new ArrayList<>();
        base.columns(fact.name()).forEach((column, type) -> {
            boolean dated = fact.dates().containsValue(column) || other.dates().containsValue(column);
            boolean linked = fact.links().containsKey(column) && other.links().containsKey(column);
            boolean text = type == ValueType.TEXT && theirs.get(column) == ValueType.TEXT;
            if (theirs.containsKey(column) && !dated && (linked || text)) {
                shared.add(column);
            }
        });
        RowExpression value = new RowExpression.Value(
                new Operand.Field(List.of(), like.column(), theirs.getOrDefault(like.column(), ValueType.NUMBER)));
        TotalsRequest request = TotalsRequest.daily(
                like.fact(),
                other.defaultRole(),
                days.dimensionRange().notAfter(days.asOf()),
                shared.stream()
                        .map(column -> new Operand.Field(List.of(), column, ValueType.TEXT))
                        .toList(),
                List.of(new TotalColumn(TotalColumn.Kind.SUM, Optional.of(value), Optional.empty())));
        Map<List<String>, Map<Integer, BigDecimal>> weights = new HashMap<>();
        for (GroupTotals group : totals(request, days).all()) {
            Map<Integer, BigDecimal> byDay = new HashMap<>();
            for (int i = 0; i < group.days().length; i++) {
                Number total = group.values()[0].amount(i);
                if (total != null) {
                    byDay.put(group.days()[i], new BigDecimal(total.toString()));
                }
            }
            weights.put(Arrays.asList(group.members()), byDay);
        }
        FiscalCalendar first = days.calendar();
        Map<Integer, DateRange> yearAgo = new HashMap<>();
        return (row, day) -> {
            List<String> members = new ArrayList<>();
            shared.forEach(column -> members.add(table.textAt(column, row)));
            DateRange ago =
                    yearAgo.computeIfAbsent(day, d -> first.shift(first.rangeContaining(Level.DAY, d), -1, Level.YEAR));
            Map<Integer, BigDecimal> byDay = weights.get(members);
            return ago.isEmpty() || byDay == null
                    ? BigDecimal.ZERO
                    : byDay.getOrDefault(ago.firstEpochDay(), BigDecimal.ZERO);
        };
    }

    @Override
    public void close() {
        base.close();
    }
}
