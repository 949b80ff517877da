package dev.mile.jackson;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.databind.JsonSerializer;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.module.SimpleModule;
import dev.mile.SourceLocation;
import dev.mile.render.text.JsonWriter;
import dev.mile.report.Explanation;
import dev.mile.report.Finding;
import dev.mile.report.Grid;
import java.io.IOException;
import java.util.Locale;

/**
 * Teaches an {@code ObjectMapper} to write what sessions answer: {@code mapper.registerModule(new MileModule())}. In a service whose
 * framework collects modules, a bean of this class is enough.
 *
 * <ul>
 *   <li>{@link Grid}: what {@code mile report --format json} writes: keys, columns, rows with their kind, labels and values, notes
 *   <li>{@link Grid.Cells}: an object with the labels and values of the row, by the headers of data files
 *   <li>{@link Explanation}: what {@code mile explain --format json} writes, a tree
 *   <li>{@link Finding}: severity, subject, location (file, line, column), text and remedy
 * </ul>
 *
 * <p>A number that a double cannot hold is written as a text, so that no reader loses digits. Blanks are null. Nothing is read from JSON.
 */
public final class MileModule extends SimpleModule {
    private static final long serialVersionUID = 1L;

    /** Returns the module. */
    public MileModule() {
        super("mile");
        addSerializer(Grid.class, of(JsonWriter::grid));
        addSerializer(Grid.Cells.class, of(JsonWriter::cells));
        addSerializer(Explanation.class, of(JsonWriter::explanation));
        addSerializer(Finding.class, of(MileModule::finding));
    }

    @FunctionalInterface
    private interface Writer<T> {
        void write(T value, JsonGenerator json) throws IOException;
    }

    private static <T> JsonSerializer<T> of(Writer<T> writer) {
        return new JsonSerializer<>() {
            @Override
            public void serialize(T value, JsonGenerator json, SerializerProvider provider) throws IOException {
                writer.write(value, json);
            }
        };
    }

    private static void finding(Finding finding, JsonGenerator json) throws IOException {
        json.writeStartObject();
        json.writeStringField("severity", finding.severity().name().toLowerCase(Locale.ROOT));
        json.writeStringField("subject", finding.subject());
        if (finding.location().isPresent()) {
            SourceLocation location = finding.location().get();
            json.writeObjectFieldStart("location");
            json.writeStringField("file", location.file());
            if (location.line().isPresent()) {
                json.writeNumberField("line", location.line().getAsInt());
            }
            if (location.column().isPresent()) {
                json.writeNumberField("column", location.column().getAsInt());
            }
            json.writeEndObject();
        }
        json.writeStringField("text", finding.text());
        json.writeStringField("remedy", finding.remedy().orElse(null));
        json.writeEndObject();
    }
}
