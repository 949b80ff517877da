package dev.mile.render.html;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import dev.mile.calendar.DateRange;
import dev.mile.internal.LocalFormat;
import dev.mile.measure.Value;
import dev.mile.render.layout.AxisLabels;
import dev.mile.render.layout.ChartData;
import dev.mile.render.layout.ExactText;
import dev.mile.render.layout.NumberFormatter;
import dev.mile.render.layout.ReadLabels;
import dev.mile.render.layout.ShownColumns;
import dev.mile.render.layout.StatusText;
import dev.mile.render.layout.TextWidth;
import dev.mile.render.layout.Trend;
import dev.mile.report.Chart;
import dev.mile.report.Explanation;
import dev.mile.report.Grid;
import dev.mile.report.ReportExplanation;
import java.io.IOException;
import java.io.StringWriter;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** What a page holds, as JSON that its script reads. The script adds nothing up: every figure and every text is here. */
final class PageData {
    private final Grid grid;
    private final Optional<ReportExplanation> explanation;
    private final JsonGenerator json;
    private final List<Integer> shown;
    private final LocalFormat local;
    private final List<NumberFormatter> numbers = new ArrayList<>();

    private PageData(PageReport report, JsonGenerator json) {
        this.grid = report.grid();
        this.explanation = report.explanation();
        this.json = json;
        this.shown = ShownColumns.of(grid.header());
        this.local = LocalFormat.of(grid.header().locale());
        for (int c = 0; c < grid.columns().size(); c++) {
            int at = c;
            List<Value> values =
                    grid.rows().stream().map(r -> r.values().get(at)).toList();
            numbers.add(NumberFormatter.of(
                    grid.columns().get(c), values, grid.header().locale()));
        }
    }

    /** Returns the reports as JSON that cannot close the element around it. */
    static String of(List<PageReport> reports) throws IOException {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = new JsonFactory().createGenerator(text)) {
            Grid.Header first = reports.get(0).grid().header();
            json.writeStartObject();
            json.writeStringField("locale", first.locale().toLanguageTag());
            json.writeStringField(
                    "under",
                    first.asOf()
                            .map(day -> "Actuals as of "
                                    + LocalFormat.of(first.locale()).date(day))
                            .orElse(""));
            json.writeArrayFieldStart("reports");
            for (PageReport report : reports) {
                new PageData(report, json).report();
            }
            json.writeEndArray();
            json.writeEndObject();
        }
        return text.toString()
                .replace("&", "\\u0026")
                .replace("<", "\\u003c")
                .replace(">", "\\u003e")
                .replace("\u2028", "\\u2028")
                .replace("\u2029", "\\u2029");
    }

    private void report() throws IOException {
        json.writeStartObject();
        json.writeStringField("title", TextWidth.sanitizeControls(grid.title()));
        if (grid.choice().isPresent()) {
            json.writeStringField(
                    "choice", TextWidth.sanitizeControls(grid.choice().get()));
        }
        json.writeArrayFieldStart("keys");
        for (Grid.Key key : grid.header().keys()) {
            json.writeStartObject();
            json.writeStringField("name", key.name());
            json.writeStringField("label", key.label());
            json.writeStringField("kind", key.kind().name().toLowerCase(Locale.ROOT));
            json.writeEndObject();
        }
        json.writeEndArray();
        columns();
        rows();
        explanations();
        texts(json, "notes", grid.notes());
        if (grid.header().chart().isPresent() && !grid.rows().isEmpty()) {
            chart(ChartData.of(grid, grid.header().chart().get()));
        }
        json.writeEndObject();
    }

    private void columns() throws IOException {
        ReadLabels read = ReadLabels.of(grid.header());
        json.writeArrayFieldStart("columns");
        for (int c : shown) {
            Grid.Column column = grid.columns().get(c);
            json.writeStartObject();
            json.writeStringField("name", column.header());
            json.writeStringField("part", column.role().name().toLowerCase(Locale.ROOT));
            json.writeStringField("label", column.label());
            json.writeStringField("member", read.member(column));
            json.writeStringField("key", column.member().orElse(""));
            json.writeStringField("unit", column.style().describe());
            json.writeStringField("definition", column.definition());
            json.writeBooleanField("bars", column.bars());
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    private void rows() throws IOException {
        ReadLabels read = ReadLabels.of(grid.header());
        json.writeArrayFieldStart("rows");
        for (Grid.Row row : grid.rows()) {
            json.writeStartObject();
            json.writeNumberField("k", row.kind().ordinal());
            texts(json, "l", row.labels());
            if (!row.labels().isEmpty() && row.kind() != Grid.RowKind.REST) {
                String last = row.labels().get(row.labels().size() - 1);
                String words = read.last(row);
                if (!last.isEmpty() && !words.equals(TextWidth.sanitizeControls(last))) {
                    json.writeStringField("s", words);
                }
            }
            json.writeArrayFieldStart("v");
            for (int c : shown) {
                String exact = ExactText.of(row, c);
                if (exact.isEmpty()) {
                    json.writeNull();
                } else {
                    json.writeString(exact);
                }
            }
            json.writeEndArray();
            json.writeArrayFieldStart("t");
            for (int c : shown) {
                shown(row, c);
            }
            json.writeEndArray();
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    /** Writes the text of a cell, or of a blank its kind: 0 nothing, 1 undefined, 2 unknown. */
    private void shown(Grid.Row row, int c) throws IOException {
        Value value = row.values().get(c);
        if (grid.columns().get(c).role() == Grid.ColumnRole.STATUS) {
            if (row.status(c).isPresent()) {
                json.writeString(StatusText.of(row.status(c).get()));
            } else {
                json.writeNumber(2);
            }
        } else if (value.isBlank()) {
            json.writeNumber(value.isNothing() ? 0 : value.equals(Value.UNDEFINED) ? 1 : 2);
        } else {
            json.writeString(numbers.get(c).of(value));
        }
    }

    // ---- the way to figures

    private void explanations() throws IOException {
        if (explanation.isEmpty()) {
            return;
        }
        Map<Explanation, Integer> ways = new LinkedHashMap<>();
        Set<ReportExplanation.Place> done = new HashSet<>();
        json.writeObjectFieldStart("explained");
        for (Grid.Row row : grid.rows()) {
            for (int c : shown) {
                ReportExplanation.Place place = ReportExplanation.place(grid.header(), row, c);
                if (row.kind() != Grid.RowKind.REST && done.add(place)) {
                    explanation(row, place, ways);
                }
            }
        }
        json.writeEndObject();
        json.writeArrayFieldStart("ways");
        for (Explanation way : ways.keySet()) {
            way(way.root());
        }
        json.writeEndArray();
    }

    private void explanation(Grid.Row row, ReportExplanation.Place place, Map<Explanation, Integer> ways)
            throws IOException {
        // the key that the script makes of the labels of a row and of a column
        json.writeArrayFieldStart(key(place));
        for (int c : shown) {
            boolean here = ReportExplanation.place(grid.header(), row, c).equals(place);
            Optional<Explanation> way = here ? explanation.orElseThrow().of(grid.header(), row, c) : Optional.empty();
            if (way.isPresent()) {
                json.writeNumber(ways.computeIfAbsent(way.get(), w -> ways.size()));
            } else {
                json.writeNull();
            }
        }
        json.writeEndArray();
    }

    private static String key(ReportExplanation.Place place) throws IOException {
        StringWriter text = new StringWriter();
        try (JsonGenerator key = new JsonFactory().createGenerator(text)) {
            key.writeStartArray();
            key.writeStartArray();
            for (String label : place.rows()) {
                key.writeString(label);
            }
            key.writeEndArray();
            key.writeString(place.column());
            key.writeEndArray();
        }
        return text.toString();
    }

    private void way(Explanation.Operand operand) throws IOException {
        json.writeStartObject();
        json.writeStringField("e", operand.text());
        if (!operand.value().isBlank()) {
            json.writeStringField(
                    "v", local.exact(new BigDecimal(operand.value().toString())));
        }
        if (operand.reason().isPresent()) {
            json.writeStringField("y", operand.reason().get());
        }
        if (!operand.steps().isEmpty()) {
            json.writeArrayFieldStart("w");
            for (Explanation.StepResult step : operand.steps()) {
                json.writeStartArray();
                json.writeString(step.step());
                json.writeString(days(step.days()));
                json.writeString(count(step));
                json.writeEndArray();
            }
            json.writeEndArray();
        }
        if (operand.rows().isPresent()) {
            json.writeStringField("r", operand.rows().get() + ": " + local.quantity(operand.rowCount(), "row"));
        }
        if (!operand.operands().isEmpty()) {
            json.writeArrayFieldStart("o");
            for (Explanation.Operand inner : operand.operands()) {
                way(inner);
            }
            json.writeEndArray();
        }
        json.writeEndObject();
    }

    private String days(DateRange days) {
        return days.isEmpty() ? "no days" : local.range(days.first(), days.last());
    }

    private String count(Explanation.StepResult step) {
        return step.days().isEmpty()
                ? ""
                : local.quantity(step.days().length(), "day")
                        + step.workingDays()
                                .map(days -> ", " + local.exact(days) + " working")
                                .orElse("");
    }

    // ---- charts

    private void chart(ChartData data) throws IOException {
        if (data.series().isEmpty()) {
            return;
        }
        AxisLabels words = AxisLabels.of(data.categories());
        Grid.Column column = data.series().get(0).column();
        json.writeObjectFieldStart("chart");
        json.writeStringField("kind", data.kind().word());
        texts(json, "categories", data.categories());
        texts(json, "ticks", words.ticks());
        texts(json, "groups", words.groups());
        json.writeNumberField("asOfAt", data.asOfAt());
        json.writeStringField("asOf", data.asOf());
        json.writeStringField("unit", column.style().describe());
        json.writeBooleanField("percent", column.style().isPercentage());
        json.writeNumberField("digits", column.style().scale().digits());
        json.writeStringField("note", "");
        if (!data.statuses().isEmpty()) {
            json.writeArrayFieldStart("statuses");
            for (var status : data.statuses()) {
                json.writeString(status.map(s -> s.word()).orElse(null));
            }
            json.writeEndArray();
        }
        if (data.unfinished().contains(true)) {
            json.writeArrayFieldStart("unfinished");
            for (boolean unfinished : data.unfinished()) {
                json.writeBoolean(unfinished);
            }
            json.writeEndArray();
        }
        json.writeArrayFieldStart("series");
        for (ChartData.Series series : data.series()) {
            series(data, series);
        }
        json.writeEndArray();
        json.writeEndObject();
    }

    private void series(ChartData data, ChartData.Series series) throws IOException {
        json.writeStartObject();
        json.writeStringField("label", series.label());
        json.writeStringField("short", series.withoutMember().label());
        json.writeStringField("m", series.member());
        json.writeNumberField("c", shown.indexOf(series.at()));
        json.writeNumberField("actual", series.actual());
        json.writeArrayFieldStart("v");
        for (Double value : series.values()) {
            if (value == null) {
                json.writeNull();
            } else {
                json.writeNumber(value);
            }
        }
        json.writeEndArray();
        json.writeArrayFieldStart("r");
        for (int row : series.rows()) {
            json.writeNumber(row);
        }
        json.writeEndArray();
        if (!shown.contains(series.at())) {
            // a column that the table does not show
            texts(
                    json,
                    "t",
                    series.rows().stream()
                            .map(r -> r < 0
                                    ? ""
                                    : numbers.get(series.at())
                                            .of(grid.rows().get(r).values().get(series.at())))
                            .toList());
        }
        if (data.kind() == Chart.Kind.TREND) {
            fits(data, series);
        }
        json.writeEndObject();
    }

    private void fits(ChartData data, ChartData.Series series) throws IOException {
        json.writeArrayFieldStart("fits");
        for (Trend trend : Trend.of(series)) {
            json.writeStartObject();
            json.writeStringField("kind", trend.exponential() ? "exponential" : "linear");
            json.writeStringField("equation", trend.equation(data.locale()));
            json.writeArrayFieldStart("v");
            for (int i = 0; i < data.categories().size(); i++) {
                json.writeNumber(trend.at(i + 1));
            }
            json.writeEndArray();
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    private static void texts(JsonGenerator json, String name, List<String> texts) throws IOException {
        json.writeFieldName(name);
        json.writeArray(texts.toArray(String[]::new), 0, texts.size());
    }
}
