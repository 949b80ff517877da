package dev.mile.sources;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.engine.FileFormat;
import dev.mile.internal.Messages;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDate;
import java.time.Month;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Finds how a file is written, from all that it holds. Used for one file. */
public final class FormatFinder {
    private static final int FIRST_LINES = 60;
    private static final int LAST_ROWS = 5;
    private static final int FEWEST_COLUMNS = 3;
    private static final List<String> SEPARATORS = List.of(",", ";", "\t", "|");
    private static final Pattern TOTAL = Pattern.compile(
            "(?iu)(grand |gross )?totals?|sum|summe|gesamt(summe|ergebnis)?|totale|somme|suma|sammanlagt|\u5408\u8a08|\u7dcf\u8a08");
    /** Two numbers and a word: what may be a date whose month has a name. */
    private static final Pattern NAMED_MONTH = Pattern.compile("(?=.*\\p{L}{3})\\D*[0-9]{1,4}\\D+[0-9]{1,4}\\D*");

    /** Names of columns whose numbers may be moments rather than amounts. */
    private static final Pattern MOMENT =
            Pattern.compile("(?iu)(.*[_ .-])?(ts|at|on|date|time|timestamp|epoch|created|updated)");

    private static final Pattern YEAR = Pattern.compile("(19|20)[0-9]{2}");

    /** Languages whose names of months are known; the first is that of models. */
    private static final List<Locale> LANGUAGES = Stream.of("en", "de", "fr", "es", "it", "pt", "nl", "sv", "da", "pl")
            .map(Locale::forLanguageTag)
            .toList();

    private final Path file;
    private final List<String> doubts = new ArrayList<>();

    private FormatFinder(Path file) {
        this.file = file;
    }

    /**
     * {@return how a file seems to be written}
     *
     * @param file a text with separators, or a workbook
     */
    public static DraftFormat of(Path file) {
        requireNonNull(file, "file is null");
        return new FormatFinder(file).find();
    }

    private DraftFormat find() {
        FileFormat table = SourceFile.isWorkbook(file.toString()) ? sheet() : text();
        FileFormat ended = end(table).map(table::withUntil).orElse(table);
        Columns columns = columns(ended, LANGUAGES.get(0));
        for (Locale language : LANGUAGES.subList(1, LANGUAGES.size())) {
            // only a file that may name months is read for other languages
            if (columns.mayNameMonths && !columns.hasNamedMonths()) {
                columns = columns(ended, language);
            }
        }
        return find(columns.hasNamedMonths() ? ended.withLocale(columns.language) : ended, columns);
    }

    private Columns columns(FileFormat table, Locale language) {
        Columns columns = new Columns(language);
        SourceFile.read(file, table, columns);
        return columns;
    }

    private DraftFormat find(FileFormat table, Columns columns) {
        FileFormat format = table;
        Optional<NumberExample> numbers = numbers(columns, table);
        if (numbers.isPresent()) {
            format = format.withNumbers(numbers.get().example());
        }
        Map<String, String> dates = dates(columns);
        if (!dates.isEmpty()) {
            // whole numbers are dates only where their column is named
            boolean areAlike = dates.values().stream().distinct().count() == 1
                    && dates.values().stream().noneMatch(example -> example.startsWith("epoch"));
            format = format.withDates(
                    areAlike ? Map.of("", dates.values().iterator().next()) : dates);
        }
        for (DraftFormat.Wide wide : DraftFormat.Wide.values()) {
            Optional<FileFormat.Unpivot> unpivot = unpivot(wide, columns);
            if (unpivot.isPresent()) {
                return new DraftFormat(format.withUnpivot(unpivot.get()), doubts, Optional.of(wide));
            }
        }
        return new DraftFormat(format, doubts, Optional.empty());
    }

    // ---- where the table is

    private FileFormat text() {
        Optional<String> encoding = TextEncoding.found(file);
        FileFormat format = encoding.map(FileFormat.PLAIN::withEncoding).orElse(FileFormat.PLAIN);
        encoding.ifPresent(
                name -> doubts.add("the bytes are not UTF-8 but look like " + name + ": check accented letters"));
        List<String> lines = firstLines(format);
        int best = 0;
        FileFormat found = format;
        for (String separator : SEPARATORS) {
            List<List<String>> rows = lines.stream()
                    .map(line -> fields(line, separator.charAt(0)))
                    .toList();
            int size = mostFrequentSize(rows);
            long alike = rows.stream().filter(row -> row.size() == size).count();
            int header = header(rows, size);
            if (size > 1 && header >= 0 && size * (int) alike > best) {
                best = size * (int) alike;
                FileFormat here = format.withHeader(header + 1);
                boolean isFound = SourceFile.separator(file, here) == separator.charAt(0);
                found = isFound ? here : here.withSeparator(separator.equals("\t") ? "tab" : separator);
            }
        }
        return found;
    }

    /** Returns the values of a line; in quotes separators part nothing. */
    private static List<String> fields(String line, char separator) {
        List<String> fields = new ArrayList<>();
        StringBuilder field = new StringBuilder();
        boolean quoted = false;
        for (char c : line.toCharArray()) {
            if (c == '"') {
                quoted = !quoted;
            } else if (c == separator && !quoted) {
                fields.add(field.toString());
                field.setLength(0);
            } else {
                field.append(c);
            }
        }
        fields.add(field.toString());
        return fields;
    }

    private List<String> firstLines(FileFormat format) {
        TextEncoding encoding = TextEncoding.of(file, format.encoding());
        try (BufferedReader reader = new BufferedReader(encoding.open())) {
            return reader.lines().limit(FIRST_LINES).toList();
        } catch (IOException | UncheckedIOException e) {
            throw encoding.failed(e);
        }
    }

    private static int mostFrequentSize(List<List<String>> rows) {
        Map<Integer, Long> counts = rows.stream().collect(Collectors.groupingBy(List::size, Collectors.counting()));
        return counts.entrySet().stream()
                .max(Map.Entry.<Integer, Long>comparingByValue().thenComparing(Map.Entry.comparingByKey()))
                .map(Map.Entry::getKey)
                .orElse(0);
    }

    /** Returns the first row of a size that has names: filled, and no numbers or dates. */
    private static int header(List<List<String>> rows, int size) {
        for (int i = 0; i < rows.size(); i++) {
            List<String> row = rows.get(i);
            long filled = row.stream().filter(value -> !value.isBlank()).count();
            boolean hasNames = row.stream().map(String::strip).noneMatch(FormatFinder::isValue);
            if (row.size() == size && filled * 2 > size && hasNames) {
                return i;
            }
        }
        return -1;
    }

    /** Returns whether a text is a number or a date rather than a name; years name columns too. */
    private static boolean isValue(String text) {
        if (text.isEmpty() || YEAR.matcher(text).matches()) {
            return false;
        }
        ColumnFormats formats = new ColumnFormats(Locale.ENGLISH);
        formats.add(text);
        return formats.arePlainNumbers()
                || formats.areIsoDates()
                || !formats.numbers().isEmpty()
                || !formats.dates().isEmpty();
    }

    private FileFormat sheet() {
        List<String> sheets = Workbook.sheets(file);
        List<String> tables = new ArrayList<>();
        FileFormat found = FileFormat.PLAIN;
        for (String sheet : sheets) {
            FirstRows first = new FirstRows();
            try {
                SourceFile.read(file, FileFormat.PLAIN.withSheet(sheet), first);
            } catch (FirstRows.Enough e) {
                // as many as are needed
            } catch (DataException e) {
                // an empty sheet
                continue;
            }
            List<List<String>> rows = first.rows();
            int size = mostFrequentSize(rows);
            int header = header(rows, size);
            if (size > 1 && header >= 0 && rows.size() > header + 1) {
                if (tables.isEmpty()) {
                    found = FileFormat.PLAIN.withHeader(first.numbers.get(header));
                    found = sheet.equals(sheets.get(0)) ? found : found.withSheet(sheet);
                }
                tables.add(sheet);
            }
        }
        if (tables.size() > 1) {
            doubts.add(Messages.format(
                    "the sheet %s is read; other sheets with a table: %s",
                    tables.get(0), String.join(", ", tables.subList(1, tables.size()))));
        }
        return found;
    }

    /** Collects the first rows of a sheet. */
    private static final class FirstRows implements RowSink {
        private final List<List<String>> rows = new ArrayList<>();
        /** Their numbers in the sheet; the first that is filled may be read as if it were the first of all. */
        final List<Integer> numbers = new ArrayList<>();

        /** Ends the reading. */
        private static final class Enough extends RuntimeException {
            private static final long serialVersionUID = 1L;

            Enough() {
                super(null, null, false, false);
            }
        }

        /** Returns the rows, all as long as the longest. */
        List<List<String>> rows() {
            int size = rows.stream().mapToInt(List::size).max().orElse(0);
            return rows.stream()
                    .map(row -> Stream.concat(
                                    row.stream(), Stream.generate(() -> "").limit(size - row.size()))
                            .toList())
                    .toList();
        }

        @Override
        public void columns(List<String> names) {
            List<String> filled = new ArrayList<>();
            for (int c = 0; c < names.size(); c++) {
                filled.add(names.get(c).equals(TableRows.unnamed(c)) ? "" : names.get(c));
            }
            rows.add(filled);
            numbers.add(1);
        }

        @Override
        public void row(SourceRow row) {
            List<String> values = new ArrayList<>();
            for (int c = 0; c < row.size(); c++) {
                values.add(row.value(c));
            }
            rows.add(values);
            numbers.add(Integer.parseInt(row.place(0).replaceAll(".*!\\D+", "")));
            if (rows.size() >= FIRST_LINES) {
                throw new Enough();
            }
        }
    }

    /** Returns what the last rows begin with where that is a word for a total. */
    private Optional<String> end(FileFormat table) {
        List<String> last = new ArrayList<>();
        SourceFile.read(file, table, new RowSink() {
            private int size;

            @Override
            public void columns(List<String> names) {
                size = names.size();
            }

            @Override
            public void row(SourceRow row) {
                for (int c = 0; c < size; c++) {
                    if (!row.value(c).isBlank()) {
                        add(row.value(c).strip());
                        return;
                    }
                }
            }

            @Override
            public void rejected(String place, String why) {
                add("");
            }

            private void add(String first) {
                last.add(first);
                if (last.size() > LAST_ROWS) {
                    last.remove(0);
                }
            }
        });
        return last.stream().filter(first -> TOTAL.matcher(first).matches()).findFirst();
    }

    // ---- what its values are

    /** The formats of all columns. */
    private static final class Columns implements RowSink {
        private final Locale language;
        private final Map<String, ColumnFormats> formats = new LinkedHashMap<>();
        private List<String> names = List.of();
        boolean mayNameMonths;

        Columns(Locale language) {
            this.language = language;
        }

        @Override
        public void columns(List<String> all) {
            names = all;
            names.forEach(name -> formats.put(name, new ColumnFormats(language)));
        }

        @Override
        public void row(SourceRow row) {
            for (int c = 0; c < names.size(); c++) {
                String value = row.value(c).strip();
                if (!value.isEmpty() && !row.isTyped(c)) {
                    formats.get(names.get(c)).add(value);
                    mayNameMonths = mayNameMonths || NAMED_MONTH.matcher(value).matches();
                }
            }
        }

        boolean hasNamedMonths() {
            return formats.values().stream()
                    .flatMap(column -> column.dates().stream())
                    .anyMatch(date -> date.example().chars().anyMatch(Character::isLetter));
        }
    }

    private Optional<NumberExample> numbers(Columns columns, FileFormat table) {
        boolean semicolons = SourceFile.isText(file.toString()) && SourceFile.separator(file, table) == ';';
        List<ColumnFormats> written = columns.formats.values().stream()
                .filter(column -> !column.numbers().isEmpty()
                        && (!column.arePlainNumbers() || semicolons && column.areThousands()))
                .toList();
        if (written.isEmpty()) {
            return Optional.empty();
        }
        List<NumberExample> all = written.get(0).numbers().stream()
                .filter(example -> written.stream().allMatch(column -> column.areNumbers(example)))
                .toList();
        if (all.size() > 1) {
            doubts.add(Messages.format(
                    "amounts could be read like %s: compare one with the file",
                    all.stream().map(example -> "\"" + example + "\"").collect(Collectors.joining(" or like "))));
        }
        return all.stream().findFirst();
    }

    private Map<String, String> dates(Columns columns) {
        Map<String, List<String>> possible = new LinkedHashMap<>();
        columns.formats.forEach((name, column) -> {
            List<String> found =
                    column.dates().stream().map(DateExample::example).toList();
            if (!found.isEmpty() && !column.areIsoDates() && !column.arePlainNumbers()) {
                possible.put(name, found);
            }
            if (MOMENT.matcher(name).matches()) {
                column.epoch().ifPresent(epoch -> {
                    possible.put(name, List.of(epoch));
                    doubts.add(Messages.format("the numbers in %s look like %s: compare one date", name, epoch));
                });
            }
        });
        // a column that tells the order of day and month tells it for others that are written alike
        List<String> certain = possible.values().stream()
                .filter(found -> found.size() == 1)
                .map(found -> found.get(0))
                .toList();
        Map<String, String> dates = new LinkedHashMap<>();
        possible.forEach((name, found) -> {
            Optional<String> known = found.stream().filter(certain::contains).findFirst();
            dates.put(name, known.orElse(found.get(0)));
            if (found.size() > 1 && known.isEmpty()) {
                doubts.add(Messages.format(
                        "the dates in %s could be read like \"%s\" or like \"%s\": no value tells which; ask whoever made the file",
                        name, found.get(0), found.get(1)));
            }
        });
        return dates;
    }

    // ---- columns that are periods

    private Optional<FileFormat.Unpivot> unpivot(DraftFormat.Wide wide, Columns columns) {
        List<String> names = columns.names;
        int best = 0;
        int first = 0;
        for (int begin = 0; begin < names.size(); begin++) {
            int end = begin;
            while (end < names.size() && isOne(wide, names.get(end))) {
                end++;
            }
            if (end - begin > best) {
                best = end - begin;
                first = begin;
            }
        }
        if (best < FEWEST_COLUMNS) {
            return Optional.empty();
        }
        String year = wide == DraftFormat.Wide.YEARS ? "" : " " + year();
        return Optional.of(new FileFormat.Unpivot(
                names.get(first),
                names.get(first + best - 1),
                wide == DraftFormat.Wide.YEARS ? "year" : "month",
                "amount",
                "{column}" + year));
    }

    private static boolean isOne(DraftFormat.Wide wide, String name) {
        return switch (wide) {
            case YEARS -> YEAR.matcher(name).matches();
            case MONTHS -> isMonth(name, TextStyle.FULL);
            case SHORT_MONTHS -> isMonth(name, TextStyle.SHORT);
        };
    }

    private static boolean isMonth(String name, TextStyle style) {
        return Stream.of(Month.values())
                .anyMatch(month -> month.getDisplayName(style, Locale.ENGLISH).equals(name));
    }

    private String year() {
        Matcher year = YEAR.matcher(String.valueOf(file.getFileName()));
        if (year.find()) {
            return year.group();
        }
        String thisYear = Integer.toString(LocalDate.now(Clock.systemUTC()).getYear());
        doubts.add("the columns are months of a year that the file does not name: " + thisYear + " is a guess");
        return thisYear;
    }
}
