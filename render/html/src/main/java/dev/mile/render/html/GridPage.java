package dev.mile.render.html;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.internal.Messages;
import dev.mile.render.layout.ColumnLimit;
import dev.mile.render.layout.TextWidth;
import dev.mile.report.Grid;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Writes reports as one HTML file that needs no network: a member that is chosen in one is chosen in all that have its dimension,
 * rows open and close, charts answer, and each figure says how it came about. Each cell carries the exact value beside the text that
 * people read.
 */
public final class GridPage {
    /** What a browser opens without a pause. */
    private static final long MOST_BYTES = 50_000_000;

    private static final String CREDIT = "Charts: Apache ECharts 6.1.0, Apache License 2.0.";

    private GridPage() {}

    /**
     * Writes a page of one report.
     *
     * @param grid the report that was computed
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void write(Grid grid, Appendable out) throws IOException {
        requireNonNull(grid, "grid is null");
        write(grid.title(), List.of(new PageReport(grid, Optional.empty())), out);
    }

    /**
     * Writes a page of several reports.
     *
     * @param title what people read above them
     * @param reports the reports, at least one
     * @param out where it is written
     * @throws MileException if the page would be larger than 50 MB, or a report has more than 1,000 columns
     * @throws IOException if it cannot be written
     */
    public static void write(String title, List<PageReport> reports, Appendable out) throws IOException {
        requireNonNull(title, "title is null");
        requireNonNull(reports, "reports is null");
        requireNonNull(out, "out is null");
        reports.forEach(report -> ColumnLimit.require(report.grid().columns().size(), ColumnLimit.SHOWN, "a page"));
        String data = PageData.of(reports);
        if (data.length() > MOST_BYTES) {
            throw tooLarge(reports, data.length());
        }
        boolean charts = data.contains("\"chart\":{");
        String template = resource("page.html");
        int at = 0;
        for (int mark = template.indexOf("{{"); mark >= 0; mark = template.indexOf("{{", at)) {
            int end = template.indexOf("}}", mark);
            out.append(template, at, mark);
            out.append(
                    switch (template.substring(mark + 2, end)) {
                        case "title" -> escaped(TextWidth.sanitizeControls(title));
                        case "style" -> resource("page.css");
                        case "script" -> resource("page.js");
                        case "charts" -> charts ? "<script>\n" + resource("echarts.js") + "\n</script>" : "";
                        case "credit" -> charts ? CREDIT : "";
                        default -> data;
                    });
            at = end + 2;
        }
        out.append(template, at, template.length());
    }

    private static MileException tooLarge(List<PageReport> reports, long bytes) {
        Grid largest = reports.stream()
                .map(PageReport::grid)
                .max(Comparator.comparingLong(
                        grid -> (long) grid.rows().size() * grid.columns().size()))
                .orElseThrow();
        return ModelException.of(
                "the page would have %d MB, and browsers open no more than 50 without a pause; the report '%s' has most of it, %s: leave"
                        + " it out, show less of it with --when, --where or coarser rows, or write a workbook (-o report.xlsx)",
                bytes / 1_000_000,
                largest.title(),
                Messages.quantity(largest.rows().size(), "row"));
    }

    private static String resource(String name) throws IOException {
        try (InputStream in = GridPage.class.getResourceAsStream("page/" + name)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    static String escaped(String text) {
        return text.replace("&", "&amp;")
                .replace("<", "&lt;")
                .replace(">", "&gt;")
                .replace("\"", "&quot;")
                .replace("'", "&#39;");
    }
}
