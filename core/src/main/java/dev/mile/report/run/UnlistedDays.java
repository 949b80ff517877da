package dev.mile.report.run;

import dev.mile.calendar.DateRange;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import dev.mile.report.axis.LevelAxis;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Rows on days that are in no period of a listed calendar, before its first period or after its last: they count in totals, and in no row
 * of the report.
 */
final class UnlistedDays {
    private final ProjectData data;

    UnlistedDays(ProjectData data) {
        this.data = data;
    }

    /** Returns a sentence on such rows of a fact; empty where it has none. */
    Optional<String> sentence(LevelAxis axis, String fact, String role, DateRange shown) {
        Fact of = data.names().fact(fact);
        DateRange days = shown.notAfter(data.dayContext().lastDayThatCounts(of));
        List<DateRange> ranges = unlisted(axis, days);
        List<Operand.Field> amounts = ranges.isEmpty() ? List.of() : AmountColumns.of(data.project(), data.names(), of);
        long rows = 0;
        BigDecimal[] sums = new BigDecimal[amounts.size()];
        for (DateRange unlisted : ranges) {
            try (TotalsCursor cursor = data.totals(request(fact, role, unlisted, amounts))) {
                for (GroupTotals group = cursor.next(); group != null; group = cursor.next()) {
                    for (int i = 0; i < group.days().length; i++) {
                        rows += group.values()[0].amount(i).longValue();
                        for (int a = 0; a < sums.length; a++) {
                            sums[a] = plus(sums[a], group.values()[a + 1].amount(i));
                        }
                    }
                }
            }
        }
        return rows == 0
                ? Optional.empty()
                : Optional.of(Messages.format(
                        "In no row, %s by %s: %s on days that are in no period of %s%s; totals count them.",
                        fact,
                        role,
                        data.local().quantity(rows, "row"),
                        axis.name(),
                        AccountsText.amounts(
                                amounts.stream().map(Operand.Field::column).toList(), sums, data.local())));
    }

    private static BigDecimal plus(BigDecimal sum, Number amount) {
        if (amount == null) {
            return sum;
        }
        BigDecimal added = new BigDecimal(amount.toString());
        return sum == null ? added : sum.add(added);
    }

    private static TotalsRequest request(String fact, String role, DateRange days, List<Operand.Field> amounts) {
        List<TotalColumn> columns = new ArrayList<>();
        columns.add(new TotalColumn(TotalColumn.Kind.ROWS, Optional.empty(), Optional.empty()));
        amounts.forEach(amount -> columns.add(
                new TotalColumn(TotalColumn.Kind.SUM, Optional.of(new RowExpression.Value(amount)), Optional.empty())));
        return TotalsRequest.daily(fact, role, days, List.of(), columns);
    }

    /** Returns the days before the first period and after the last; a listed calendar has no gap between. */
    private static List<DateRange> unlisted(LevelAxis axis, DateRange days) {
        List<DateRange> unlisted = new ArrayList<>();
        if (days.isEmpty()) {
            return unlisted;
        }
        int first = days.firstEpochDay();
        while (first <= days.lastEpochDay() && !isListed(axis, first)) {
            first++;
        }
        int last = days.lastEpochDay();
        while (last > first && !isListed(axis, last)) {
            last--;
        }
        if (first > days.firstEpochDay()) {
            unlisted.add(DateRange.ofEpochDays(days.firstEpochDay(), first - 1));
        }
        if (last < days.lastEpochDay() && last >= first) {
            unlisted.add(DateRange.ofEpochDays(last + 1, days.lastEpochDay()));
        }
        return unlisted;
    }

    private static boolean isListed(LevelAxis axis, int day) {
        return axis.calendar().period(axis.level(), EpochDays.toDate(day)).isPresent();
    }
}
