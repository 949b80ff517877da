package dev.mile.sources;

import dev.mile.DataException;
import dev.mile.engine.FileFormat;
import dev.mile.internal.Messages;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Makes plain numbers and dates of the values of columns, by the examples of a format. The first value of a column decides what it holds;
 * {@link OtherKind} ends the reading where a later one contradicts it. Used for one reading.
 */
final class PlainColumns {
    /** What a column holds. */
    private enum Kind {
        /** Values that stay as they are. */
        KEPT,
        /** Nothing yet. */
        UNDECIDED,
        /** Numbers, all like the example. */
        NUMBER,
        /** Dates, all like the example. */
        DATE,
        /** Dates, and what else stands in a column that the model says to be of dates. */
        DATE_OR_OTHER,
        /** Numbers unlike the example, so far. */
        OTHER_NUMBER
    }

    /** Says that a value shows a column not to be what its first values are. */
    static final class OtherKind extends RuntimeException {
        private static final long serialVersionUID = 1L;

        private final int column;
        private final Kind kind;

        OtherKind(int column, Kind kind) {
            super(null, null, false, false);
            this.column = column;
            this.kind = kind;
        }
    }

    /** What is found of a column while its values are read. */
    private static final class Column {
        final String name;
        final Optional<DateExample> date;
        Kind kind;
        long values;
        long like;
        final ColumnFormats formats;

        @Nullable
        String firstUnlike;

        String place = "";

        Column(String name, Optional<DateExample> date, Kind kind, ColumnFormats formats) {
            this.name = name;
            this.date = date;
            this.kind = kind;
            this.formats = formats;
        }

        /** Counts a value, and whether it is like the example. */
        void count(boolean isLike, String value, SourceRow row, int c) {
            values++;
            like += isLike ? 1 : 0;
            if (!isLike && firstUnlike == null) {
                firstUnlike = value;
                place = row.place(c);
            }
        }
    }

    private final FileFormat format;
    private final Optional<NumberExample> number;
    private final Set<String> texts;
    private final Set<String> dateColumns;
    private final Map<Integer, Set<Kind>> excluded;
    private List<Column> columns = List.of();

    PlainColumns(FileFormat format, Set<String> texts, Set<String> dateColumns) {
        this(format, texts, dateColumns, Map.of());
    }

    private PlainColumns(
            FileFormat format, Set<String> texts, Set<String> dateColumns, Map<Integer, Set<Kind>> excluded) {
        this.format = format;
        this.number = format.numbers().map(NumberExample::of);
        this.texts = texts;
        this.dateColumns = dateColumns;
        this.excluded = excluded;
    }

    /** Returns columns for another reading, in which one is not what it seemed to be. */
    PlainColumns without(OtherKind contradiction) {
        Map<Integer, Set<Kind>> all = new HashMap<>();
        excluded.forEach((column, kinds) -> all.put(column, EnumSet.copyOf(kinds)));
        all.computeIfAbsent(contradiction.column, c -> EnumSet.noneOf(Kind.class))
                .add(contradiction.kind);
        return new PlainColumns(format, texts, dateColumns, all);
    }

    List<String> names() {
        return columns.stream().map(column -> column.name).toList();
    }

    int size() {
        return columns.size();
    }

    /** Begins a file; returns whether it is the first. All have the same columns. */
    boolean begin(List<String> names, String fileName) {
        if (!columns.isEmpty()) {
            if (!names().equals(names)) {
                throw DataException.of(
                        "the file %s has the columns %s, but the files before it have %s; all files of a pattern need the same columns",
                        fileName, names, names());
            }
            return false;
        }
        format.dates().keySet().stream()
                .filter(name -> !name.isEmpty() && !names.contains(name))
                .findFirst()
                .ifPresent(name -> {
                    throw DataException.of(
                            "`dates` names the column '%s', which %s lacks%s",
                            name, fileName, Messages.didYouMean(name, names));
                });
        columns = names.stream().map(this::column).toList();
        return true;
    }

    private Column column(String name) {
        Optional<String> example = Optional.ofNullable(
                format.dates().getOrDefault(name, format.dates().get("")));
        Optional<DateExample> date = example.map(text -> DateExample.of(text, format.locale()));
        boolean isOfDates = dateColumns.contains(name) || format.dates().containsKey(name);
        Kind kind = texts.contains(name) || date.isEmpty() && (number.isEmpty() || dateColumns.contains(name))
                ? Kind.KEPT
                : isOfDates && date.isPresent() ? Kind.DATE_OR_OTHER : Kind.UNDECIDED;
        return new Column(name, date, kind, new ColumnFormats(format.locale()));
    }

    /**
     * Returns a value as every engine reads it; an empty text for a blank one.
     *
     * @throws OtherKind if it contradicts what its column was taken for
     */
    String plain(SourceRow row, int c) {
        String raw = row.value(c);
        Column column = columns.get(c);
        if (column.kind == Kind.KEPT || row.isTyped(c) || raw.isEmpty()) {
            return raw;
        }
        String value = raw.strip();
        if (value.isEmpty()) {
            return "";
        }
        if (column.kind == Kind.UNDECIDED) {
            decide(column, c, value);
        }
        return switch (column.kind) {
            case NUMBER -> orContradicts(number.orElseThrow().plain(value), c, column);
            case DATE -> orContradicts(date(column, value), c, column);
            case DATE_OR_OTHER -> {
                Optional<String> date = column.date.orElseThrow().read(value);
                column.count(date.isPresent(), value, row, c);
                yield date.orElse(raw);
            }
            case OTHER_NUMBER -> {
                otherNumber(column, value, row, c);
                yield raw;
            }
            case KEPT, UNDECIDED -> raw;
        };
    }

    private static String orContradicts(Optional<String> plain, int c, Column column) {
        if (plain.isEmpty()) {
            throw new OtherKind(c, column.kind);
        }
        return plain.get();
    }

    private void decide(Column column, int c, String value) {
        Set<Kind> not = excluded.getOrDefault(c, Set.of());
        if (number.isPresent()
                && !not.contains(Kind.NUMBER)
                && number.get().plain(value).isPresent()) {
            column.kind = Kind.NUMBER;
        } else if (!not.contains(Kind.DATE) && date(column, value).isPresent()) {
            column.kind = Kind.DATE;
        } else if (number.isPresent()) {
            column.kind = Kind.OTHER_NUMBER;
        } else {
            column.kind = Kind.KEPT;
        }
    }

    /** Returns the date of a value; plain numbers are none: an example for all columns makes no dates of quantities. */
    private static Optional<String> date(Column column, String value) {
        return column.date.isEmpty() || ColumnFormats.isPlainNumber(value)
                ? Optional.empty()
                : column.date.get().read(value);
    }

    /** Without the example such values would be numbers, and others than the file means. */
    private void otherNumber(Column column, String value, SourceRow row, int c) {
        column.count(number.orElseThrow().plain(value).isPresent(), value, row, c);
        column.formats.add(value);
        if (!column.formats.arePlainNumbers() && column.formats.numbers().isEmpty()) {
            column.kind = Kind.KEPT;
        }
    }

    /** Refuses columns whose values are not like the example that is given for them. */
    void check() {
        for (Column column : columns) {
            if (column.kind == Kind.DATE_OR_OTHER && column.values > 0 && column.like == 0) {
                throw unlike(column, "dates", column.date.orElseThrow().example(), Optional.empty());
            }
            if (column.kind == Kind.OTHER_NUMBER) {
                throw unlike(
                        column,
                        "numbers",
                        number.orElseThrow().example(),
                        column.formats.numbers().stream().findFirst().map(NumberExample::example));
            }
        }
    }

    private static DataException unlike(Column column, String key, String example, Optional<String> better) {
        return DataException.of(
                "of %s in the column '%s' %d cannot be read like '%s', the first is '%s' in %s; %s `%s`, or correct the file",
                Messages.quantity(column.values, "value"),
                column.name,
                column.values - column.like,
                example,
                column.firstUnlike,
                column.place,
                better.map(all -> "'" + all + "' would read them all: write it in")
                        .orElse("copy another example into"),
                key);
    }
}
