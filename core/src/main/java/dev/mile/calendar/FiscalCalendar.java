package dev.mile.calendar;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.internal.EpochDays;
import dev.mile.internal.MonthAndWeekdayNames;
import java.io.InvalidObjectException;
import java.io.ObjectInputStream;
import java.io.Serializable;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.MonthDay;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A rule that places every day in a year, half, quarter, period (month), week and day: the retail year 2023 of
 * {@code FiscalCalendar.weeks("4-5-4").endingNearest(SATURDAY, MonthDay.of(JANUARY, 31)).namedForStart()} runs from
 * 2023-01-29 to 2024-02-03, 53 weeks.
 *
 * <p>A calendar reaches over the {@link SupportedDates}, a listed one over its list; days outside have no period, and nothing is
 * guessed for them. Every lookup is a binary search in a table computed on first use, and allocates nothing where it
 * returns an {@code int}. Immutable and safe for use by several threads.
 */
public final class FiscalCalendar implements Serializable {
    private static final long serialVersionUID = 1L;

    /** What the methods that return an {@code int} give for a day or period that the calendar lacks. */
    public static final int NONE = Integer.MIN_VALUE;

    private static final int LEVELS = Level.values().length;
    private static final Pattern YEAR_IN_LABEL = Pattern.compile("(?<!\\d)\\d{4}(?!\\d)");

    private final CalendarRule rule;
    private final LabelTemplates templates;
    private final transient MonthAndWeekdayNames names;
    private transient volatile CalendarTable table;
    // caches without locks: a value may be found twice, and every value is immutable, so that any thread may read it
    private final transient List<Level>[] alignableLevels = newLists(LEVELS);
    private final transient List<Level>[] levelsBelow = newLists(LEVELS * (LEVELS + 1));
    private final transient String[][] labels = new String[Level.values().length][];

    private FiscalCalendar(CalendarRule rule, LabelTemplates templates, MonthAndWeekdayNames names) {
        this.rule = rule;
        this.templates = templates;
        this.names = names;
    }

    @SuppressWarnings({"unchecked", "rawtypes"})
    private static List<Level>[] newLists(int count) {
        return new List[count];
    }

    static FiscalCalendar of(CalendarRule rule) {
        return new FiscalCalendar(rule, LabelTemplates.DEFAULT, MonthAndWeekdayNames.forLocale(Locale.ENGLISH));
    }

    /**
     * {@return a calendar of twelve months whose year starts on the first of the month, named for its end}
     *
     * @param month the month
     */
    public static FiscalCalendar startingIn(Month month) {
        requireNonNull(month, "month is null");
        return startingOn(month, 1);
    }

    /**
     * {@return a calendar of twelve periods that each start on that day of a month, named for the civil year of its last day}
     *
     * @param month the month
     * @param day 1 to the month's longest; where a month is shorter, its last day
     * @throws MileException if the month never has the day
     */
    public static FiscalCalendar startingOn(Month month, int day) {
        return of(new MonthRule(requireNonNull(month, "month is null"), day, false, DayOfWeek.MONDAY));
    }

    /**
     * {@return the start of a week-based calendar; its pattern is read by {@link WeekPattern#parse}}
     *
     * @param pattern the pattern of weeks
     */
    public static WeekCalendarStage weeks(String pattern) {
        requireNonNull(pattern, "pattern is null");
        return new WeekCalendarStage(WeekPattern.parse(pattern));
    }

    /** {@return the calendar of civil years and months} */
    public static FiscalCalendar civil() {
        return Civil.CALENDAR;
    }

    /** Made when it is first asked for. */
    private static final class Civil {
        static final FiscalCalendar CALENDAR = startingIn(Month.JANUARY);
    }

    /** {@return the ISO 8601 calendar of years and weeks: years end on the Sunday nearest to December 31} */
    public static FiscalCalendar iso() {
        return weeks("none").endingNearest(DayOfWeek.SUNDAY, MonthDay.of(Month.DECEMBER, 31));
    }

    /**
     * {@return a calendar of explicit period ends}
     *
     * @param begins the first day of the first period
     * @param ends the ends of the periods, rising
     * @throws MileException where ends do not rise, years do not rise by one, or periods do not run 1..n in each
     */
    public static FiscalCalendar listed(LocalDate begins, List<PeriodEnd> ends) {
        requireNonNull(ends, "ends is null");
        return of(new ListedRule(requireNonNull(begins, "begins is null"), ends));
    }

    /** {@return the calendar with years named for the civil year in which they (nominally) start} */
    public FiscalCalendar namedForStart() {
        return new FiscalCalendar(rule.named(true), templates, names);
    }

    /** {@return the calendar with years named for the civil year in which they (nominally) end, the default} */
    public FiscalCalendar namedForEnd() {
        return new FiscalCalendar(rule.named(false), templates, names);
    }

    /**
     * {@return the calendar with the 53rd week in another period than the last}
     *
     * @param period from 1
     * @throws MileException if the pattern lacks the period, or the calendar is not week-based
     */
    public FiscalCalendar withExtraWeekIn(int period) {
        if (rule instanceof WeekRule weeks) {
            return new FiscalCalendar(weeks.withExtraWeek(period), templates, names);
        }
        throw ModelException.of("an extra week belongs to calendars of weeks; begin with FiscalCalendar.weeks")
                .withModelWords("extra_week belongs to calendars of weeks; take it away, or say `weeks:`");
    }

    /**
     * {@return the calendar whose weeks start with the year and then on the weekday; a week-based one is returned unchanged}
     *
     * @param weekday the weekday
     */
    public FiscalCalendar withWeekStart(DayOfWeek weekday) {
        requireNonNull(weekday, "weekday is null");
        return new FiscalCalendar(rule.withWeekStart(weekday), templates, names);
    }

    /**
     * {@return the calendar with other labels}
     *
     * @param labels the templates
     * @throws MileException if two periods of one level in neighbouring years would share a label
     */
    public FiscalCalendar withLabels(LabelTemplates labels) {
        FiscalCalendar copy = new FiscalCalendar(rule, requireNonNull(labels, "labels is null"), names);
        copy.checkLabels();
        return copy;
    }

    /**
     * {@return the calendar with names of months in the locale}
     *
     * @param locale the language
     */
    public FiscalCalendar withLocale(Locale locale) {
        requireNonNull(locale, "locale is null");
        return new FiscalCalendar(rule, templates, MonthAndWeekdayNames.forLocale(locale));
    }

    private void checkLabels() {
        PeriodStarts years = startsOf(Level.YEAR);
        int from = Math.min(years.size() - 1, years.size() * 4 / 5);
        for (Level level : levels()) {
            if (level == Level.DAY || templates.isDefault(level)) {
                continue;
            }
            Map<String, Integer> seen = new HashMap<>();
            PeriodStarts line = startsOf(level);
            int last = line.find(years.end(Math.min(years.size(), from + 3) - 1));
            for (int ordinal = line.find(years.start(from)); ordinal <= last; ordinal++) {
                Integer other = seen.put(label(level, ordinal), ordinal);
                if (other != null) {
                    throw ModelException.of(
                            "the label template of the %s gives '%s' to %s and to %s; labels must distinguish periods, so"
                                    + " put {year} (or {civil_year}) and the period's number or name in it",
                            level.word(), label(level, ordinal), line.range(other), line.range(ordinal));
                }
            }
        }
    }

    private CalendarTable table() {
        CalendarTable t = table;
        if (t == null) {
            t = rule.table();
            table = t;
        }
        return t;
    }

    private PeriodStarts startsOf(Level level) {
        return table().startsByLevel().get(level);
    }

    /**
     * {@return whether the calendar has the level; every calendar has YEAR and DAY}
     *
     * @param level the level
     */
    public boolean supports(Level level) {
        requireNonNull(level, "level is null");
        return level == Level.DAY || startsOf(level) != null;
    }

    /** {@return the levels that the calendar has, coarsest first} */
    public List<Level> levels() {
        List<Level> levels = new ArrayList<>();
        for (Level level : Level.values()) {
            if (supports(level)) {
                levels.add(level);
            }
        }
        return levels;
    }

    /** {@return whether weeks are parts of periods and years, as in week-based calendars} */
    public boolean hasNestedWeeks() {
        return table().hasNestedWeeks();
    }

    /** {@return the days that the calendar knows} */
    public DateRange supportedRange() {
        PeriodStarts years = startsOf(Level.YEAR);
        return DateRange.ofEpochDays(years.start(0), years.end(years.size() - 1));
    }

    /**
     * {@return the ordinal of the period at the level that holds the day; empty if there is none}
     *
     * @param level the level
     * @param day the day
     */
    public OptionalInt ordinal(Level level, LocalDate day) {
        requireNonNull(level, "level is null");
        requireNonNull(day, "day is null");
        return known(ordinal(level, EpochDays.of(day)));
    }

    private static OptionalInt known(int number) {
        return number == NONE ? OptionalInt.empty() : OptionalInt.of(number);
    }

    /**
     * {@return the ordinal of the period at the level that holds the day, or {@link #NONE}}
     *
     * @param level the level
     * @param epochDay the day, as days since 1970-01-01
     */
    public int ordinal(Level level, int epochDay) {
        requireNonNull(level, "level is null");
        if (level == Level.DAY) {
            PeriodStarts years = startsOf(Level.YEAR);
            return epochDay >= years.start(0) && epochDay <= years.end(years.size() - 1) ? epochDay : NONE;
        }
        PeriodStarts line = startsOf(level);
        int at = line == null ? PeriodStarts.NONE : line.find(epochDay);
        return at == PeriodStarts.NONE ? NONE : at;
    }

    /**
     * {@return the first and last day of the period with the ordinal; empty where the calendar lacks it}
     *
     * @param level the level
     * @param ordinal the ordinal of the period, consecutive over all time
     */
    public DateRange range(Level level, int ordinal) {
        requireNonNull(level, "level is null");
        if (level == Level.DAY) {
            return supportedRange().intersect(DateRange.ofEpochDays(ordinal, ordinal));
        }
        PeriodStarts line = startsOf(level);
        return line != null && line.has(ordinal) ? line.range(ordinal) : DateRange.EMPTY;
    }

    /**
     * {@return the days of the period at the level that holds the day; empty if there is none}
     *
     * @param level the level
     * @param day the day
     */
    public DateRange rangeContaining(Level level, LocalDate day) {
        return rangeContaining(level, EpochDays.of(day));
    }

    /**
     * {@return the days of the period at the level that holds the day; empty if there is none}
     *
     * @param level the level
     * @param epochDay the day, as days since 1970-01-01
     */
    public DateRange rangeContaining(Level level, int epochDay) {
        requireNonNull(level, "level is null");
        int ordinal = ordinal(level, epochDay);
        return ordinal == NONE ? DateRange.EMPTY : range(level, ordinal);
    }

    /**
     * {@return the number of the fiscal year that holds the day, such as 2026; empty if there is none}
     *
     * @param day the day
     */
    public OptionalInt yearNumber(LocalDate day) {
        requireNonNull(day, "day is null");
        return known(yearNumber(EpochDays.of(day)));
    }

    /**
     * {@return the number of the fiscal year that holds the day, such as 2026, or {@link #NONE}}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public int yearNumber(int epochDay) {
        int at = startsOf(Level.YEAR).find(epochDay);
        return at == PeriodStarts.NONE ? NONE : table().yearNumbers()[at];
    }

    /**
     * {@return the number, from 1, of the day's period at a level within the coarser period that holds the day: the month of the
     * year, the week of the quarter, the day of the month} Empty where the calendar lacks one of them.
     *
     * @param level the level
     * @param within the coarser level
     * @param day the day
     */
    public OptionalInt number(Level level, Level within, LocalDate day) {
        requireNonNull(level, "level is null");
        requireNonNull(within, "within is null");
        requireNonNull(day, "day is null");
        return known(number(level, within, EpochDays.of(day)));
    }

    /**
     * {@return the number, from 1, of the day's period at a level within the coarser period that holds the day: the month of the
     * year, the week of the quarter, the day of the month} {@link #NONE} where the calendar lacks one of them.
     *
     * @param level the level
     * @param within the coarser level
     * @param epochDay the day, as days since 1970-01-01
     */
    public int number(Level level, Level within, int epochDay) {
        requireNonNull(level, "level is null");
        requireNonNull(within, "within is null");
        int ordinal = ordinal(level, epochDay);
        PeriodStarts coarse = startsOf(within);
        int at = within == Level.DAY || coarse == null ? PeriodStarts.NONE : coarse.find(epochDay);
        if (ordinal == NONE || (at == PeriodStarts.NONE && within != Level.DAY)) {
            return NONE;
        }
        return within == Level.DAY ? 1 : ordinal - ordinal(level, coarse.start(at)) + 1;
    }

    /**
     * {@return the period at the level that holds the day; empty where the calendar has none}
     *
     * @param level the level
     * @param day the day
     */
    public Optional<CalendarPeriod> period(Level level, LocalDate day) {
        return period(level, EpochDays.of(day));
    }

    /**
     * {@return the period at the level that holds the epoch day; empty where the calendar has none}
     *
     * @param level the level
     * @param epochDay the day, as days since 1970-01-01
     */
    public Optional<CalendarPeriod> period(Level level, int epochDay) {
        requireNonNull(level, "level is null");
        int ordinal = ordinal(level, epochDay);
        return ordinal == NONE ? Optional.empty() : Optional.of(periodAt(level, ordinal));
    }

    /**
     * {@return the period with the ordinal}
     *
     * @param level the level
     * @param ordinal the ordinal of the period, consecutive over all time
     * @throws MileException if the calendar lacks it
     */
    public CalendarPeriod periodAt(Level level, int ordinal) {
        requireNonNull(level, "level is null");
        DateRange range = range(level, ordinal);
        if (range.isEmpty()) {
            throw ModelException.of(
                    "the calendar (%s) has no %s with the ordinal %d; it reaches from %s",
                    rule.describe(), level.word(), ordinal, supportedRange());
        }
        int first = range.firstEpochDay();
        int number = level == Level.YEAR ? yearNumber(first) : number(level, Level.YEAR, first);
        return new CalendarPeriod(level, ordinal, number, label(level, ordinal), range);
    }

    /**
     * {@return the label of the period with the ordinal; an empty text where the calendar lacks it}
     *
     * @param level the level
     * @param ordinal the ordinal of the period, consecutive over all time
     */
    public String label(Level level, int ordinal) {
        requireNonNull(level, "level is null");
        PeriodStarts line = level == Level.DAY ? null : startsOf(level);
        if (level == Level.DAY || line == null || !line.has(ordinal)) {
            DateRange day = range(level, ordinal);
            return day.isEmpty() ? "" : day.first().toString();
        }
        String[] known = labels[level.ordinal()];
        if (known == null) {
            known = new String[line.size()];
            labels[level.ordinal()] = known;
        }
        String label = known[ordinal];
        if (label == null) {
            label = formatLabel(level, line.range(ordinal));
            known[ordinal] = label;
        }
        return label;
    }

    private String formatLabel(Level level, DateRange range) {
        Map<Level, Integer> numbers = new EnumMap<>(Level.class);
        for (Level l : List.of(Level.HALF, Level.QUARTER, Level.PERIOD, Level.WEEK)) {
            if (supports(l)) {
                numbers.put(l, number(l, Level.YEAR, range.firstEpochDay()));
            }
        }
        return templates.label(level, yearNumber(range.firstEpochDay()), numbers, range, names);
    }

    /**
     * {@return the periods at the level that share a day with the range, in order}
     *
     * @param level the level
     * @param range the days
     */
    public List<CalendarPeriod> periodsOverlapping(Level level, DateRange range) {
        requireNonNull(level, "level is null");
        requireNonNull(range, "range is null");
        DateRange known = range.intersect(supportedRange());
        List<CalendarPeriod> periods = new ArrayList<>();
        if (!known.isEmpty() && supports(level)) {
            for (int o = ordinal(level, known.firstEpochDay()); o <= ordinal(level, known.lastEpochDay()); o++) {
                periods.add(periodAt(level, o));
            }
        }
        return periods;
    }

    /**
     * {@return the period that has the label at any level, or the day of an ISO date; empty where none has it}
     *
     * @param label the label of a period
     * @param near the day that decides among periods which share a label, since a template writes two digits of the year: the one
     *     that begins nearest to it is meant
     */
    public Optional<CalendarPeriod> parse(String label, LocalDate near) {
        requireNonNull(label, "label is null");
        requireNonNull(near, "near is null");
        for (Level level : levels()) {
            Optional<CalendarPeriod> period = parse(label, level, near);
            if (period.isPresent()) {
                return period;
            }
        }
        return Optional.empty();
    }

    /**
     * {@return the period of the level that has the label, as {@link #parse(String, LocalDate)} does; empty where none has it}
     *
     * @param label the label of a period
     * @param level the level
     * @param near a day near the period that is meant
     */
    public Optional<CalendarPeriod> parse(String label, Level level, LocalDate near) {
        requireNonNull(label, "label is null");
        requireNonNull(level, "level is null");
        requireNonNull(near, "near is null");
        String text = label.strip();
        if (level == Level.DAY) {
            return Optional.of(text)
                    .filter(t -> t.matches("\\d{4}-\\d{2}-\\d{2}"))
                    .flatMap(EpochDays::parse)
                    .flatMap(day -> period(Level.DAY, day));
        }
        if (!supports(level)) {
            return Optional.empty();
        }
        if (level == Level.YEAR && text.matches("\\d{4}")) {
            // a plain 2026 is the year of that number, whatever its label
            int at = Integer.parseInt(text) - table().yearNumbers()[0];
            return at >= 0 && at < table().yearNumbers().length
                    ? Optional.of(periodAt(Level.YEAR, at))
                    : Optional.empty();
        }
        int[] numbers = table().yearNumbers();
        Matcher year = YEAR_IN_LABEL.matcher(text);
        int from = numbers[0];
        int to = numbers[numbers.length - 1];
        if (year.find()) {
            // the number in a label is its fiscal year, or a civil year that the fiscal one touches
            from = Math.max(from, Integer.parseInt(year.group()) - 2);
            to = Math.min(to, Integer.parseInt(year.group()) + 2);
        }
        long wanted = near.toEpochDay();
        CalendarPeriod nearest = null;
        for (int number = from; number <= to; number++) {
            DateRange days = range(Level.YEAR, number - numbers[0]);
            if (nearest != null
                    && Math.abs(days.firstEpochDay() - wanted)
                            > Math.abs(nearest.range().firstEpochDay() - wanted) + days.length()) {
                continue;
            }
            for (CalendarPeriod period : periodsOverlapping(level, days)) {
                int first = period.range().firstEpochDay();
                if (period.label().equalsIgnoreCase(text)
                        && days.contains(first)
                        && (nearest == null
                                || Math.abs(first - wanted)
                                        < Math.abs(nearest.range().firstEpochDay() - wanted))) {
                    nearest = period;
                }
            }
        }
        return Optional.ofNullable(nearest);
    }

    /**
     * Moves a window by whole units, back for a negative count. Whole periods stay whole; otherwise each end keeps its place in
     * the unit (docs/language.md): the same day of the same period, held to its last day, and in week-based calendars the
     * same weekday of the same week of the same period. Empty where the calendar has no counterpart.
     *
     * @param window the days that are moved
     * @param count how many units; negative for the past
     * @param unit the unit
     * @return the days where the window comes to lie; empty where it has no counterpart
     */
    public DateRange shift(DateRange window, int count, Level unit) {
        requireNonNull(window, "window is null");
        requireNonNull(unit, "unit is null");
        if (window.isEmpty() || count == 0) {
            return window;
        }
        if (unit == Level.DAY || unit == Level.WEEK) {
            int days = Math.multiplyExact(count, unit == Level.DAY ? 1 : 7);
            return DateRange.ofEpochDays(window.firstEpochDay() + days, window.lastEpochDay() + days);
        }
        Level whole = coarsestAlignedLevel(window, unit);
        OptionalInt first = counterpartOf(window.firstEpochDay(), count, unit, whole, false);
        OptionalInt last = counterpartOf(window.lastEpochDay(), count, unit, whole, true);
        return first.isEmpty() || last.isEmpty()
                ? DateRange.EMPTY
                : DateRange.ofEpochDays(first.getAsInt(), last.getAsInt());
    }

    /**
     * {@return the day as long as the units' length before: the last day of a period stays one, any other keeps its place and is
     * held to the counterpart's last day} Empty where the calendar has no counterpart.
     *
     * @param day the day
     * @param count how many units; negative for the past
     * @param unit the unit
     */
    public Optional<LocalDate> shiftEnd(LocalDate day, int count, Level unit) {
        requireNonNull(day, "day is null");
        requireNonNull(unit, "unit is null");
        OptionalInt shifted = shiftEnd(EpochDays.of(day), count, unit);
        return shifted.isEmpty() ? Optional.empty() : Optional.of(EpochDays.toDate(shifted.getAsInt()));
    }

    /**
     * {@return the day as long as the units' length before: the last day of a period stays one, any other keeps its place and is
     * held to the counterpart's last day} Empty where the calendar has no counterpart.
     *
     * @param epochDay the day, as days since 1970-01-01
     * @param count how many units; negative for the past
     * @param unit the unit
     */
    public OptionalInt shiftEnd(int epochDay, int count, Level unit) {
        requireNonNull(unit, "unit is null");
        if (unit == Level.DAY || unit == Level.WEEK) {
            return OptionalInt.of(epochDay + Math.multiplyExact(count, unit == Level.DAY ? 1 : 7));
        }
        Level ends = null;
        for (Level level : alignableLevels(unit)) {
            if (ends == null && rangeContaining(level, epochDay).lastEpochDay() == epochDay) {
                ends = level;
            }
        }
        return counterpartOf(epochDay, count, unit, ends, true);
    }

    private List<Level> alignableLevels(Level unit) {
        List<Level> known = alignableLevels[unit.ordinal()];
        if (known == null) {
            known = findAlignableLevels(unit);
            alignableLevels[unit.ordinal()] = known;
        }
        return known;
    }

    private List<Level> findAlignableLevels(Level unit) {
        List<Level> levels = new ArrayList<>();
        for (Level level : levels()) {
            if (!level.isCoarserThan(unit) && level != Level.DAY && (level != Level.WEEK || hasNestedWeeks())) {
                levels.add(level);
            }
        }
        return List.copyOf(levels);
    }

    private Level coarsestAlignedLevel(DateRange window, Level unit) {
        for (Level level : alignableLevels(unit)) {
            PeriodStarts line = startsOf(level);
            int first = line.find(window.firstEpochDay());
            int last = line.find(window.lastEpochDay());
            if (first != PeriodStarts.NONE
                    && line.start(first) == window.firstEpochDay()
                    && last != PeriodStarts.NONE
                    && line.end(last) == window.lastEpochDay()) {
                return level;
            }
        }
        return null;
    }

    /**
     * Follows a day's place down from the unit to its counterpart. Where the counterpart lacks a part, an end is held to the last
     * day before the gap and a start goes to the day after, so that a window inside the missing part comes out empty.
     */
    private OptionalInt counterpartOf(int day, int count, Level unit, Level whole, boolean asEnd) {
        PeriodStarts from = requireStartsOf(unit);
        int fromAt = from.find(day);
        long target = (long) fromAt + count;
        if (fromAt == PeriodStarts.NONE || target != (int) target || !from.has((int) target)) {
            return OptionalInt.empty();
        }
        PeriodStarts to = from;
        int toAt = (int) target;
        for (Level level : levelsBelow(unit, whole)) {
            PeriodStarts next = startsOf(level);
            int place = next.find(day) - next.find(to.start(fromAt));
            int base = next.find(to.start(toAt));
            int places = next.find(to.end(toAt)) - base + 1;
            if (place >= places) {
                return OptionalInt.of(to.end(toAt) + (asEnd ? 0 : 1));
            }
            fromAt = next.find(day);
            toAt = base + place;
            to = next;
        }
        if (whole != null) {
            return OptionalInt.of(asEnd ? to.end(toAt) : to.start(toAt));
        }
        return OptionalInt.of(Math.min(to.start(toAt) + (day - to.start(fromAt)), to.end(toAt)));
    }

    private List<Level> levelsBelow(Level unit, Level whole) {
        int key = unit.ordinal() * (LEVELS + 1) + (whole == null ? 0 : whole.ordinal() + 1);
        List<Level> known = levelsBelow[key];
        if (known == null) {
            known = findLevelsBelow(unit, whole);
            levelsBelow[key] = known;
        }
        return known;
    }

    private List<Level> findLevelsBelow(Level unit, Level whole) {
        List<Level> path = new ArrayList<>();
        if (whole != null && whole.isCoarserThan(Level.PERIOD)) {
            if (whole != unit) {
                path.add(whole);
            }
            return List.copyOf(path);
        }
        if (unit != Level.PERIOD && supports(Level.PERIOD)) {
            path.add(Level.PERIOD);
        }
        if (whole != Level.PERIOD && whole != unit && hasNestedWeeks()) {
            path.add(Level.WEEK);
        }
        return List.copyOf(path);
    }

    /**
     * {@return this calendar}
     *
     * @param name what the project calls it
     * @param level a level that it must have
     * @throws ModelException if it lacks the level
     */
    public FiscalCalendar requireLevel(String name, Level level) {
        requireNonNull(name, "name is null");
        if (!supports(requireNonNull(level, "level is null"))) {
            throw ModelException.of(
                    "the calendar '%s' has no %s; it has %s. Name another calendar (`in NAME`) or another unit",
                    name,
                    level.plural(),
                    String.join(", ", levels().stream().map(Level::plural).toList()));
        }
        return this;
    }

    private PeriodStarts requireStartsOf(Level level) {
        PeriodStarts line = startsOf(level);
        if (line == null) {
            throw ModelException.of(
                    "the calendar (%s) has no %s; it has %s",
                    rule.describe(),
                    level.plural(),
                    String.join(", ", levels().stream().map(Level::plural).toList()));
        }
        return line;
    }

    /**
     * {@return the complete units from the first day to the second: as many as the first can be moved ahead without passing the
     * second; negative, and counted from the second, where it lies before the first} Empty for days outside the calendar.
     *
     * @param from the first day
     * @param to the last day, included
     * @param unit the unit
     */
    public OptionalInt completeUnits(LocalDate from, LocalDate to, Level unit) {
        requireNonNull(from, "from is null");
        requireNonNull(to, "to is null");
        requireNonNull(unit, "unit is null");
        return known(completeUnits(EpochDays.of(from), EpochDays.of(to), unit));
    }

    /**
     * {@return the complete units from the first day to the second: as many as the first can be moved ahead without passing the
     * second; negative, and counted from the second, where it lies before the first} {@link #NONE} for days outside the calendar.
     *
     * @param fromEpochDay the first, as days since 1970-01-01
     * @param toEpochDay the second, as days since 1970-01-01
     * @param unit the unit
     */
    public int completeUnits(int fromEpochDay, int toEpochDay, Level unit) {
        requireNonNull(unit, "unit is null");
        if (toEpochDay < fromEpochDay) {
            int units = completeUnits(toEpochDay, fromEpochDay, unit);
            return units == NONE ? NONE : -units;
        }
        if (unit == Level.DAY || unit == Level.WEEK) {
            return (toEpochDay - fromEpochDay) / (unit == Level.DAY ? 1 : 7);
        }
        int crossed = boundariesCrossed(fromEpochDay, toEpochDay, unit);
        if (crossed == NONE) {
            return NONE;
        }
        OptionalInt moved = counterpartOf(fromEpochDay, crossed, unit, null, true);
        return moved.isEmpty() || moved.getAsInt() > toEpochDay ? crossed - 1 : crossed;
    }

    /**
     * {@return how many starts of units lie after the first day up to the second, negative backwards; empty outside the calendar}
     *
     * @param from the first day
     * @param to the last day, included
     * @param unit the unit
     */
    public OptionalInt boundariesCrossed(LocalDate from, LocalDate to, Level unit) {
        requireNonNull(from, "from is null");
        requireNonNull(to, "to is null");
        requireNonNull(unit, "unit is null");
        return known(boundariesCrossed(EpochDays.of(from), EpochDays.of(to), unit));
    }

    /**
     * {@return how many starts of units lie after the first day up to the second, negative backwards; {@link #NONE} outside}
     *
     * @param fromEpochDay the first, as days since 1970-01-01
     * @param toEpochDay the second, as days since 1970-01-01
     * @param unit the unit
     */
    public int boundariesCrossed(int fromEpochDay, int toEpochDay, Level unit) {
        requireNonNull(unit, "unit is null");
        int first = ordinal(unit, fromEpochDay);
        int second = ordinal(unit, toEpochDay);
        return first == NONE || second == NONE ? NONE : second - first;
    }

    /** The definition of a calendar; its tables are rebuilt when it is read. */
    private record SerializedForm(CalendarRule rule, LabelTemplates templates, Locale locale) implements Serializable {
        private Object readResolve() {
            return new FiscalCalendar(rule, templates, MonthAndWeekdayNames.forLocale(locale));
        }
    }

    private Object writeReplace() {
        return new SerializedForm(rule, templates, names.locale());
    }

    private void readObject(ObjectInputStream in) throws InvalidObjectException {
        throw new InvalidObjectException("a calendar is read by its serialized form");
    }

    /** Returns whether the other is a calendar of the same rule, labels and language. */
    @Override
    public boolean equals(Object other) {
        return other instanceof FiscalCalendar calendar
                && calendar.rule.equals(rule)
                && calendar.templates.equals(templates)
                && calendar.names.locale().equals(names.locale());
    }

    @Override
    public int hashCode() {
        return Objects.hash(rule, templates, names.locale());
    }

    /** Returns the rule in words, such as {@code year starts april 1, named for its end}. */
    @Override
    public String toString() {
        return rule.describe();
    }

    /** A week-based calendar whose year end is still to be chosen; returned by {@link #weeks}. */
    public static final class WeekCalendarStage {
        private final WeekPattern pattern;

        private WeekCalendarStage(WeekPattern pattern) {
            this.pattern = pattern;
        }

        /**
         * {@return the calendar whose years end on the weekday nearest to the month and day (at most three days away)}
         *
         * @param weekday the weekday
         * @param day the day
         */
        public FiscalCalendar endingNearest(DayOfWeek weekday, MonthDay day) {
            requireNonNull(weekday, "weekday is null");
            requireNonNull(day, "day is null");
            return FiscalCalendar.of(new WeekRule(pattern, weekday, day, day.getMonth(), false, 0));
        }

        /**
         * {@return the calendar whose years end on the last such weekday of the month}
         *
         * @param weekday the weekday
         * @param month the month
         */
        public FiscalCalendar endingOnLast(DayOfWeek weekday, Month month) {
            requireNonNull(weekday, "weekday is null");
            requireNonNull(month, "month is null");
            return FiscalCalendar.of(new WeekRule(pattern, weekday, null, month, false, 0));
        }
    }
}
