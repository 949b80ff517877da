package dev.mile.calendar;

import dev.mile.MileException;
import dev.mile.ModelException;
import java.time.LocalDate;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Explicit period ends. They must rise, years must rise by one, and periods run 1..n in each. */
record ListedRule(LocalDate begins, List<PeriodEnd> ends) implements CalendarRule {
    ListedRule {
        ends = List.copyOf(ends);
        check(begins, ends);
    }

    private static void check(LocalDate begins, List<PeriodEnd> ends) {
        if (ends.isEmpty()) {
            throw ModelException.of("a listed calendar has no period ends; give one line a period: end,year,period");
        }
        boolean quarters = ends.get(0).quarter().isPresent();
        PeriodEnd previous = null;
        for (PeriodEnd end : ends) {
            try {
                check(begins, previous, end, quarters);
            } catch (MileException e) {
                throw e.withLocationOf(end);
            }
            previous = end;
        }
    }

    private static void check(LocalDate begins, @Nullable PeriodEnd previous, PeriodEnd end, boolean quarters) {
        LocalDate after = previous == null ? begins.minusDays(1) : previous.end();
        SupportedDates.require(end.end());
        if (previous != null && end.end().equals(after)) {
            throw ModelException.of("the period end %s occurs twice; each period needs its own end", end.end());
        }
        if (!end.end().isAfter(after)) {
            throw ModelException.of(
                    "the period end %s does not come after %s (%s); ends must rise",
                    end.end(), after, previous == null ? "the day before the first" : "the end before it");
        }
        if (quarters != end.quarter().isPresent()) {
            throw ModelException.of(
                    "the quarter is %s; a list has quarters on every line or on none",
                    end.quarter().isPresent() ? "given" : "missing");
        }
        boolean newYear = previous == null || end.year() != previous.year();
        if (newYear && end.period() != 1) {
            throw ModelException.of(
                    "year %d begins with period %d; expected its first period, 1", end.year(), end.period());
        }
        if (previous != null && newYear && end.year() != previous.year() + 1) {
            throw ModelException.of("year %d follows year %d; years rise by one", end.year(), previous.year());
        }
        if (!newYear && end.period() != previous.period() + 1) {
            throw ModelException.of(
                    "period %d follows period %d of year %d; expected %d",
                    end.period(), previous.period(), end.year(), previous.period() + 1);
        }
        if (quarters) {
            checkQuarter(
                    newYear ? 0 : previous.quarter().getAsInt(), end.quarter().getAsInt());
        }
    }

    /** Checks that a quarter follows the one of the period before, which is 0 where a year begins. */
    private static void checkQuarter(int before, int quarter) {
        boolean follows = quarter == before + 1 || (before > 0 && quarter == before);
        if (!follows) {
            throw ModelException.of(
                    "quarter %d cannot follow here; expected %s",
                    quarter, before == 0 ? "1" : before + " or " + (before + 1));
        }
    }

    @Override
    public CalendarRule named(boolean forStart) {
        throw ModelException.of("a listed calendar carries its own year numbers; take named_for away");
    }

    @Override
    public CalendarTable table() {
        IntList years = new IntList();
        IntList quarters = new IntList();
        IntList periods = new IntList();
        IntList numbers = new IntList();
        int at = (int) begins.toEpochDay();
        PeriodEnd previous = null;
        for (PeriodEnd end : ends) {
            boolean newYear = previous == null || previous.year() != end.year();
            if (newYear) {
                years.add(at);
                numbers.add(end.year());
            }
            if (newYear || !previous.quarter().equals(end.quarter())) {
                quarters.add(at);
            }
            periods.add(at);
            at = (int) end.end().toEpochDay() + 1;
            previous = end;
        }
        Map<Level, int[]> starts = new EnumMap<>(Level.class);
        years.add(at);
        quarters.add(at);
        periods.add(at);
        starts.put(Level.YEAR, years.everyNth(1));
        starts.put(Level.PERIOD, periods.everyNth(1));
        if (ends.get(0).quarter().isPresent()) {
            starts.put(Level.QUARTER, quarters.everyNth(1));
        }
        return CalendarTable.of(starts, numbers.everyNth(1), false);
    }

    @Override
    public String describe() {
        return "listed, " + begins + " to " + ends.get(ends.size() - 1).end();
    }
}
