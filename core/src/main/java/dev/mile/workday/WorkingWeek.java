package dev.mile.workday;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.SupportedDates;
import dev.mile.internal.EpochDays;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Which weekdays rest and which days are holidays, and the counts that follow: {@code inclusive} (days of a range) and
 * {@code elapsed} (days after the first up to and including the second), never mixed.
 *
 * <p>Part days count as their share everywhere. Every count is two reads of a running index over the {@link SupportedDates}; days
 * beyond it do not work. Immutable and safe for use by several threads.
 */
public final class WorkingWeek {
    /** Shares have at most six decimals, so that sums of them are exact. */
    private static final int SCALE = 6;

    private static final int ONE = 1_000_000;

    private static final int DAYS = DayOfWeek.values().length;

    private final String name;
    private final Set<DayOfWeek> rest;
    private final Map<Integer, String> holidays;
    private final int[] shares;
    private final long[] running;

    private WorkingWeek(Builder builder) {
        name = builder.name;
        rest = Set.copyOf(builder.rest);
        int days = SupportedDates.RANGE.length();
        shares = new int[days];
        for (int i = 0; i < DAYS; i++) {
            shares[i] = isRestDay(SupportedDates.RANGE.firstEpochDay() + i) ? 0 : ONE;
        }
        // the eighth day is as the first; copied, since every start of the command line does this
        for (int done = DAYS; done < days; done *= 2) {
            System.arraycopy(shares, 0, shares, done, Math.min(done, days - done));
        }
        holidays = Map.copyOf(builder.place(this));
        running = new long[days + 1];
        for (int i = 0; i < days; i++) {
            running[i + 1] = running[i] + shares[i];
        }
    }

    /**
     * {@return the builder of a working week}
     *
     * @param name its name
     */
    public static Builder named(String name) {
        requireNonNull(name, "name is null");
        return new Builder(name);
    }

    /** {@return its name} */
    public String name() {
        return name;
    }

    /** {@return the weekdays that rest} */
    public Set<DayOfWeek> rest() {
        return rest;
    }

    /** Returns whether the day's weekday rests, holidays and worked rest days apart. */
    boolean isRestDay(int day) {
        // 1970-01-01, day 0, was a Thursday
        return rest.contains(EpochDays.weekday(day));
    }

    private static int at(int day) {
        return Math.min(Math.max(day - SupportedDates.RANGE.firstEpochDay(), 0), SupportedDates.RANGE.length());
    }

    private int millionths(int day) {
        return SupportedDates.RANGE.contains(day) ? shares[day - SupportedDates.RANGE.firstEpochDay()] : 0;
    }

    /**
     * {@return how much of the day is worked, 0 to 1}
     *
     * @param day the day
     */
    public BigDecimal workedShare(LocalDate day) {
        return workedShare(EpochDays.of(day));
    }

    /**
     * {@return how much of the day is worked, 0 to 1}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public BigDecimal workedShare(int epochDay) {
        return exact(millionths(epochDay));
    }

    private static BigDecimal exact(long millionths) {
        if (millionths % ONE == 0) {
            return BigDecimal.valueOf(millionths / ONE);
        }
        BigDecimal value = BigDecimal.valueOf(millionths, SCALE).stripTrailingZeros();
        return value.scale() < 0 ? value.setScale(0) : value;
    }

    /**
     * {@return the share in millionths, for loops that must not allocate}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public int workedMillionths(int epochDay) {
        return millionths(epochDay);
    }

    /**
     * {@return the names of the day's holidays, joined with {@code " / "}; empty where it has none}
     *
     * @param day the day
     */
    public Optional<String> holidayName(LocalDate day) {
        requireNonNull(day, "day is null");
        return Optional.ofNullable(holidays.get(EpochDays.of(day)));
    }

    /**
     * {@return the names of the day's holidays, joined with {@code " / "}; an empty text where it has none}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public String holidayName(int epochDay) {
        return holidays.getOrDefault(epochDay, "");
    }

    /**
     * {@return what the day is; a holiday on a rest day is rest}
     *
     * @param day the day
     */
    public DayType dayType(LocalDate day) {
        return dayType(EpochDays.of(day));
    }

    /**
     * {@return what the day is; a holiday on a rest day is rest}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public DayType dayType(int epochDay) {
        int share = millionths(epochDay);
        if (share == ONE) {
            return DayType.WORKING;
        }
        if (share > 0) {
            return DayType.PART;
        }
        return isRestDay(epochDay) ? DayType.REST : DayType.HOLIDAY;
    }

    /**
     * {@return the running count of working days up to and including the day, in millionths; only differences have a meaning}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public long cumulativeMillionths(int epochDay) {
        return running[at(epochDay + 1)];
    }

    /**
     * {@return the working days of the range, first and last day included; 0 for the empty range}
     *
     * @param range the days
     */
    public BigDecimal workingDaysIn(DateRange range) {
        requireNonNull(range, "range is null");
        return range.isEmpty()
                ? BigDecimal.ZERO
                : exact(cumulativeMillionths(range.lastEpochDay()) - cumulativeMillionths(range.firstEpochDay() - 1));
    }

    /**
     * {@return the working days after the first day up to and including the second; 0 for the same day, negative backwards}
     *
     * @param from the first day
     * @param to the last day, included
     */
    public BigDecimal workingDaysBetween(LocalDate from, LocalDate to) {
        return workingDaysBetween(EpochDays.of(from), EpochDays.of(to));
    }

    /**
     * {@return the working days after the first day up to and including the second; 0 for the same day, negative backwards}
     *
     * @param fromEpochDay the first, as days since 1970-01-01
     * @param toEpochDay the second, as days since 1970-01-01
     */
    public BigDecimal workingDaysBetween(int fromEpochDay, int toEpochDay) {
        return exact(cumulativeMillionths(toEpochDay) - cumulativeMillionths(fromEpochDay));
    }

    /**
     * Returns the nth working day of the range, part days counted as days; from its end for a negative n.
     *
     * @param range the days
     * @param n 1 for the first, -1 for the last
     * @return empty where the range has fewer, and for 0
     */
    public Optional<LocalDate> nthWorkingDay(DateRange range, int n) {
        requireNonNull(range, "range is null");
        OptionalInt day = nthWorkingEpochDay(range, n);
        return day.isEmpty() ? Optional.empty() : Optional.of(EpochDays.toDate(day.getAsInt()));
    }

    /**
     * Returns the nth working day of the range, part days counted as days; from its end for a negative n.
     *
     * @param range the days
     * @param n 1 for the first, -1 for the last
     * @return empty where the range has fewer, and for 0
     */
    public OptionalInt nthWorkingEpochDay(DateRange range, int n) {
        requireNonNull(range, "range is null");
        int step = n < 0 ? -1 : 1;
        int left = Math.abs(n);
        DateRange known = range.intersect(SupportedDates.RANGE);
        if (known.isEmpty()) {
            return OptionalInt.empty();
        }
        for (int day = n < 0 ? known.lastEpochDay() : known.firstEpochDay(); known.contains(day); day += step) {
            if (millionths(day) > 0 && --left == 0) {
                return OptionalInt.of(day);
            }
        }
        return OptionalInt.empty();
    }

    /**
     * Returns the day on which the elapsed count from the day first reaches n working days: the inverse of {@link
     * #workingDaysBetween}. 0 gives the day itself; negative counts go back.
     *
     * @param day the day
     * @param n how many working days; negative for those before
     * @return empty where Mile's days end before
     */
    public Optional<LocalDate> plusWorkingDays(LocalDate day, BigDecimal n) {
        requireNonNull(day, "day is null");
        requireNonNull(n, "n is null");
        OptionalInt reached = plusWorkingDays(EpochDays.of(day), n);
        return reached.isEmpty() ? Optional.empty() : Optional.of(EpochDays.toDate(reached.getAsInt()));
    }

    /**
     * Returns the day on which the elapsed count from the day first reaches n working days: the inverse of {@link #workingDaysBetween}. 0 gives
     * the day itself; negative counts go back.
     *
     * @param epochDay the day, as days since 1970-01-01
     * @param n how many working days; negative for those before
     * @return empty where Mile's days end before
     */
    public OptionalInt plusWorkingDays(int epochDay, BigDecimal n) {
        requireNonNull(n, "n is null");
        long wanted = n.movePointRight(SCALE).longValueExact();
        if (wanted == 0) {
            return OptionalInt.of(epochDay);
        }
        long target = cumulativeMillionths(epochDay) + wanted;
        // forward: the first epochDay whose index reaches the target; back: the last epochDay whose index is not above
        // it
        int low = SupportedDates.RANGE.firstEpochDay() - 1;
        int high = SupportedDates.RANGE.lastEpochDay() + 1;
        if (target < 0 || target > running[running.length - 1]) {
            return OptionalInt.empty();
        }
        while (high - low > 1) {
            int middle = low + (high - low) / 2;
            boolean right = wanted > 0 ? cumulativeMillionths(middle) >= target : cumulativeMillionths(middle) > target;
            if (right) {
                high = middle;
            } else {
                low = middle;
            }
        }
        int found = wanted > 0 ? high : low;
        if (wanted < 0 && millionths(epochDay) == 0) {
            // before a day off, the first working day back is one of those that are counted
            found = low + 1;
        } else if (wanted < 0) {
            // going back lands on a epochDay that works
            while (found > SupportedDates.RANGE.firstEpochDay() && millionths(found) == 0) {
                found--;
            }
        }
        return SupportedDates.RANGE.contains(found) ? OptionalInt.of(found) : OptionalInt.empty();
    }

    /** Returns whether the other is a working week of the same name, whose days rest, are named and are worked alike. */
    @Override
    public boolean equals(Object other) {
        return other instanceof WorkingWeek week
                && week.name.equals(name)
                && week.rest.equals(rest)
                && week.holidays.equals(holidays)
                && Arrays.equals(week.shares, shares);
    }

    @Override
    public int hashCode() {
        return Objects.hash(name, rest, holidays);
    }

    /** Returns the name and the weekdays that rest: {@code shops (rests on sunday)}. */
    @Override
    public String toString() {
        return name + " (rests on "
                + (rest.isEmpty()
                        ? "no weekday"
                        : rest.stream()
                                .sorted()
                                .map(day -> day.name().toLowerCase(Locale.ROOT))
                                .collect(Collectors.joining(", ")))
                + ")";
    }

    /** Collects the rest days and holidays of a week; not for use by several threads. */
    public static final class Builder {
        private record Entry(int day, String name, BigDecimal share) {}

        private final String name;
        private final Set<DayOfWeek> rest = EnumSet.noneOf(DayOfWeek.class);
        private final List<HolidayRule> rules = new ArrayList<>();
        private final List<Entry> entries = new ArrayList<>();
        private boolean built;

        private Builder(String name) {
            this.name = requireNonNull(name, "name is null");
        }

        private void checkNotBuilt() {
            if (built) {
                throw new IllegalStateException(
                        "the working week '" + name + "' is built already; begin another one with WorkingWeek.named");
            }
        }

        /**
         * Lets the weekday rest.
         *
         * @param weekdays the weekdays without work
         * @return this builder
         */
        public Builder rest(DayOfWeek... weekdays) {
            checkNotBuilt();
            requireNonNull(weekdays, "weekdays is null");
            rest.addAll(List.of(weekdays));
            return this;
        }

        /**
         * Adds a holiday.
         *
         * @param rule when the holiday is
         * @return this builder
         */
        public Builder holiday(HolidayRule rule) {
            checkNotBuilt();
            requireNonNull(rule, "rule is null");
            rules.add(rule);
            return this;
        }

        /**
         * Adds one day with its share of work: 0 a day off, 0.5 half a day, 1 on a rest day a worked one.
         *
         * @param date the date
         * @param holiday what people call the day
         * @param share the share of a working day, from 0 to 1
         * @return this builder
         * @throws MileException if the share is not from 0 to 1, or has more than six decimals
         */
        public Builder specialDay(LocalDate date, String holiday, BigDecimal share) {
            checkNotBuilt();
            requireNonNull(date, "date is null");
            requireNonNull(holiday, "holiday is null");
            requireNonNull(share, "share is null");
            if (share.signum() < 0
                    || share.compareTo(BigDecimal.ONE) > 0
                    || share.stripTrailingZeros().scale() > SCALE) {
                throw ModelException.of(
                        "the share of %s (%s) is %s; expected 0 (off) to 1 (worked), with at most %d decimals",
                        date, holiday, share.toPlainString(), SCALE);
            }
            entries.add(new Entry(EpochDays.of(date), holiday, share));
            return this;
        }

        /**
         * {@return the week}
         *
         * @throws IllegalStateException if it was built before
         */
        public WorkingWeek build() {
            checkNotBuilt();
            if (rest.size() == 7) {
                throw ModelException.of(
                        "the working week '%s' rests on all seven weekdays; leave one to work on", name);
            }
            built = true;
            return new WorkingWeek(this);
        }

        /** Places holidays that stay first, then moved ones by date; writes their shares and returns their names. */
        private Map<Integer, String> place(WorkingWeek week) {
            Map<Integer, String> names = new HashMap<>();
            List<int[]> moving = new ArrayList<>();
            for (int r = 0; r < rules.size(); r++) {
                HolidayRule rule = rules.get(r);
                int from = Math.max(rule.fromYear(), SupportedDates.FIRST_YEAR);
                int until = Math.min(rule.untilYear(), SupportedDates.LAST_YEAR);
                for (LocalDate date : rule.date().between(from, until)) {
                    int day = EpochDays.of(date);
                    if (week.isRestDay(day) && rule.observance() != HolidayObservance.STAYS) {
                        moving.add(new int[] {day, r});
                    } else {
                        put(week, names, day, rule.name(), 0);
                    }
                }
            }
            Set<Integer> explicit = new HashSet<>();
            for (Entry entry : entries) {
                int share = entry.share.movePointRight(SCALE).intValueExact();
                // a listed share holds on rest days too; of two on one day the smaller one
                boolean first = explicit.add(entry.day) && (week.isRestDay(entry.day) || !names.containsKey(entry.day));
                int before = week.millionths(entry.day);
                put(week, names, entry.day, entry.name, first ? share : Math.min(share, before));
            }
            moving.sort(Comparator.comparingInt((int[] m) -> m[0]).thenComparingInt(m -> m[1]));
            for (int[] m : moving) {
                HolidayRule rule = rules.get(m[1]);
                put(week, names, target(week, names, m[0], rule.observance()), rule.name(), 0);
            }
            return names;
        }

        private static int target(WorkingWeek week, Map<Integer, String> names, int day, HolidayObservance move) {
            if (move == HolidayObservance.THE_DAY_AFTER) {
                return day + 1;
            }
            if (move == HolidayObservance.NEAREST_WEEKDAY) {
                for (int away = 1; ; away++) {
                    if (!week.isRestDay(day + away)) {
                        return day + away;
                    }
                    if (!week.isRestDay(day - away)) {
                        return day - away;
                    }
                }
            }
            int step = move == HolidayObservance.NEXT_WORKING_DAY ? 1 : -1;
            int to = day + step;
            while (week.isRestDay(to) || names.containsKey(to)) {
                to += step;
            }
            return to;
        }

        private static void put(WorkingWeek week, Map<Integer, String> names, int day, String name, int share) {
            if (!SupportedDates.RANGE.contains(day)) {
                return;
            }
            if (!name.isEmpty()) {
                names.merge(day, name, (a, b) -> List.of(a.split(" / ")).contains(b) ? a : a + " / " + b);
            }
            week.shares[day - SupportedDates.RANGE.firstEpochDay()] = share;
        }
    }
}
