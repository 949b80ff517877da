package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import dev.mile.calendar.DateRange;
import dev.mile.dimension.DateColumn;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.Explanation;
import dev.mile.report.FactDays;
import dev.mile.report.Grid;
import java.io.IOException;
import java.io.Writer;
import java.math.BigDecimal;
import java.util.List;
import java.util.Locale;

/**
 * Writes grids, explanations and date dimensions as JSON. A number that a double cannot hold is written as a string, so that no
 * reader loses digits.
 */
public final class JsonWriter {
    private JsonWriter() {}

    private interface Body {
        void write(JsonGenerator json) throws IOException;
    }

    private static void document(Writer out, Body body) throws IOException {
        try (JsonGenerator json = new JsonFactory().createGenerator(out)) {
            json.disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);
            json.enable(JsonGenerator.Feature.WRITE_BIGDECIMAL_AS_PLAIN);
            json.useDefaultPrettyPrinter();
            body.write(json);
        }
        out.write('\n');
    }

    /**
     * Writes the grid: keys, columns, rows with their kind and labels, notes.
     *
     * @param grid the report that was computed
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void grid(Grid grid, Writer out) throws IOException {
        grid(grid, List.of(), out);
    }

    /**
     * Writes the grid and what its facts have on each day, so that a later run can say what changed.
     *
     * @param grid the report that was computed
     * @param days the days of its facts
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void grid(Grid grid, List<FactDays> days, Writer out) throws IOException {
        requireNonNull(grid, "grid is null");
        requireNonNull(days, "days is null");
        requireNonNull(out, "out is null");
        document(out, json -> grid(json, grid, days));
    }

    /**
     * Writes the grid where a document is written already, in the same shape.
     *
     * @param grid the report that was computed
     * @param json where it is written; stays open
     * @throws IOException if it cannot be written
     */
    public static void grid(Grid grid, JsonGenerator json) throws IOException {
        requireNonNull(grid, "grid is null");
        requireNonNull(json, "json is null");
        grid(json, grid, List.of());
    }

    private static void grid(JsonGenerator json, Grid grid, List<FactDays> days) throws IOException {
        json.writeStartObject();
        json.writeNumberField("mile", GridSnapshot.FORMAT);
        json.writeStringField("model", grid.header().project());
        json.writeStringField("report", grid.header().report());
        json.writeStringField("title", grid.title());
        if (grid.choice().isPresent()) {
            json.writeStringField("choice", grid.choice().get());
        }
        json.writeStringField(
                "as_of", grid.header().asOf().map(Object::toString).orElse(null));
        texts(json, "keys", grid.keys());
        json.writeArrayFieldStart("columns");
        for (Grid.Column column : grid.columns()) {
            json.writeStartObject();
            json.writeStringField("name", column.header());
            json.writeStringField("label", column.label());
            json.writeStringField("format", column.style().format().orElse(""));
            json.writeStringField("unit", column.style().unit().orElse(""));
            json.writeStringField("definition", column.definition());
            json.writeStringField("member", column.member().orElse(null));
            json.writeEndObject();
        }
        json.writeEndArray();
        json.writeArrayFieldStart("rows");
        for (Grid.Row row : grid.rows()) {
            json.writeStartObject();
            json.writeStringField("kind", row.kind().name().toLowerCase(Locale.ROOT));
            texts(json, "labels", row.labels());
            range(json, row.days());
            json.writeArrayFieldStart("values");
            for (int c = 0; c < grid.columns().size(); c++) {
                if (row.status(c).isPresent()) {
                    json.writeString(row.status(c).get().word());
                } else {
                    value(json, row.values().get(c));
                }
            }
            json.writeEndArray();
            windows(json, row.windows());
            if (!row.windows().isEmpty()) {
                blanks(json, row);
            }
            json.writeEndObject();
        }
        json.writeEndArray();
        texts(json, "notes", grid.notes());
        if (!days.isEmpty()) {
            days(json, days);
        }
        json.writeEndObject();
    }

    /**
     * Writes a row as an object: its labels by the names of their parts, its cells by the headers of data files, blanks as null.
     *
     * @param row the row
     * @param json where it is written; stays open
     * @throws IOException if it cannot be written
     */
    public static void cells(Grid.Cells row, JsonGenerator json) throws IOException {
        requireNonNull(row, "row is null");
        requireNonNull(json, "json is null");
        json.writeStartObject();
        for (var cell : row.toMap().entrySet()) {
            json.writeFieldName(cell.getKey());
            if (cell.getValue() instanceof BigDecimal exact) {
                number(json, exact);
            } else if (cell.getValue() instanceof TargetStatus status) {
                json.writeString(status.word());
            } else if (cell.getValue() == null) {
                json.writeNull();
            } else {
                json.writeString(cell.getValue().toString());
            }
        }
        json.writeEndObject();
    }

    private static void days(JsonGenerator json, List<FactDays> facts) throws IOException {
        json.writeArrayFieldStart("days");
        for (FactDays fact : facts) {
            json.writeStartObject();
            json.writeStringField("fact", fact.fact());
            json.writeStringField("role", fact.role());
            texts(json, "amounts", fact.amounts());
            json.writeArrayFieldStart("totals");
            for (var day : fact.days().entrySet()) {
                json.writeStartArray();
                json.writeString(day.getKey().toString());
                json.writeNumber(day.getValue().rows());
                for (BigDecimal sum : day.getValue().sums()) {
                    number(json, sum);
                }
                json.writeEndArray();
            }
            json.writeEndArray();
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    /** Writes for each value which kind of blank it is; null for a number. */
    private static void blanks(JsonGenerator json, Grid.Row row) throws IOException {
        json.writeArrayFieldStart("blanks");
        for (Value value : row.values()) {
            if (value.isBlank()) {
                json.writeString(value.isNothing() ? "nothing" : value.equals(Value.UNKNOWN) ? "unknown" : "undefined");
            } else {
                json.writeNull();
            }
        }
        json.writeEndArray();
    }

    private static void windows(JsonGenerator json, List<List<Grid.Window>> columns) throws IOException {
        if (columns.isEmpty()) {
            return;
        }
        json.writeArrayFieldStart("windows");
        for (List<Grid.Window> column : columns) {
            json.writeStartArray();
            for (Grid.Window window : column) {
                json.writeStartObject();
                json.writeStringField("of", window.expression());
                range(json, window.days());
                json.writeEndObject();
            }
            json.writeEndArray();
        }
        json.writeEndArray();
    }

    private static void texts(JsonGenerator json, String name, List<String> texts) throws IOException {
        json.writeFieldName(name);
        json.writeArray(texts.toArray(String[]::new), 0, texts.size());
    }

    private static void range(JsonGenerator json, DateRange days) throws IOException {
        json.writeStringField("from", days.isEmpty() ? null : days.first().toString());
        json.writeStringField("to", days.isEmpty() ? null : days.last().toString());
    }

    private static void value(JsonGenerator json, Value value) throws IOException {
        if (value.isBlank()) {
            json.writeNull();
        } else if (value.isExact()) {
            number(json, value.decimal());
        } else {
            json.writeNumber(value.toDouble());
        }
    }

    private static void number(JsonGenerator json, BigDecimal number) throws IOException {
        if (new BigDecimal(Double.toString(number.doubleValue())).compareTo(number) == 0) {
            json.writeNumber(number);
        } else {
            json.writeString(number.toPlainString());
        }
    }

    /**
     * Writes the explanation as a tree.
     *
     * @param e the explanation
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void explanation(Explanation e, Writer out) throws IOException {
        requireNonNull(e, "e is null");
        requireNonNull(out, "out is null");
        document(out, json -> explanation(e, json));
    }

    /**
     * Writes the explanation where a document is written already, in the same shape.
     *
     * @param e the explanation
     * @param json where it is written; stays open
     * @throws IOException if it cannot be written
     */
    public static void explanation(Explanation e, JsonGenerator json) throws IOException {
        requireNonNull(e, "e is null");
        requireNonNull(json, "json is null");
        json.writeStartObject();
        json.writeStringField("measure", e.measure());
        json.writeStringField("cell", e.cell());
        range(json, e.days());
        json.writeStringField("as_of", e.asOf().map(Object::toString).orElse(null));
        json.writeFieldName("value");
        part(json, e.root());
        json.writeArrayFieldStart("notes");
        for (String note : e.notes()) {
            json.writeString(note);
        }
        json.writeEndArray();
        json.writeEndObject();
    }

    private static void part(JsonGenerator json, Explanation.Operand part) throws IOException {
        json.writeStartObject();
        json.writeStringField("text", part.text());
        json.writeFieldName("value");
        value(json, part.value());
        if (part.reason().isPresent()) {
            json.writeStringField("reason", part.reason().get());
        }
        if (part.rows().isPresent()) {
            json.writeStringField("rows_of", part.rows().get());
            json.writeNumberField("rows", part.rowCount());
        }
        if (!part.steps().isEmpty()) {
            json.writeArrayFieldStart("steps");
            for (Explanation.StepResult step : part.steps()) {
                json.writeStartObject();
                json.writeStringField("step", step.step());
                range(json, step.days());
                json.writeNumberField("days", step.days().length());
                if (step.workingDays().isPresent()) {
                    json.writeNumberField("working_days", step.workingDays().get());
                }
                json.writeEndObject();
            }
            json.writeEndArray();
        }
        if (!part.operands().isEmpty()) {
            json.writeArrayFieldStart("parts");
            for (Explanation.Operand inner : part.operands()) {
                part(json, inner);
            }
            json.writeEndArray();
        }
        json.writeEndObject();
    }

    /**
     * Writes the date dimension as a list of days.
     *
     * @param table the table
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void dates(DatesTable table, Writer out) throws IOException {
        requireNonNull(table, "table is null");
        requireNonNull(out, "out is null");
        document(out, json -> {
            json.writeStartArray();
            for (int day = table.days().firstEpochDay(); day <= table.days().lastEpochDay(); day++) {
                json.writeStartObject();
                for (DateColumn column : table.columns()) {
                    json.writeFieldName(column.name());
                    Object value = column.value(day);
                    if (value == null) {
                        json.writeNull();
                    } else if (value instanceof Boolean b) {
                        json.writeBoolean(b);
                    } else if (value instanceof Integer i) {
                        json.writeNumber(i);
                    } else if (value instanceof BigDecimal n) {
                        json.writeNumber(n);
                    } else {
                        json.writeString(value.toString());
                    }
                }
                json.writeEndObject();
            }
            json.writeEndArray();
        });
    }

    /**
     * Writes the Frictionless Table Schema of the date dimension (https://specs.frictionlessdata.io/table-schema).
     *
     * @param table the table
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void tableSchema(DatesTable table, Writer out) throws IOException {
        requireNonNull(table, "table is null");
        requireNonNull(out, "out is null");
        document(out, json -> {
            json.writeStartObject();
            json.writeArrayFieldStart("fields");
            for (DateColumn column : table.columns()) {
                json.writeStartObject();
                json.writeStringField("name", column.name());
                json.writeStringField(
                        "type",
                        switch (column.type()) {
                            case DATE -> "date";
                            case INTEGER -> "integer";
                            case NUMBER -> "number";
                            case TEXT -> "string";
                            case BOOLEAN -> "boolean";
                        });
                json.writeStringField("description", column.description());
                json.writeStringField("sortBy", column.sortBy());
                json.writeBooleanField("visible", column.visible());
                json.writeBooleanField("additive", false);
                if (column.level().isPresent()) {
                    json.writeObjectFieldStart("hierarchy");
                    json.writeStringField("name", column.level().get().hierarchy());
                    json.writeNumberField("step", column.level().get().depth());
                    json.writeEndObject();
                }
                json.writeEndObject();
            }
            json.writeEndArray();
            texts(json, "missingValues", List.of(""));
            json.writeStringField("primaryKey", "date");
            json.writeEndObject();
        });
    }
}
