package dev.mile.dimension;

import static dev.mile.dimension.ColumnType.BOOLEAN;
import static dev.mile.dimension.ColumnType.DATE;
import static dev.mile.dimension.ColumnType.INTEGER;
import static dev.mile.dimension.ColumnType.NUMBER;
import static dev.mile.dimension.ColumnType.TEXT;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.calendar.SupportedDates;
import dev.mile.internal.EpochDays;
import dev.mile.internal.MonthAndWeekdayNames;
import dev.mile.workday.WorkingWeek;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.temporal.IsoFields;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntFunction;
import java.util.function.IntUnaryOperator;
import java.util.function.ToIntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** Makes the columns of a date dimension, civil ones first. */
final class DateColumns {
    private static final int DAYS_OF_WEEK = 7;

    /** The share of a day that is wholly worked, in millionths. */
    private static final int FULL_DAY = 1_000_000;

    /** What a dimension is made of. */
    record Settings(
            Map<String, FiscalCalendar> calendars,
            Map<String, WorkingWeek> weeks,
            List<EventColumn> events,
            Optional<LocalDate> asOf,
            DayOfWeek weekStarts,
            Locale locale) {}

    private final Settings from;
    private final DateRange range;
    private final MonthAndWeekdayNames names;
    private final List<DateColumn.Builder> columns = new ArrayList<>();

    DateColumns(Settings from, DateRange range) {
        this.from = from;
        this.range = range;
        this.names = MonthAndWeekdayNames.forLocale(from.locale());
    }

    /** Returns the columns in order. A calendar named {@code iso} has its own iso_year and iso_week, which replace the civil ones. */
    List<DateColumn> all() {
        civil();
        int civilColumns = columns.size();
        from.calendars().forEach(this::calendar);
        boolean first = true;
        for (WorkingWeek week : from.weeks().values()) {
            working(week, first ? "" : week.name() + "_");
            first = false;
        }
        for (EventColumn events : from.events()) {
            add(events.name(), TEXT, "The event of the day, from " + events.name(), events::label);
        }
        from.asOf().ifPresent(day -> asOf(EpochDays.of(day)));
        List<DateColumn> all = columns.stream().map(DateColumn.Builder::build).toList();
        Set<String> ofCalendars = all.stream()
                .filter(column -> column.calendar().isPresent())
                .map(DateColumn::name)
                .collect(Collectors.toSet());
        return IntStream.range(0, all.size())
                .filter(i ->
                        i >= civilColumns || !ofCalendars.contains(all.get(i).name()))
                .mapToObj(all::get)
                .toList();
    }

    private DateColumn.Builder add(String name, ColumnType type, String description, IntFunction<Object> values) {
        DateColumn.Builder column = DateColumn.named(name, type, description, values);
        columns.add(column);
        return column;
    }

    private static IntUnaryOperator endOf(FiscalCalendar calendar, Level level) {
        return day -> {
            DateRange period = calendar.rangeContaining(level, day);
            return period.isEmpty() ? day : period.lastEpochDay();
        };
    }

    private static int endOfMonth(int day) {
        return monthOf(day).lastEpochDay();
    }

    /** Returns how many days ago the last such weekday was, 0 to 6. */
    private static int daysSince(DayOfWeek weekday, int day) {
        return Math.floorMod(EpochDays.weekday(day).getValue() - weekday.getValue(), DAYS_OF_WEEK);
    }

    private static int endOfWeek(int day, DayOfWeek start) {
        return day + 6 - daysSince(start, day);
    }

    /** Returns the columns from an index on. */
    private List<DateColumn.Builder> since(int count) {
        return columns.subList(count, columns.size());
    }

    private DateColumn.Builder civilNumber(String name, String description, ToIntFunction<LocalDate> number) {
        return add(name, INTEGER, description, day -> number.applyAsInt(EpochDays.toDate(day)));
    }

    private void civil() {
        add("date", DATE, "The day", EpochDays::toDate)
                .inHierarchy("civil", 4)
                .risesUntil(day -> SupportedDates.RANGE.lastEpochDay());
        civilNumber(
                        "date_key",
                        "The day as a number, year month day",
                        d -> d.getYear() * 10_000 + d.getMonthValue() * 100 + d.getDayOfMonth())
                .hidden()
                .risesUntil(DateColumns::endOfMonth);
        int perMonth = columns.size();
        civilNumber("year", "Civil year", LocalDate::getYear).inHierarchy("civil", 1);
        civilNumber("half", "Half of the civil year, 1 or 2", d -> (d.getMonthValue() - 1) / 6 + 1);
        civilNumber("quarter", "Quarter of the civil year, 1 to 4", d -> (d.getMonthValue() - 1) / 3 + 1)
                .inHierarchy("civil", 2);
        civilNumber("month", "Month of the civil year, 1 to 12", LocalDate::getMonthValue)
                .inHierarchy("civil", 3);
        add(
                        "month_name",
                        TEXT,
                        "Name of the civil month",
                        d -> names.month(EpochDays.toDate(d).getMonthValue()))
                .sortedBy("month");
        since(perMonth).forEach(column -> column.constantUntil(DateColumns::endOfMonth));
        civilNumber("day", "Day of the civil month, 1 to 31", LocalDate::getDayOfMonth)
                .risesUntil(DateColumns::endOfMonth);
        add(
                "weekday",
                INTEGER,
                "Number of the weekday, 1 to 7 from " + names.weekday(from.weekStarts()),
                d -> daysSince(from.weekStarts(), d) + 1);
        add("weekday_name", TEXT, "Name of the weekday", d -> names.weekday(EpochDays.weekday(d)))
                .sortedBy("weekday");
        civilNumber(
                        "week_of_month",
                        "Week of the civil month, 1 to 6, the first cut short",
                        d -> (d.getDayOfMonth() - 1 + daysSince(from.weekStarts(), EpochDays.of(d.withDayOfMonth(1))))
                                        / 7
                                + 1)
                .constantUntil(day -> Math.min(endOfWeek(day, from.weekStarts()), endOfMonth(day)));
        civilNumber("day_of_year", "Day of the civil year, 1 to 366", LocalDate::getDayOfYear)
                .risesUntil(DateColumns::endOfMonth);
        int perWeek = columns.size();
        civilNumber("iso_year", "Year of the ISO 8601 week", d -> d.get(IsoFields.WEEK_BASED_YEAR));
        civilNumber("iso_week", "ISO 8601 week, 1 to 53", d -> d.get(IsoFields.WEEK_OF_WEEK_BASED_YEAR));
        since(perWeek).forEach(column -> column.constantUntil(day -> endOfWeek(day, DayOfWeek.MONDAY)));
        perMonth = columns.size();
        add("month_start", DATE, "First day of the civil month", d -> EpochDays.toDate(d)
                .withDayOfMonth(1));
        add(
                "month_end",
                DATE,
                "Last day of the civil month",
                d -> EpochDays.toDate(monthOf(d).lastEpochDay()));
        since(perMonth).forEach(column -> column.constantUntil(DateColumns::endOfMonth));
    }

    private static int startOfMonth(int day) {
        return day - EpochDays.toDate(day).getDayOfMonth() + 1;
    }

    private static DateRange monthOf(int day) {
        LocalDate date = EpochDays.toDate(day);
        return DateRange.of(date.withDayOfMonth(1), date.withDayOfMonth(date.lengthOfMonth()));
    }

    private void calendar(String name, FiscalCalendar calendar) {
        int ofCalendar = columns.size();
        List<Level> levels = calendar.levels();
        int step = 0;
        for (Level level : levels) {
            if (level == Level.DAY) {
                continue;
            }
            String column = name + "_" + level.columnWord();
            boolean inHierarchy = level != Level.WEEK || calendar.hasNestedWeeks();
            step++;
            int depth = step;
            int ofLevel = columns.size();
            add(
                    column,
                    INTEGER,
                    level == Level.YEAR
                            ? "Year of the " + name + " calendar"
                            : "Number of the " + level.columnWord() + " in the " + name + " year",
                    d -> whole(level == Level.YEAR ? calendar.yearNumber(d) : calendar.number(level, Level.YEAR, d)));
            DateColumn.Builder label = add(
                            column + "_label",
                            TEXT,
                            "Label of the " + level.columnWord() + " of the " + name + " calendar",
                            d -> text(calendar.label(level, calendar.ordinal(level, d))))
                    .sortedBy(column + "_start");
            if (inHierarchy) {
                label.inHierarchy(name, depth);
            }
            add(column + "_start", DATE, "Its first day", d -> date(calendar.rangeContaining(level, d), true));
            add(column + "_end", DATE, "Its last day", d -> date(calendar.rangeContaining(level, d), false));
            add(
                    column + "_days",
                    INTEGER,
                    "How many days it has",
                    d -> positive(calendar.rangeContaining(level, d).length()));
            since(ofLevel).forEach(made -> made.constantUntil(endOf(calendar, level)));
        }
        for (Level level : levels) {
            if (level != Level.DAY) {
                add(
                                name + "_day_of_" + level.columnWord(),
                                INTEGER,
                                "Number of the day in the " + level.columnWord() + " of the " + name + " calendar",
                                d -> whole(calendar.number(Level.DAY, level, d)))
                        .risesUntil(endOf(calendar, level));
            }
        }
        Level finest = finest(calendar);
        add(
                        name + "_year_ago",
                        DATE,
                        "The day moved one " + name + " year back; blank without a counterpart",
                        d -> date(yearAgo(calendar, d), true))
                .risesUntil(day -> yearAgoRisesUntil(calendar, finest, day));
        add(
                        name + "_part_year",
                        BOOLEAN,
                        "Whether the date dimension holds only a part of the " + name + " year",
                        d -> {
                            DateRange year = calendar.rangeContaining(Level.YEAR, d);
                            return year.isEmpty() ? null : (Object) !range.encloses(year);
                        })
                .hidden()
                .constantUntil(endOf(calendar, Level.YEAR));
        since(ofCalendar).forEach(made -> made.ofCalendar(name));
    }

    private static DateRange yearAgo(FiscalCalendar calendar, int day) {
        return calendar.shift(calendar.rangeContaining(Level.DAY, day), -1, Level.YEAR);
    }

    /** Returns the finest level that nests in years. */
    private static Level finest(FiscalCalendar calendar) {
        return calendar.levels().stream()
                .filter(level -> level != Level.DAY && (level != Level.WEEK || calendar.hasNestedWeeks()))
                .reduce((coarser, finer) -> finer)
                .orElse(Level.YEAR);
    }

    /** A day a year ago keeps its place in the finest period that nests in years, so it rises until one of the two periods ends. */
    private static int yearAgoRisesUntil(FiscalCalendar calendar, Level finest, int day) {
        DateRange ago = yearAgo(calendar, day);
        DateRange here = calendar.rangeContaining(finest, day);
        DateRange there = ago.isEmpty() ? ago : calendar.rangeContaining(finest, ago.firstEpochDay());
        boolean samePlace =
                !there.isEmpty() && day - here.firstEpochDay() == ago.firstEpochDay() - there.firstEpochDay();
        return samePlace ? day + Math.min(here.lastEpochDay() - day, there.lastEpochDay() - ago.firstEpochDay()) : day;
    }

    private static Object whole(int number) {
        return number == FiscalCalendar.NONE ? null : (Object) number;
    }

    private static Object positive(int number) {
        return number <= 0 ? null : (Object) number;
    }

    private static Object text(String label) {
        return label.isEmpty() ? null : label;
    }

    private static Object date(DateRange days, boolean first) {
        return days.isEmpty() ? null : EpochDays.toDate(first ? days.firstEpochDay() : days.lastEpochDay());
    }

    /** Returns the last of the full working days that follow the day without a break, so far as a week shows; the day itself if there is none. */
    private static int endOfFullDays(WorkingWeek week, int day) {
        int last = day;
        while (last < day + DAYS_OF_WEEK && week.workedMillionths(last + 1) == FULL_DAY) {
            last++;
        }
        return last;
    }

    private void working(WorkingWeek week, String prefix) {
        String of = " in the working week " + week.name();
        add(
                prefix + "is_working_day",
                BOOLEAN,
                "Whether the day is worked, at least in part," + of,
                d -> week.workedMillionths(d) > 0);
        add(prefix + "day_type", TEXT, "working, part, holiday or rest" + of, d -> week.dayType(d)
                        .word())
                .sortedBy(prefix + "day_type_order");
        add(
                        prefix + "day_type_order",
                        INTEGER,
                        "Order of day_type",
                        d -> week.dayType(d).ordinal() + 1)
                .hidden();
        add(prefix + "holiday", TEXT, "Names of the day's holidays" + of, d -> text(week.holidayName(d)));
        add(
                        prefix + "working_day_of_month",
                        NUMBER,
                        "Working days of the civil month so far" + of,
                        d -> week.workingDaysBetween(startOfMonth(d) - 1, d))
                .risesUntil(day -> Math.min(endOfFullDays(week, day), endOfMonth(day)));
        add(
                        prefix + "working_days_in_month",
                        NUMBER,
                        "Working days of the civil month" + of,
                        d -> week.workingDaysIn(monthOf(d)))
                .constantUntil(DateColumns::endOfMonth);
        from.calendars().forEach((name, calendar) -> {
            for (Level level : calendar.levels()) {
                if (level == Level.PERIOD || (level == Level.YEAR)) {
                    IntUnaryOperator endOfPeriod = endOf(calendar, level);
                    add(
                                    prefix + "working_day_of_" + name + "_" + level.columnWord(),
                                    NUMBER,
                                    "Working days of the " + level.columnWord() + " of the " + name + " calendar so far"
                                            + of,
                                    d -> {
                                        DateRange period = calendar.rangeContaining(level, d);
                                        return period.isEmpty()
                                                ? null
                                                : week.workingDaysBetween(period.firstEpochDay() - 1, d);
                                    })
                            .risesUntil(day -> Math.min(endOfFullDays(week, day), endOfPeriod.applyAsInt(day)));
                    add(
                                    prefix + "working_days_in_" + name + "_" + level.columnWord(),
                                    NUMBER,
                                    "Working days of the " + level.columnWord() + " of the " + name + " calendar" + of,
                                    d -> {
                                        DateRange period = calendar.rangeContaining(level, d);
                                        return period.isEmpty() ? null : week.workingDaysIn(period);
                                    })
                            .constantUntil(endOfPeriod);
                }
            }
        });
        add(
                        prefix + "working_day_index",
                        NUMBER,
                        "Running count of working days; the difference of two days is the working days elapsed" + of,
                        d -> week.workingDaysBetween(range.firstEpochDay() - 1, d))
                .hidden()
                .risesUntil(day -> endOfFullDays(week, day));
    }

    private void asOf(int asOf) {
        add("days_from_as_of", INTEGER, "Days from the as-of date, negative before it", d -> d - asOf)
                .risesUntil(day -> SupportedDates.RANGE.lastEpochDay());
        from.calendars().forEach((name, calendar) -> {
            for (Level level : calendar.levels()) {
                if (level != Level.DAY) {
                    add(
                                    name + "_" + level.columnPlural() + "_from_as_of",
                                    INTEGER,
                                    level.columnPlural() + " of the " + name + " calendar from that of the as-of date",
                                    d -> whole(calendar.boundariesCrossed(asOf, d, level)))
                            .ofCalendar(name)
                            .constantUntil(endOf(calendar, level));
                }
            }
        });
        add("has_actuals", TEXT, "yes up to the as-of date, no after it", d -> d <= asOf ? "yes" : "no")
                .constantUntil(day -> day <= asOf ? asOf : SupportedDates.RANGE.lastEpochDay());
    }
}
