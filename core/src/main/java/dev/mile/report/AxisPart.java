package dev.mile.report;

import dev.mile.MileException;
import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.dimension.ColumnType;
import dev.mile.dimension.DateColumn;
import dev.mile.dimension.DateDimension;
import dev.mile.engine.Comparisons;
import dev.mile.internal.Messages;
import dev.mile.report.plan.NameResolver;
import dev.mile.span.Span;
import dev.mile.span.SpanContext;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** One part of an axis of a report, looked up. */
sealed interface AxisPart {
    /** Returns the name as the report gives it. */
    String name();

    /** Returns what its labels are. */
    Grid.AxisKind kind();

    /** Returns the order of its keys. */
    Comparator<Object> order();

    /** Returns how a key reads. */
    String label(Object key);

    /** A part that places cells in time; its key is a function of the day. */
    sealed interface OfDays extends AxisPart {
        /** Returns the key of the day; empty where the day has no place. A blank attribute is {@link Blank#KEY}. */
        Optional<Object> key(int day);
    }

    /** Stands for a blank in keys. */
    enum Blank {
        KEY
    }

    /** The periods of a level. */
    record OfLevel(String name, FiscalCalendar calendar, Level level) implements OfDays {
        @Override
        public Grid.AxisKind kind() {
            return Grid.AxisKind.PERIOD;
        }

        @Override
        public Optional<Object> key(int day) {
            int ordinal = calendar.ordinal(level, day);
            return ordinal == FiscalCalendar.NONE ? Optional.empty() : Optional.of(ordinal);
        }

        DateRange range(Object key) {
            return calendar.range(level, (Integer) key);
        }

        @Override
        public Comparator<Object> order() {
            return Comparator.comparingInt(key -> (Integer) key);
        }

        @Override
        public String label(Object key) {
            return calendar.label(level, (Integer) key);
        }
    }

    /** The places of periods in the year: {@code month of year}. */
    record OfYear(String name, FiscalCalendar calendar, Level level) implements OfDays {
        @Override
        public Grid.AxisKind kind() {
            return Grid.AxisKind.OF_YEAR;
        }

        @Override
        public Optional<Object> key(int day) {
            int number = calendar.number(level, Level.YEAR, day);
            return number == FiscalCalendar.NONE ? Optional.empty() : Optional.of(number);
        }

        /** Returns the days of the place in the year with the ordinal; empty where the year lacks it. */
        DateRange range(Object key, int year) {
            List<CalendarPeriod> periods = calendar.periodsOverlapping(level, calendar.range(Level.YEAR, year));
            return periods.stream()
                    .filter(p -> p.number() == (Integer) key)
                    .map(CalendarPeriod::range)
                    .findFirst()
                    .orElse(DateRange.EMPTY);
        }

        @Override
        public Comparator<Object> order() {
            return Comparator.comparingInt(key -> (Integer) key);
        }

        @Override
        public String label(Object key) {
            return switch (level) {
                case PERIOD -> String.format(Locale.ROOT, "P%02d", (Integer) key);
                case WEEK -> String.format(Locale.ROOT, "W%02d", (Integer) key);
                default -> (level == Level.QUARTER ? "Q" : "H") + key;
            };
        }
    }

    /** The values of a date attribute. */
    record OfAttribute(String name, DateColumn column, DateColumn sortedBy) implements OfDays {
        @Override
        public Grid.AxisKind kind() {
            return Grid.AxisKind.ATTRIBUTE;
        }

        @Override
        public Optional<Object> key(int day) {
            Object value = column.value(day);
            return Optional.of(value == null ? Blank.KEY : new Attribute(value, sortedBy.value(day)));
        }

        @Override
        @SuppressWarnings({"unchecked", "rawtypes"})
        public Comparator<Object> order() {
            return (a, b) -> {
                if (a == Blank.KEY || b == Blank.KEY) {
                    return Boolean.compare(a == Blank.KEY, b == Blank.KEY);
                }
                Object x = ((Attribute) a).sort();
                Object y = ((Attribute) b).sort();
                if (x == null || y == null) {
                    return Boolean.compare(x == null, y == null);
                }
                return x instanceof String s
                        ? Comparisons.BY_CODE_POINT.compare(s, (String) y)
                        : ((Comparable) x).compareTo(y);
            };
        }

        @Override
        public String label(Object key) {
            return key == Blank.KEY ? "" : ((Attribute) key).value().toString();
        }
    }

    /** The value of an attribute and what it sorts by. */
    record Attribute(Object value, Object sort) {
        @Override
        public boolean equals(Object other) {
            return other instanceof Attribute a && a.value.equals(value);
        }

        @Override
        public int hashCode() {
            return value.hashCode();
        }
    }

    /** The members of a dimension of facts. */
    record OfMembers(String name) implements AxisPart {
        @Override
        public Grid.AxisKind kind() {
            return Grid.AxisKind.MEMBER;
        }

        @Override
        public Comparator<Object> order() {
            return (a, b) -> Comparisons.BY_CODE_POINT.compare(member(a), member(b));
        }

        static String member(Object key) {
            return key == Blank.KEY ? null : (String) key;
        }

        @Override
        public String label(Object key) {
            return key == Blank.KEY ? "" : (String) key;
        }
    }

    /** Recent periods. */
    record OfRecent(String name, List<Span> spans, List<DateRange> ranges) implements AxisPart {
        @Override
        public Grid.AxisKind kind() {
            return Grid.AxisKind.RECENT;
        }

        @Override
        public Comparator<Object> order() {
            return Comparator.comparingInt(key -> (Integer) key);
        }

        @Override
        public String label(Object key) {
            return spans.get((Integer) key).toString();
        }
    }

    /**
     * Looks a part up: a level of the report's calendar or of a named one, a place in the year, a dimension, or a date attribute.
     *
     * @throws MileException if nothing has the name, or the calendar lacks the level
     */
    static AxisPart of(Report.AxisSpec part, SpanContext frame, DateDimension dimension, NameResolver catalog) {
        if (part instanceof Report.RecentPeriods recent) {
            DateRange asOf = DateRange.ofEpochDays(frame.asOf(), frame.asOf());
            return new OfRecent(
                    "when",
                    recent.spans(),
                    recent.spans().stream().map(s -> s.resolve(asOf, frame)).toList());
        }
        String name = ((Report.NamedAxis) part).text();
        String ofYear = " of year";
        String word = name.endsWith(ofYear) ? name.substring(0, name.length() - ofYear.length()) : name;
        int dot = word.indexOf('.');
        String calendarName =
                dot > 0 && frame.calendars().containsKey(word.substring(0, dot)) ? word.substring(0, dot) : "";
        // the column `date` of the date dimension is the level day
        Optional<Level> level = name.equals("date")
                ? Optional.of(Level.DAY)
                : Level.parse(calendarName.isEmpty() ? word : word.substring(dot + 1));
        if (level.isPresent() && (dot < 0 || !calendarName.isEmpty())) {
            FiscalCalendar calendar = frame.calendarWith(level.get(), calendarName);
            if (!name.endsWith(ofYear)) {
                return new OfLevel(name, calendar, level.get());
            }
            if (level.get() == Level.YEAR || level.get() == Level.DAY) {
                throw MileException.invalidModel(
                        "'%s' is not a place in the year; write month, week, quarter or half of year", name);
            }
            return new OfYear(name, calendar, level.get());
        }
        if (catalog.isDimension(name)) {
            return new OfMembers(name);
        }
        Optional<DateColumn> column = dimension.column(name);
        if (column.isPresent()) {
            DateColumn sortedBy = dimension.column(column.get().sortBy()).orElse(column.get());
            // a label carries its period's first day; a plain number or text sorts by itself
            return new OfAttribute(name, column.get(), sortedBy);
        }
        List<String> known = new ArrayList<>(List.of("year", "half", "quarter", "month", "week", "day"));
        known.addAll(catalog.names());
        throw MileException.invalidModel(
                "unknown level, dimension or date attribute '%s'%s", name, Messages.didYouMean(name, known));
    }

    /** Returns the attribute's value as conditions compare it. */
    static Object comparable(DateColumn column, int day) {
        Object value = column.value(day);
        if (value instanceof Integer number) {
            return BigDecimal.valueOf(number);
        }
        return value instanceof Boolean || column.type() == ColumnType.TEXT && value != null ? value.toString() : value;
    }

    /** Returns the year's ordinal among the fixed keys, for a place in the year of the same calendar. */
    static Optional<Integer> yearAmong(Map<AxisPart, Object> fixed, OfYear place) {
        return fixed.entrySet().stream()
                .filter(e ->
                        e.getKey() instanceof OfLevel l && l.level() == Level.YEAR && l.calendar() == place.calendar())
                .map(e -> (Integer) e.getValue())
                .findFirst();
    }
}
