package dev.mile.sources;

import static java.util.Objects.requireNonNull;

import dev.mile.engine.FileFormat;
import dev.mile.engine.UnreadValues;
import dev.mile.fact.ValueType;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;

/** Looks in files for the values of a column that cannot be read as what the column is used as. */
public final class ColumnCheck {
    private ColumnCheck() {}

    /**
     * {@return the values of a column that cannot be read; empty where all can, or the files have no such column}
     *
     * @param files texts with separators, or workbooks
     * @param format how they are written
     * @param column the column
     * @param as what its values should be: numbers or dates
     */
    public static Optional<UnreadValues> unread(List<Path> files, FileFormat format, String column, ValueType as) {
        requireNonNull(files, "files is null");
        requireNonNull(column, "column is null");
        Values values = new Values(format, column, as);
        files.forEach(file -> SourceFile.read(file, format, values));
        return values.found();
    }

    /**
     * {@return the first row with a date in a column, as it stands in its file, and its place; empty where there is none}
     *
     * @param files texts with separators, or workbooks
     * @param format how they are written
     * @param column the column
     * @param date the date
     */
    public static Optional<String> row(List<Path> files, FileFormat format, String column, LocalDate date) {
        requireNonNull(files, "files is null");
        requireNonNull(date, "date is null");
        Optional<DateExample> example = dateExample(format, column);
        FirstRow first = new FirstRow(column, value -> example.flatMap(dates -> dates.read(value))
                .orElse(value)
                .startsWith(date.toString()));
        for (Path file : files) {
            try {
                SourceFile.read(file, format, first);
            } catch (FirstRow.Found e) {
                return Optional.of(first.found);
            }
        }
        return Optional.empty();
    }

    private static Optional<DateExample> dateExample(FileFormat format, String column) {
        return Optional.ofNullable(
                        format.dates().getOrDefault(column, format.dates().get("")))
                .map(text -> DateExample.of(text, format.locale()));
    }

    /** Stops at the first row with a value. */
    private static final class FirstRow implements RowSink {
        private final String column;
        private final Predicate<String> isSought;
        private int index;
        private int size;
        String found = "";

        FirstRow(String column, Predicate<String> isSought) {
            this.column = column;
            this.isSought = isSought;
        }

        /** Ends the reading. */
        private static final class Found extends RuntimeException {
            private static final long serialVersionUID = 1L;

            Found() {
                super(null, null, false, false);
            }
        }

        @Override
        public void columns(List<String> names) {
            index = names.indexOf(column);
            size = names.size();
        }

        @Override
        public void row(SourceRow row) {
            if (index >= 0 && isSought.test(row.value(index).strip())) {
                List<String> values = new ArrayList<>();
                for (int c = 0; c < size; c++) {
                    values.add(row.value(c));
                }
                found = String.join(" | ", values) + " in " + row.place(index);
                throw new Found();
            }
        }
    }

    private static Predicate<String> canBeRead(FileFormat format, String column, ValueType as) {
        if (as == ValueType.NUMBER) {
            return format.numbers()
                    .map(NumberExample::of)
                    .<Predicate<String>>map(
                            example -> value -> example.plain(value).isPresent())
                    .orElse(ColumnFormats::isPlainNumber);
        }
        return dateExample(format, column)
                .<Predicate<String>>map(
                        dates -> value -> dates.read(value).isPresent() || ColumnFormats.isIsoDateOrBasic(value))
                .orElse(ColumnFormats::isIsoDateOrBasic);
    }

    /** Counts the values of one column. */
    private static final class Values implements RowSink {
        private final String column;
        private final ValueType as;
        private final Predicate<String> canBeRead;
        private final ColumnFormats formats;
        private int index;
        private long values;
        private long unread;
        private String first = "";
        private String place = "";

        Values(FileFormat format, String column, ValueType as) {
            this.column = column;
            this.as = as;
            this.canBeRead = canBeRead(format, column, as);
            this.formats = new ColumnFormats(format.locale());
        }

        @Override
        public void columns(List<String> names) {
            index = names.indexOf(column);
        }

        @Override
        public void row(SourceRow row) {
            if (index < 0 || row.value(index).isBlank()) {
                return;
            }
            values++;
            if (row.isTyped(index)) {
                return;
            }
            String value = row.value(index).strip();
            formats.add(value);
            if (!canBeRead.test(value) && unread++ == 0) {
                first = value;
                place = row.place(index);
            }
        }

        Optional<UnreadValues> found() {
            return unread == 0
                    ? Optional.empty()
                    : Optional.of(new UnreadValues(column, values, unread, first, place, remedy()));
        }

        private Optional<String> remedy() {
            if (as == ValueType.NUMBER) {
                return formats.numbers().stream().findFirst().map(example -> "numbers: \"" + example.example() + "\"");
            }
            List<DateExample> dates = formats.dates();
            return dates.isEmpty()
                    ? Optional.empty()
                    : Optional.of("dates: \"" + dates.get(0).example() + "\""
                            + (dates.size() > 1
                                    ? "` or `dates: \"" + dates.get(1).example() + "\""
                                    : ""));
        }
    }
}
