package dev.mile.engine.rows;

import dev.mile.StoppedException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.SupportedDates;
import dev.mile.engine.Comparisons;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.RowPredicate;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.TruthValue;
import dev.mile.fact.ColumnValues;
import dev.mile.fact.Fact;
import dev.mile.fact.Link;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.internal.InterruptibleLock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** The rows of one fact in memory, and what an engine is asked of them. Safe for use by several threads. */
public final class FactRows {
    /** Rows between two looks at whether somebody waits for them still. */
    private static final int ROWS_AT_ONCE = 1 << 16;

    private final InterruptibleLock lock = new InterruptibleLock();
    private final int mostThreads;
    private final DataSchema schema;
    private final Fact fact;
    private final JoinedRows rows;
    private @Nullable RowPredicate ownFilter;
    private boolean filterIsKnown;
    /** Every session asks; the rows do not change. */
    private @Nullable List<DateCount> dates;

    /**
     * Returns the rows of a fact.
     *
     * @param tables the rows of the fact and of the lookups that hang on it, by name
     * @param mostThreads how many threads may add them up at once
     */
    public FactRows(DataSchema schema, String fact, Map<String, Table> tables, int mostThreads) {
        this.mostThreads = mostThreads;
        this.schema = schema;
        this.fact = schema.fact(fact);
        this.rows = new JoinedRows(this.fact, schema.lookups(), tables);
    }

    /** Returns the rows as they were handed over. */
    public Table table() {
        return rows.table();
    }

    /** Returns where the rows are in time: each on its own date. */
    public RowDays days(String role) {
        return new RowDays(null, rows.days(role), null);
    }

    private Map<String, RowDays> daysByRole() {
        Map<String, RowDays> days = new LinkedHashMap<>();
        fact.roles().forEach(role -> days.put(role, days(role)));
        return days;
    }

    /** Returns how many rows each date has, of those that the fact keeps. */
    public List<DateCount> dates() {
        return lock.during(() -> {
            if (dates == null) {
                dates = List.copyOf(countDates());
            }
            return dates;
        });
    }

    private List<DateCount> countDates() {
        List<DateCount> found = new ArrayList<>();
        RowPredicate filter = filter(null);
        for (String role : fact.roles()) {
            // rows are many and days few: only dates beyond the supported ones are counted in a map
            long[] supported = new long[SupportedDates.RANGE.length()];
            TreeMap<Integer, Long> counts = new TreeMap<>();
            ColumnValues.Dates days = rows.days(role);
            for (int row = 0; row < table().rows(); row++) {
                if (row % ROWS_AT_ONCE == 0) {
                    StoppedException.throwIfInterrupted(Thread.currentThread());
                }
                int day = days.day(row);
                if (day == Table.NO_DATE || day == Table.UNREADABLE || !isKept(filter, row)) {
                    continue;
                }
                if (SupportedDates.RANGE.contains(day)) {
                    supported[day - SupportedDates.RANGE.firstEpochDay()]++;
                } else {
                    counts.merge(day, 1L, Long::sum);
                }
            }
            for (int i = 0; i < supported.length; i++) {
                if (supported[i] > 0) {
                    counts.put(SupportedDates.RANGE.firstEpochDay() + i, supported[i]);
                }
            }
            counts.forEach((day, count) -> found.add(new DateCount(role, day, count)));
        }
        return found;
    }

    /** Returns the first to the last day of a range on which the fact has rows in the role; empty where there are none. */
    public DateRange placedDays(String role, DateRange range) {
        RowPredicate filter = filter(null);
        if (filter == null
                && table().values(fact.column(role)) instanceof ColumnValues.Dates dates
                && dates.first() <= dates.last()
                && range.contains(dates.first())
                && range.contains(dates.last())) {
            return DateRange.ofEpochDays(dates.first(), dates.last());
        }
        int first = Integer.MAX_VALUE;
        int last = Integer.MIN_VALUE;
        ColumnValues.Dates days = rows.days(role);
        for (int row = 0; row < days.size(); row++) {
            int day = days.day(row);
            // most rows lie between those before, and change nothing
            boolean widens = day < first || day > last;
            if (widens && range.contains(day) && isKept(filter, row)) {
                first = Math.min(first, day);
                last = Math.max(last, day);
            }
        }
        return first > last ? DateRange.EMPTY : DateRange.ofEpochDays(first, last);
    }

    /** Returns a row that has the date in the role; empty where none has. */
    public Optional<String> example(String role, long epochDay) {
        for (int row = 0; row < table().rows(); row++) {
            if (rows.day(role, row) == epochDay) {
                return Optional.of("row " + (row + 1));
            }
        }
        return Optional.empty();
    }

    private @Nullable RowPredicate filter(@Nullable DayContext days) {
        return fact.resolveFilter(table().types())
                .map(condition -> RowPredicate.of(condition, rows.source(row -> Table.NO_DATE, row -> row, days), days))
                .orElse(null);
    }

    /** Returns whether the fact keeps the row. */
    boolean isKept(int row) {
        return isKept(ownFilter(), row);
    }

    private @Nullable RowPredicate ownFilter() {
        return lock.during(() -> {
            if (!filterIsKnown) {
                ownFilter = filter(null);
                filterIsKnown = true;
            }
            return ownFilter;
        });
    }

    private static boolean isKept(@Nullable RowPredicate filter, int row) {
        return filter == null || filter.test(row) == TruthValue.TRUE;
    }

    /** Returns the totals of rows that each lie on their own date. */
    public TotalsCursor totals(TotalsRequest request, DayContext days) {
        return totals(request, days(request.role()), days);
    }

    /** Returns the totals of rows that lie on these days. */
    public TotalsCursor totals(TotalsRequest request, RowDays rowDays, DayContext days) {
        return new TotalsComputation(rows, rowDays, fact, request, days, mostThreads).run();
    }

    /** Returns the accounts of rows that each lie on their own date. */
    public FactAccounts accounts(List<Operand.Field> amounts, DayContext days) {
        return accounts(amounts, daysByRole(), days);
    }

    /** Returns the accounts of rows that lie, by role, on these days. */
    public FactAccounts accounts(List<Operand.Field> amounts, Map<String, RowDays> daysByRole, DayContext days) {
        RowPredicate filter = filter(days);
        int count = table().rows();
        long kept = count;
        long undecided = 0;
        for (int row = 0; filter != null && row < count; row++) {
            TruthValue holds = filter.test(row);
            kept -= holds == TruthValue.TRUE ? 0 : 1;
            undecided += holds == TruthValue.UNKNOWN ? 1 : 0;
        }
        List<RoleAccounts> roles = new ArrayList<>();
        daysByRole.forEach((role, rowDays) -> roles.add(roleAccounts(role, rowDays, amounts, filter, days)));
        return new FactAccounts(
                fact.name(),
                count,
                FactAccounts.Rejected.NONE,
                kept,
                undecided,
                amounts.stream().map(Operand.Field::column).toList(),
                roles,
                unknownKeys(filter, days));
    }

    private Map<String, FactAccounts.UnknownKeys> unknownKeys(@Nullable RowPredicate filter, DayContext days) {
        Map<String, FactAccounts.UnknownKeys> unknown = new LinkedHashMap<>();
        for (Link link : fact.linksAtAnyDepth(schema.lookups())) {
            ColumnValues.Texts keys = rows.coded(link.key(), days);
            ColumnValues.Texts found = rows.coded(link.found(), days);
            long without = 0;
            String example = "";
            for (int row = 0; row < table().rows(); row++) {
                if (keys.code(row) >= 0 && found.code(row) < 0 && isKept(filter, row)) {
                    String key = keys.text(row);
                    // every engine shows the same
                    boolean first = without++ == 0 || Comparisons.BY_CODE_POINT.compare(key, example) < 0;
                    example = first ? key : example;
                }
            }
            if (without > 0) {
                unknown.put(
                        link.name(), new FactAccounts.UnknownKeys(link.lookup().name(), without, example));
            }
        }
        return unknown;
    }

    private RoleAccounts roleAccounts(
            String role, RowDays rowDays, List<Operand.Field> amounts, @Nullable RowPredicate filter, DayContext days) {
        DateRange dimension = days.dimensionRange();
        int last = days.lastDayThatCounts(fact);
        OutcomeSums sums = new OutcomeSums(amounts.stream().map(rows::number).toList());
        String unreadable = "";
        int i = 0;
        while (i < rowDays.size()) {
            int row = rowDays.row(i);
            RoleAccounts.RowOutcome outcome = RoleAccounts.RowOutcome.of(rowDays.day(i), dimension, last);
            int next = i;
            while (next < rowDays.size() && rowDays.row(next) == row) {
                // a row of a plan is placed where any of its days is
                outcome =
                        RoleAccounts.RowOutcome.of(rowDays.day(next), dimension, last) == RoleAccounts.RowOutcome.PLACED
                                ? RoleAccounts.RowOutcome.PLACED
                                : outcome;
                next++;
            }
            i = next;
            if (!isKept(filter, row)) {
                continue;
            }
            sums.add(outcome, row);
            if (outcome == RoleAccounts.RowOutcome.UNREADABLE && unreadable.isEmpty()) {
                unreadable = "'"
                        + Optional.ofNullable(table().textAt(fact.column(role), row))
                                .orElse("") + "'";
            }
        }
        return new RoleAccounts(role, sums.accounts(), unreadable);
    }
}
