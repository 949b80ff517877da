package dev.mile.render;

import static java.util.Objects.requireNonNull;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import dev.mile.internal.LocalFormat;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import java.io.IOException;
import java.io.InputStream;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Writes a report as one HTML file that needs no network: rows open and close, sort and filter; the chart is part of it. Each cell
 * carries the exact value beside the text that people read.
 */
public final class GridPage {
    private GridPage() {}

    /**
     * Writes the page.
     *
     * @param grid the report that was computed
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void write(Grid grid, Appendable out) throws IOException {
        requireNonNull(grid, "grid is null");
        requireNonNull(out, "out is null");
        String template;
        try (InputStream in = GridPage.class.getResourceAsStream("page.html")) {
            template = new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
        String charts = grid.header().chart().isEmpty() || grid.rows().isEmpty() ? "" : charts(grid);
        int at = 0;
        for (int mark = template.indexOf("{{"); mark >= 0; mark = template.indexOf("{{", at)) {
            int end = template.indexOf("}}", mark);
            out.append(template, at, mark);
            switch (template.substring(mark + 2, end)) {
                case "title" -> out.append(escaped(TextWidth.sanitizeControls(grid.title())));
                case "choice" ->
                    out.append(grid.choice()
                            .map(choice -> "<p class=\"choice\" dir=\"auto\">"
                                    + escaped(TextWidth.sanitizeControls(choice)) + "</p>")
                            .orElse(""));
                case "charts" -> out.append(charts);
                default -> out.append(data(grid));
            }
            at = end + 2;
        }
        out.append(template, at, template.length());
    }

    private static String charts(Grid grid) throws IOException {
        return "<section class=\"chart\"><h2>Chart</h2><div class=\"light\">" + GridChart.svg(grid, ChartTheme.LIGHT)
                + "</div><div class=\"dark\" aria-hidden=\"true\">"
                + GridChart.svg(grid, ChartTheme.DARK) + "</div></section>";
    }

    static String escaped(String text) {
        return text.replace("&", "&amp;")
                .replace("<", "&lt;")
                .replace(">", "&gt;")
                .replace("\"", "&quot;")
                .replace("'", "&#39;");
    }

    /** Returns the grid as JSON that cannot close the element around it. */
    private static String data(Grid grid) throws IOException {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = new JsonFactory().createGenerator(text)) {
            json.writeStartObject();
            json.writeStringField(
                    "under",
                    grid.header()
                            .asOf()
                            .map(day -> "as of "
                                    + LocalFormat.of(grid.header().locale()).date(day))
                            .orElse(""));
            json.writeArrayFieldStart("keys");
            for (Grid.Key key : grid.header().keys()) {
                json.writeStartObject();
                json.writeStringField("name", key.name());
                json.writeStringField("label", key.label());
                json.writeStringField("kind", key.kind().name().toLowerCase(Locale.ROOT));
                json.writeEndObject();
            }
            json.writeEndArray();
            columns(grid, json);
            rows(grid, json);
            JsonWriter.texts(json, "notes", grid.notes());
            json.writeEndObject();
        }
        return text.toString()
                .replace("&", "\\u0026")
                .replace("<", "\\u003c")
                .replace(">", "\\u003e")
                .replace("\u2028", "\\u2028")
                .replace("\u2029", "\\u2029");
    }

    private static void columns(Grid grid, JsonGenerator json) throws IOException {
        json.writeArrayFieldStart("columns");
        for (Grid.Column column : grid.columns()) {
            json.writeStartObject();
            json.writeStringField("name", column.header());
            json.writeStringField("part", column.role().name().toLowerCase(Locale.ROOT));
            json.writeStringField("label", column.label());
            json.writeStringField("member", column.memberLabel());
            json.writeStringField("unit", column.style().describe());
            json.writeStringField("definition", column.definition());
            json.writeBooleanField("bars", column.bars());
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    private static void rows(Grid grid, JsonGenerator json) throws IOException {
        List<NumberFormatter> numbers = new ArrayList<>();
        for (int c = 0; c < grid.columns().size(); c++) {
            int at = c;
            List<Value> values =
                    grid.rows().stream().map(r -> r.values().get(at)).toList();
            numbers.add(NumberFormatter.of(grid.columns().get(c), values, grid.header().locale()));
        }
        json.writeArrayFieldStart("rows");
        for (Grid.Row row : grid.rows()) {
            json.writeStartObject();
            json.writeNumberField("k", row.kind().ordinal());
            JsonWriter.texts(json, "l", row.labels());
            List<String> exact = new ArrayList<>();
            List<String> shown = new ArrayList<>();
            for (int c = 0; c < grid.columns().size(); c++) {
                Grid.Column column = grid.columns().get(c);
                Value value = row.values().get(c);
                String text = GridCsv.value(row, c);
                exact.add(text.isEmpty() ? null : text);
                shown.add(
                        column.role() == Grid.ColumnRole.STATUS
                                ? row.status(c).map(StatusText::of).orElse("")
                                : numbers.get(c).of(value));
            }
            JsonWriter.texts(json, "v", exact);
            JsonWriter.texts(json, "t", shown);
            json.writeEndObject();
        }
        json.writeEndArray();
    }
}
