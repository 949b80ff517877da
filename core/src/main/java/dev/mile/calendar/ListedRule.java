package dev.mile.calendar;

import dev.mile.MileException;
import java.time.LocalDate;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** Explicit period ends. They must rise, years must rise by one, and periods run 1..n in each. */
record ListedRule(LocalDate begins, List<PeriodEnd> ends) implements CalendarRule {
    ListedRule {
        ends = List.copyOf(ends);
        check(begins, ends);
    }

    private static void check(LocalDate begins, List<PeriodEnd> ends) {
        if (ends.isEmpty()) {
            throw MileException.invalidModel(
                    "a listed calendar has no period ends; give one line a period: end,year,period");
        }
        PeriodEnd previous = null;
        boolean quarters = ends.get(0).quarter() > 0;
        for (PeriodEnd end : ends) {
            LocalDate after = previous == null ? begins.minusDays(1) : previous.end();
            if (!SupportedDates.RANGE.contains(end.end())) {
                throw MileException.invalidModel(
                        "%s: the period end %s is outside the days that Mile knows, %s",
                        end.place(), end.end(), SupportedDates.RANGE);
            }
            if (previous != null && end.end().equals(after)) {
                throw MileException.invalidModel(
                        "%s: the period end %s stands twice; each period needs an end of its own",
                        end.place(), end.end());
            }
            if (!end.end().isAfter(after)) {
                throw MileException.invalidModel(
                        "%s: the period end %s does not come after %s (%s); ends must rise",
                        end.place(),
                        end.end(),
                        after,
                        previous == null ? "the day before `begins`" : "the end before it");
            }
            if (quarters != end.quarter() > 0) {
                throw MileException.invalidModel(
                        "%s: the quarter is %s; a list has quarters on every line or on none",
                        end.place(), end.quarter() > 0 ? "given" : "missing");
            }
            boolean newYear = previous == null || end.year() != previous.year();
            if (newYear && end.period() != 1) {
                throw MileException.invalidModel(
                        "%s: year %d begins with period %d; expected its first period, 1",
                        end.place(), end.year(), end.period());
            }
            if (previous != null && newYear && end.year() != previous.year() + 1) {
                throw MileException.invalidModel(
                        "%s: year %d follows year %d; years rise by one", end.place(), end.year(), previous.year());
            }
            if (!newYear && end.period() != previous.period() + 1) {
                throw MileException.invalidModel(
                        "%s: period %d follows period %d of year %d; expected %d",
                        end.place(), end.period(), previous.period(), end.year(), previous.period() + 1);
            }
            if (quarters) {
                int expected = newYear ? 1 : previous.quarter();
                if (end.quarter() != expected && (newYear || end.quarter() != expected + 1)) {
                    throw MileException.invalidModel(
                            "%s: quarter %d cannot stand here; expected %s",
                            end.place(), end.quarter(), newYear ? "1" : expected + " or " + (expected + 1));
                }
            }
            previous = end;
        }
    }

    @Override
    public CalendarRule named(boolean forStart) {
        throw MileException.invalidModel("a listed calendar carries its own year numbers; take named_for away");
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
            if (newYear || previous.quarter() != end.quarter()) {
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
        if (ends.get(0).quarter() > 0) {
            starts.put(Level.QUARTER, quarters.everyNth(1));
        }
        return CalendarTable.of(starts, numbers.everyNth(1), false);
    }

    @Override
    public String describe() {
        return "listed, " + begins + " to " + ends.get(ends.size() - 1).end();
    }
}
