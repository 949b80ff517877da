package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.internal.EpochDays;
import dev.mile.report.FactDays;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * A report as an earlier run wrote it to a JSON file ({@link JsonWriter#grid}).
 *
 * @param file the file
 * @param model the name of the project
 * @param report the name of the report
 * @param asOf the as-of date; empty if there was none
 * @param keys the names of the parts of the rows
 * @param columns the columns of values
 * @param rows the rows by their kind and labels
 * @param days what its facts had on each day; empty where nobody asked for them
 */
public record GridSnapshot(
        Path file,
        String model,
        String report,
        Optional<LocalDate> asOf,
        List<String> keys,
        List<SavedColumn> columns,
        Map<List<String>, SavedRow> rows,
        List<FactDays> days) {
    /** The format of the file. */
    static final int FORMAT = 1;

    /**
     * A column.
     *
     * @param name its name in data files
     * @param definition what it was, in the language
     */
    public record SavedColumn(String name, String definition) {}

    /**
     * A row.
     *
     * @param labels its labels
     * @param days its first to its last day
     * @param values by column, the digits or the status; empty for a blank
     */
    public record SavedRow(List<String> labels, DateRange days, List<Optional<String>> values) {}

    /**
     * Reads a file.
     *
     * @param file the file
     * @return the report
     * @throws MileException if it is not there, or is no report as JSON
     */
    public static GridSnapshot read(Path file) {
        requireNonNull(file, "file is null");
        Object root;
        try (JsonParser json = new JsonFactory().createParser(Files.newBufferedReader(file))) {
            json.nextToken();
            root = value(json);
        } catch (NoSuchFileException e) {
            throw DataException.of("the file %s is not there; write one with -o %s --days", file, file)
                    .withCause(e);
        } catch (JsonProcessingException e) {
            JsonLocation at = e.getLocation();
            throw DataException.of(
                            "%s%s is no JSON: %s; write it with -o %s --days",
                            file,
                            at == null ? "" : ":" + at.getLineNr() + ":" + at.getColumnNr(),
                            e.getOriginalMessage().replaceFirst(" \\(start marker.*", ""),
                            file)
                    .withCause(e);
        } catch (IOException e) {
            throw DataException.of("cannot read %s: %s", file, e.getMessage()).withCause(e);
        }
        try {
            return of(file, root);
        } catch (ClassCastException | NullPointerException | IndexOutOfBoundsException | NumberFormatException e) {
            throw foreign(file);
        }
    }

    private static MileException foreign(Path file) {
        return DataException.of(
                "%s is no report that this version wrote; write one with `mile report NAME -o %s --days`", file, file);
    }

    /** Returns a value of any kind: maps, lists, and texts for all else; null for null. */
    private static Object value(JsonParser json) throws IOException {
        JsonToken token = json.currentToken();
        if (token == JsonToken.START_OBJECT) {
            Map<String, Object> fields = new LinkedHashMap<>();
            while (json.nextToken() != JsonToken.END_OBJECT) {
                String name = json.currentName();
                json.nextToken();
                fields.put(name, value(json));
            }
            return fields;
        }
        if (token == JsonToken.START_ARRAY) {
            List<Object> entries = new ArrayList<>();
            while (json.nextToken() != JsonToken.END_ARRAY) {
                entries.add(value(json));
            }
            return entries;
        }
        return token == JsonToken.VALUE_NULL || token == null ? null : json.getText();
    }

    private static GridSnapshot of(Path file, Object root) {
        Map<?, ?> fields = (Map<?, ?>) root;
        if (!String.valueOf(FORMAT).equals(fields.get("mile"))) {
            throw foreign(file);
        }
        Map<List<String>, SavedRow> rows = new LinkedHashMap<>();
        for (Map<?, ?> row : maps(fields.get("rows"))) {
            List<String> labels = texts(row.get("labels"));
            List<Optional<String>> values = new ArrayList<>();
            for (Object value : (List<?>) row.get("values")) {
                values.add(Optional.ofNullable((String) value));
            }
            rows.put(rowKey((String) row.get("kind"), labels), new SavedRow(labels, days(row), values));
        }
        return new GridSnapshot(
                file,
                (String) fields.get("model"),
                (String) fields.get("report"),
                Optional.ofNullable((String) fields.get("as_of")).map(LocalDate::parse),
                texts(fields.get("keys")),
                maps(fields.get("columns")).stream()
                        .map(column -> new SavedColumn((String) column.get("name"), (String) column.get("definition")))
                        .toList(),
                rows,
                fields.get("days") == null
                        ? List.of()
                        : maps(fields.get("days")).stream()
                                .map(GridSnapshot::fact)
                                .toList());
    }

    /** Returns what tells a row from others. */
    static List<String> rowKey(String kind, List<String> labels) {
        List<String> key = new ArrayList<>(labels);
        key.add(0, kind);
        return key;
    }

    private static DateRange days(Map<?, ?> row) {
        return row.get("from") == null
                ? DateRange.EMPTY
                : DateRange.ofEpochDays(
                        EpochDays.of(LocalDate.parse((String) row.get("from"))),
                        EpochDays.of(LocalDate.parse((String) row.get("to"))));
    }

    private static FactDays fact(Map<?, ?> fact) {
        SortedMap<LocalDate, FactDays.Total> days = new TreeMap<>();
        for (Object entry : (List<?>) fact.get("totals")) {
            List<String> day = texts(entry);
            days.put(
                    LocalDate.parse(day.get(0)),
                    new FactDays.Total(
                            Long.parseLong(day.get(1)),
                            day.subList(2, day.size()).stream()
                                    .map(BigDecimal::new)
                                    .toList()));
        }
        return new FactDays((String) fact.get("fact"), (String) fact.get("role"), texts(fact.get("amounts")), days);
    }

    private static List<Map<?, ?>> maps(Object list) {
        List<Map<?, ?>> maps = new ArrayList<>();
        ((List<?>) list).forEach(entry -> maps.add((Map<?, ?>) entry));
        return maps;
    }

    private static List<String> texts(Object list) {
        List<String> texts = new ArrayList<>();
        ((List<?>) list).forEach(entry -> texts.add((String) entry));
        return texts;
    }
}
