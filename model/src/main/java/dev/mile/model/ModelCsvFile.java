package dev.mile.model;

import de.siegmar.fastcsv.reader.CommentStrategy;
import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import dev.mile.calendar.SupportedDates;
import dev.mile.internal.EpochDays;
import dev.mile.internal.OpenQuotes;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;

/** The lines of a small CSV file that belongs to the model: closures, events, period ends. */
final class ModelCsvFile {
    /** One line, by column. */
    record Line(Map<String, String> values, SourceLocation location) {
        String text(String column) {
            return values.getOrDefault(column, "").strip();
        }

        LocalDate date(String column) {
            String text = text(column);
            try {
                return SupportedDates.require(EpochDays.parse(text)
                        .orElseThrow(() -> DataException.of(
                                "the %s is '%s'; expected a date of the calendar as year-month-day, such as 2026-04-01",
                                column, text)));
            } catch (MileException e) {
                throw e.withLocation(location);
            }
        }

        int asInt(String column) {
            String text = text(column);
            if (!text.matches("-?[0-9]{1,9}")) {
                throw DataException.of("the %s is '%s'; expected a whole number", column, text)
                        .withLocation(location);
            }
            return Integer.parseInt(text);
        }
    }

    private ModelCsvFile() {}

    static List<Line> read(Path file, List<String> required, List<String> optional) {
        String name = String.valueOf(file.getFileName());
        List<Line> lines = new ArrayList<>();
        try (CsvReader<CsvRecord> csv = CsvReader.builder()
                .commentStrategy(CommentStrategy.NONE)
                .skipEmptyLines(true)
                .ofCsvRecord(file)) {
            checkQuotes(file, name);
            List<String> header = null;
            for (CsvRecord record : csv) {
                SourceLocation location = SourceLocation.of(name, (int) record.getStartingLineNumber());
                if (header == null) {
                    header = header(record.getFields(), required, optional, location);
                    continue;
                }
                if (record.getFieldCount() != header.size()) {
                    throw DataException.of(
                                    "the line has %d values; the header has %d columns",
                                    record.getFieldCount(), header.size())
                            .withLocation(location);
                }
                Map<String, String> values = new HashMap<>();
                for (int i = 0; i < header.size(); i++) {
                    values.put(header.get(i), record.getField(i));
                }
                lines.add(new Line(values, location));
            }
            if (header == null) {
                throw DataException.of("the file is empty; expected a header with %s", String.join(", ", required))
                        .withLocation(SourceLocation.of(name));
            }
        } catch (NoSuchFileException e) {
            throw missing(file).withCause(e);
        } catch (CsvParseException | UncheckedIOException | IOException e) {
            throw DataException.of("the file cannot be read: %s", String.valueOf(e.getMessage()))
                    .withCause(e)
                    .withLocation(SourceLocation.of(name));
        }
        return lines;
    }

    /** The library takes the rest of the file as a value whose quotes are not closed. */
    private static void checkQuotes(Path file, String name) throws IOException {
        OptionalInt opened;
        try (Reader text = Files.newBufferedReader(file)) {
            opened = OpenQuotes.line(text, ',');
        }
        if (opened.isPresent()) {
            throw DataException.of("the quotes that open in this line are not closed; write a quote in a text twice")
                    .withLocation(SourceLocation.of(name, opened.getAsInt()));
        }
    }

    static MileException missing(Path file) {
        return DataException.of(
                "the file %s is not there; check the path, which is relative to the folder of the model", file);
    }

    private static List<String> header(
            List<String> fields, List<String> required, List<String> optional, SourceLocation location) {
        List<String> header =
                fields.stream().map(f -> f.replace("\uFEFF", "").strip()).toList();
        List<String> known = new ArrayList<>(required);
        known.addAll(optional);
        for (String column : required) {
            if (!header.contains(column)) {
                throw DataException.of(
                                "there is no column '%s'; found %s, expected %s",
                                column, String.join(", ", header), String.join(", ", known))
                        .withLocation(location);
            }
        }
        for (String column : header) {
            if (header.indexOf(column) != header.lastIndexOf(column)) {
                throw DataException.of("the column '%s' is named twice; take one away", column)
                        .withLocation(location);
            }
            if (!known.contains(column)) {
                throw ModelException.unknownName("column", column, known).withLocation(location);
            }
        }
        return header;
    }

    static boolean exists(Path file) {
        return Files.isRegularFile(file);
    }
}
