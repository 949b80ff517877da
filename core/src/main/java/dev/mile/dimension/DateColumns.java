package dev.mile.dimension;

import static dev.mile.dimension.ColumnType.BOOLEAN;
import static dev.mile.dimension.ColumnType.DATE;
import static dev.mile.dimension.ColumnType.INTEGER;
import static dev.mile.dimension.ColumnType.NUMBER;
import static dev.mile.dimension.ColumnType.TEXT;

import dev.mile.calendar.CivilNames;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.Days;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Horizon;
import dev.mile.calendar.Level;
import dev.mile.workday.WorkingWeek;
import java.time.LocalDate;
import java.time.temporal.IsoFields;
import java.util.ArrayList;
import java.util.List;
import java.util.function.IntFunction;
import java.util.function.IntUnaryOperator;
import java.util.function.ToIntFunction;
import java.util.function.UnaryOperator;

/** Makes the columns of section 5 of the design, civil ones first. */
final class DateColumns {
    private final DateDimension.Builder from;
    private final DateRange range;
    private final CivilNames names;
    private final List<DateColumn> columns = new ArrayList<>();

    DateColumns(DateDimension.Builder from, DateRange range) {
        this.from = from;
        this.range = range;
        this.names = CivilNames.in(from.locale);
    }

    List<DateColumn> all() {
        civil();
        from.calendars.forEach(this::calendar);
        boolean first = true;
        for (WorkingWeek week : from.weeks.values()) {
            working(week, first ? "" : week.name() + "_");
            first = false;
        }
        for (Events events : from.events) {
            add(events.name(), TEXT, "The event of the day, from " + events.name(), events::label);
        }
        if (from.asOf != null) {
            asOf(Days.of(from.asOf));
        }
        return columns;
    }

    private void add(String name, ColumnType type, String description, IntFunction<Object> of) {
        columns.add(DateColumn.of(name, type, description, of));
    }

    private void change(UnaryOperator<DateColumn> how) {
        columns.set(columns.size() - 1, how.apply(columns.get(columns.size() - 1)));
    }

    /** Says up to which day the columns added since the index keep their value. */
    private void steady(int since, IntUnaryOperator until) {
        for (int i = since; i < columns.size(); i++) {
            columns.set(i, columns.get(i).steady(until));
        }
    }

    private static IntUnaryOperator endOf(FiscalCalendar calendar, Level level) {
        return day -> {
            DateRange period = calendar.rangeOf(level, day);
            return period.isEmpty() ? day : period.lastDay();
        };
    }

    private static int endOfMonth(int day) {
        return monthOf(day).lastDay();
    }

    private void civilNumber(String name, String description, ToIntFunction<LocalDate> of) {
        add(name, INTEGER, description, day -> of.applyAsInt(Days.date(day)));
    }

    private void civil() {
        add("date", DATE, "The day", Days::date);
        change(c -> c.in("civil", 4));
        civilNumber(
                "date_key",
                "The day as a number, year month day",
                d -> d.getYear() * 10_000 + d.getMonthValue() * 100 + d.getDayOfMonth());
        change(DateColumn::hidden);
        int perMonth = columns.size();
        civilNumber("year", "Civil year", LocalDate::getYear);
        change(c -> c.in("civil", 1));
        civilNumber("half", "Half of the civil year, 1 or 2", d -> (d.getMonthValue() - 1) / 6 + 1);
        civilNumber("quarter", "Quarter of the civil year, 1 to 4", d -> (d.getMonthValue() - 1) / 3 + 1);
        change(c -> c.in("civil", 2));
        civilNumber("month", "Month of the civil year, 1 to 12", LocalDate::getMonthValue);
        change(c -> c.in("civil", 3));
        add(
                "month_name",
                TEXT,
                "Name of the civil month",
                d -> names.month(Days.date(d).getMonthValue()));
        change(c -> c.sortedBy("month"));
        steady(perMonth, DateColumns::endOfMonth);
        civilNumber("day", "Day of the civil month, 1 to 31", LocalDate::getDayOfMonth);
        int start = from.weekStarts.getValue();
        civilNumber(
                "weekday",
                "Number of the weekday, 1 to 7 from " + names.weekday(from.weekStarts),
                d -> Math.floorMod(d.getDayOfWeek().getValue() - start, 7) + 1);
        add(
                "weekday_name",
                TEXT,
                "Name of the weekday",
                d -> names.weekday(Days.date(d).getDayOfWeek()));
        change(c -> c.sortedBy("weekday"));
        civilNumber(
                "week_of_month",
                "Week of the civil month, 1 to 6, the first cut short",
                d -> (d.getDayOfMonth()
                                        - 1
                                        + Math.floorMod(
                                                d.withDayOfMonth(1)
                                                                .getDayOfWeek()
                                                                .getValue()
                                                        - start,
                                                7))
                                / 7
                        + 1);
        civilNumber("day_of_year", "Day of the civil year, 1 to 366", LocalDate::getDayOfYear);
        civilNumber("iso_year", "Year of the ISO 8601 week", d -> d.get(IsoFields.WEEK_BASED_YEAR));
        civilNumber("iso_week", "ISO 8601 week, 1 to 53", d -> d.get(IsoFields.WEEK_OF_WEEK_BASED_YEAR));
        perMonth = columns.size();
        add("month_start", DATE, "First day of the civil month", d -> Days.date(d)
                .withDayOfMonth(1));
        add(
                "month_end",
                DATE,
                "Last day of the civil month",
                d -> Days.date(monthOf(d).lastDay()));
        steady(perMonth, DateColumns::endOfMonth);
    }

    private static DateRange monthOf(int day) {
        LocalDate date = Days.date(day);
        return DateRange.of(date.withDayOfMonth(1), date.withDayOfMonth(date.lengthOfMonth()));
    }

    private void calendar(String name, FiscalCalendar calendar) {
        List<Level> levels = calendar.levels();
        int step = 0;
        for (Level level : levels) {
            if (level == Level.DAY) {
                continue;
            }
            String column = name + "_" + level.columnWord();
            boolean inHierarchy = level != Level.WEEK || calendar.weeksNest();
            step++;
            int place = step;
            int since = columns.size();
            add(
                    column,
                    INTEGER,
                    level == Level.YEAR
                            ? "Year of the " + name + " calendar"
                            : "Number of the " + level.columnWord() + " in the " + name + " year",
                    d -> whole(level == Level.YEAR ? calendar.yearNumber(d) : calendar.number(level, Level.YEAR, d)));
            add(
                    column + "_label",
                    TEXT,
                    "Label of the " + level.columnWord() + " of the " + name + " calendar",
                    d -> text(calendar.label(level, calendar.ordinal(level, d))));
            change(c -> c.sortedBy(column + "_start"));
            if (inHierarchy) {
                change(c -> c.in(name, place));
            }
            add(column + "_start", DATE, "Its first day", d -> date(calendar.rangeOf(level, d), true));
            add(column + "_end", DATE, "Its last day", d -> date(calendar.rangeOf(level, d), false));
            add(
                    column + "_days",
                    INTEGER,
                    "How many days it has",
                    d -> positive(calendar.rangeOf(level, d).days()));
            steady(since, endOf(calendar, level));
        }
        for (Level level : levels) {
            if (level != Level.DAY) {
                add(
                        name + "_day_of_" + level.columnWord(),
                        INTEGER,
                        "Number of the day in the " + level.columnWord() + " of the " + name + " calendar",
                        d -> whole(calendar.number(Level.DAY, level, d)));
            }
        }
        add(name + "_year_ago", DATE, "The day moved one " + name + " year back; blank without a counterpart", d -> {
            DateRange ago = calendar.move(calendar.rangeOf(Level.DAY, d), -1, Level.YEAR);
            return date(ago, true);
        });
        add(
                name + "_part_year",
                BOOLEAN,
                "Whether the date dimension holds only a part of the " + name + " year",
                d -> {
                    DateRange year = calendar.rangeOf(Level.YEAR, d);
                    return year.isEmpty() ? null : (Object) !range.encloses(year);
                });
        change(c -> c.hidden().steady(endOf(calendar, Level.YEAR)));
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
        return days.isEmpty() ? null : Days.date(first ? days.firstDay() : days.lastDay());
    }

    private void working(WorkingWeek week, String prefix) {
        String of = " in the working week " + week.name();
        add(
                prefix + "is_working_day",
                BOOLEAN,
                "Whether the day is worked, in part at least," + of,
                d -> week.shareMillionths(d) > 0);
        add(prefix + "day_type", TEXT, "working, part, holiday or rest" + of, d -> week.type(d)
                .word());
        change(c -> c.sortedBy(prefix + "day_type_order"));
        add(
                prefix + "day_type_order",
                INTEGER,
                "Order of day_type",
                d -> week.type(d).ordinal() + 1);
        change(DateColumn::hidden);
        add(prefix + "holiday", TEXT, "Names of the day's holidays" + of, d -> text(week.holiday(d)));
        add(
                prefix + "working_day_of_month",
                NUMBER,
                "Working days of the civil month so far" + of,
                d -> week.inclusive(monthOf(d).upTo(d)));
        add(
                prefix + "working_days_in_month",
                NUMBER,
                "Working days of the civil month" + of,
                d -> week.inclusive(monthOf(d)));
        change(c -> c.steady(DateColumns::endOfMonth));
        from.calendars.forEach((name, calendar) -> {
            for (Level level : calendar.levels()) {
                if (level == Level.PERIOD || (level == Level.YEAR)) {
                    add(
                            prefix + "working_day_of_" + name + "_" + level.columnWord(),
                            NUMBER,
                            "Working days of the " + level.columnWord() + " of the " + name + " calendar so far" + of,
                            d -> {
                                DateRange period = calendar.rangeOf(level, d);
                                return period.isEmpty() ? null : week.inclusive(period.upTo(d));
                            });
                    add(
                            prefix + "working_days_in_" + name + "_" + level.columnWord(),
                            NUMBER,
                            "Working days of the " + level.columnWord() + " of the " + name + " calendar" + of,
                            d -> {
                                DateRange period = calendar.rangeOf(level, d);
                                return period.isEmpty() ? null : week.inclusive(period);
                            });
                    change(c -> c.steady(endOf(calendar, level)));
                }
            }
        });
        add(
                prefix + "working_day_index",
                NUMBER,
                "Running count of working days; the difference of two days is the working days elapsed" + of,
                d -> week.elapsed(range.firstDay() - 1, d));
        change(DateColumn::hidden);
    }

    private void asOf(int asOf) {
        add("days_from_as_of", INTEGER, "Days from the as-of date, negative before it", d -> d - asOf);
        from.calendars.forEach((name, calendar) -> {
            for (Level level : calendar.levels()) {
                if (level != Level.DAY) {
                    add(
                            name + "_" + level.columnPlural() + "_from_as_of",
                            INTEGER,
                            level.columnPlural() + " of the " + name + " calendar from that of the as-of date",
                            d -> whole(calendar.boundariesCrossed(asOf, d, level)));
                    change(c -> c.steady(endOf(calendar, level)));
                }
            }
        });
        add("has_actuals", TEXT, "yes up to the as-of date, no after it", d -> d <= asOf ? "yes" : "no");
        change(c -> c.steady(day -> day <= asOf ? asOf : Horizon.RANGE.lastDay()));
    }
}
