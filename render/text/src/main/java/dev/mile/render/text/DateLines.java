package dev.mile.render.text;

import dev.mile.dimension.ColumnType;
import dev.mile.dimension.DateColumn;
import dev.mile.render.layout.Csv;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Lines of CSV of consecutive days, in UTF-8. Most columns keep their values over a period: neighbours among them are copied as one
 * from the line before, until one of them changes.
 */
final class DateLines {
    private static final int DAYS_OF_WEEK = 7;
    private static final int BYTES_PER_VALUE = 8;
    private static final int DIGITS_OF_INT = 10;

    private final boolean neutralized;
    private byte[] bytes;
    private int length;

    private DateLines(boolean neutralized, int estimate) {
        this.neutralized = neutralized;
        bytes = new byte[estimate];
    }

    /** Returns the lines of the days; texts that a spreadsheet would run as a formula are neutralized if so wished. */
    static DateLines of(List<DateColumn> columns, int first, int last, boolean neutralized) {
        DateLines lines = new DateLines(neutralized, (last - first + 1) * columns.size() * BYTES_PER_VALUE);
        Run[] runs = runs(columns, first);
        for (int day = first; day <= last; day++) {
            for (Run run : runs) {
                lines.append(run, day);
            }
            // instead of the last comma
            lines.bytes[lines.length - 1] = '\n';
        }
        return lines;
    }

    byte[] bytes() {
        return bytes;
    }

    int length() {
        return length;
    }

    private static Run[] runs(List<DateColumn> columns, int first) {
        List<List<Value>> runs = new ArrayList<>();
        boolean afterLasting = false;
        for (DateColumn column : columns) {
            Value value = new Value(column, lasts(column, first));
            if (!value.lasts || !afterLasting) {
                runs.add(new ArrayList<>());
            }
            runs.get(runs.size() - 1).add(value);
            afterLasting = value.lasts;
        }
        return runs.stream().map(Run::new).toArray(Run[]::new);
    }

    /** Returns whether the column keeps a value over two days of a week. */
    private static boolean lasts(DateColumn column, int first) {
        for (int day = first; day < first + DAYS_OF_WEEK; day++) {
            if (column.constantUntil(day) > day) {
                return true;
            }
        }
        return false;
    }

    private void append(Run run, int day) {
        if (run.values.length == 1) {
            append(run.values[0], day);
            return;
        }
        if (day <= run.until) {
            copy(run);
            return;
        }
        int from = length;
        int until = Integer.MAX_VALUE;
        for (Value value : run.values) {
            append(value, day);
            until = Math.min(until, value.until);
        }
        run.wrote(from, length, until);
    }

    private void append(Value value, int day) {
        if (day <= value.until) {
            copy(value);
            return;
        }
        int from = length;
        if (day <= value.risesUntil) {
            appendNext(value);
        } else {
            Object object = value.column.value(day);
            if (object == value.last) {
                copy(value);
            } else {
                append(value.column.type(), object);
                append(',');
            }
            value.is(object, day);
        }
        value.wrote(from, length, value.lasts ? value.column.constantUntil(day) : day);
    }

    /** Writes the value that is one more than that of the day before. */
    private void appendNext(Value value) {
        value.rise();
        if (value.column.type() != ColumnType.DATE && value.number > 0 && value.number % 10 != 0) {
            copy(value);
            // only the last digit, before the comma, differs
            bytes[length - 2]++;
            return;
        }
        if (value.column.type() == ColumnType.DATE) {
            append(LocalDate.ofEpochDay(value.number));
        } else {
            append(value.number);
        }
        append(',');
    }

    private void append(ColumnType type, Object object) {
        if (object instanceof Integer number) {
            append(number.intValue());
        } else if (object instanceof BigDecimal number && isWhole(number)) {
            append(number.intValue());
        } else if (object instanceof LocalDate date) {
            append(date);
        } else if (type == ColumnType.TEXT) {
            String text = DatesTable.text(object);
            append(Csv.field(neutralized ? Csv.neutralizeFormula(text) : text));
        } else {
            append(DatesTable.text(object));
        }
    }

    private static boolean isWhole(BigDecimal number) {
        return number.scale() == 0 && number.precision() < DIGITS_OF_INT;
    }

    private void append(LocalDate date) {
        int year = date.getYear();
        if (year < 1000 || year > 9999) {
            append(date.toString());
            return;
        }
        append(year);
        append('-');
        twoDigits(date.getMonthValue());
        append('-');
        twoDigits(date.getDayOfMonth());
    }

    private void twoDigits(int number) {
        reserve(2);
        bytes[length++] = (byte) ('0' + number / 10);
        bytes[length++] = (byte) ('0' + number % 10);
    }

    private void append(int number) {
        if (number < 0) {
            append(Integer.toString(number));
            return;
        }
        int size = 1;
        for (int rest = number; rest >= 10; rest /= 10) {
            size++;
        }
        reserve(size);
        int rest = number;
        for (int at = length + size - 1; at >= length; at--) {
            bytes[at] = (byte) ('0' + rest % 10);
            rest /= 10;
        }
        length += size;
    }

    private void append(char ascii) {
        reserve(1);
        bytes[length++] = (byte) ascii;
    }

    private void append(String text) {
        append(text.getBytes(StandardCharsets.UTF_8));
    }

    private void append(byte[] text) {
        reserve(text.length);
        System.arraycopy(text, 0, bytes, length, text.length);
        length += text.length;
    }

    private void copy(Written before) {
        int size = before.to - before.from;
        reserve(size);
        System.arraycopy(bytes, before.from, bytes, length, size);
        length += size;
    }

    private void reserve(int more) {
        if (length + more > bytes.length) {
            bytes = Arrays.copyOf(bytes, Math.max(2 * bytes.length, length + more));
        }
    }

    /** Where it was written last, and the last day of which that is the text. */
    private abstract static class Written {
        int from;
        int to;
        int until = Integer.MIN_VALUE;

        final void wrote(int start, int end, int lastDay) {
            from = start;
            to = end;
            until = lastDay;
        }
    }

    /** Columns beside each other that are written as one text. */
    private static final class Run extends Written {
        final Value[] values;

        Run(List<Value> values) {
            this.values = values.toArray(Value[]::new);
        }
    }

    private static final class Value extends Written {
        private static final Object UNKNOWN = new Object();

        final DateColumn column;
        final boolean lasts;
        /** The value that was written last, unless it has risen since. */
        Object last = UNKNOWN;

        int number;
        int risesUntil = Integer.MIN_VALUE;

        Value(DateColumn column, boolean lasts) {
            this.column = column;
            this.lasts = lasts;
        }

        void is(@Nullable Object object, int day) {
            last = object;
            risesUntil = day;
            if (object instanceof LocalDate date) {
                rises(Math.toIntExact(date.toEpochDay()), day);
            } else if (object instanceof Integer whole) {
                rises(whole, day);
            } else if (object instanceof BigDecimal decimal && isWhole(decimal)) {
                rises(decimal.intValue(), day);
            }
        }

        private void rises(int from, int day) {
            number = from;
            risesUntil = column.risesUntil(day);
        }

        void rise() {
            last = UNKNOWN;
            number++;
        }
    }
}
