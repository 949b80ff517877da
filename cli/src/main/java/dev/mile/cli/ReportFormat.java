package dev.mile.cli;

import dev.mile.render.chart.GridChart;
import dev.mile.render.excel.GridWorkbook;
import dev.mile.render.html.GridPage;
import dev.mile.render.text.GridCsv;
import dev.mile.render.text.GridText;
import dev.mile.render.text.JsonWriter;
import dev.mile.report.Grid;
import dev.mile.report.GridSink;
import java.io.Writer;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;

/** The files that a report can be written to. */
enum ReportFormat {
    HTML,
    XLSX,
    CSV,
    PARQUET,
    JSON,
    TXT,
    PNG,
    SVG;

    /** Returns the format that the ending of a file names; empty where it names none. */
    static Optional<ReportFormat> of(Path target) {
        String extension = AtomicFiles.extension(target);
        return Arrays.stream(values())
                .filter(format -> format.ending().equals("." + extension))
                .findFirst();
    }

    /** Returns the ending of its files: {@code .xlsx}. */
    String ending() {
        return "." + name().toLowerCase(Locale.ROOT);
    }

    /** Returns whether rows are written as they come, so that the report need not fit into memory. */
    boolean streams() {
        return this == CSV || this == XLSX || this == PARQUET;
    }

    /** Returns whether its files have room for the notes of a report. */
    boolean hasNotes() {
        return this != CSV && this != PARQUET;
    }

    /** Returns whether one file holds several reports. */
    boolean holdsSeveral() {
        return this == HTML || this == XLSX || this == TXT;
    }

    /**
     * Writes reports; only a format that holds several takes more than one.
     *
     * @param totals whether data files hold subtotals too
     */
    void write(ComputedReports computed, boolean totals, Path target) {
        Grid grid = computed.grids().get(0);
        switch (this) {
            case HTML -> AtomicFiles.text(target, out -> GridPage.write(computed.title(), computed.explained(), out));
            case XLSX -> {
                if (computed.grids().size() > 1) {
                    AtomicFiles.stream(target, out -> GridWorkbook.write(computed.title(), computed.grids(), out));
                } else {
                    stream(sink -> replay(grid, sink), totals, target);
                }
            }
            case CSV, PARQUET -> stream(sink -> replay(grid, sink), totals, target);
            case JSON -> AtomicFiles.text(target, out -> JsonWriter.grid(grid, computed.days(), (Writer) out));
            case TXT ->
                AtomicFiles.text(target, out -> {
                    GridText text = new GridText(false, Integer.MAX_VALUE);
                    out.append(computed.grids().stream().map(text::write).collect(Collectors.joining("\n")));
                });
            case PNG -> AtomicFiles.stream(target, out -> GridChart.png(grid, out));
            case SVG -> AtomicFiles.text(target, out -> GridChart.svg(grid, (Writer) out));
        }
    }

    private static void replay(Grid grid, GridSink sink) {
        sink.header(grid.header());
        grid.rows().forEach(sink::row);
        sink.notes(grid.notes());
    }

    /**
     * Writes a report whose rows come as they are computed, in a format that {@linkplain #streams() takes them so}.
     *
     * @param report hands the report to a sink
     * @param totals whether data files hold subtotals too
     */
    void stream(Consumer<GridSink> report, boolean totals, Path target) {
        switch (this) {
            case CSV -> AtomicFiles.text(target, out -> report.accept(new GridCsv(totals, out)));
            case PARQUET ->
                AtomicFiles.file(target, file -> {
                    try (GridParquet parquet =
                            new GridParquet(totals, file.toAbsolutePath().getParent())) {
                        report.accept(parquet);
                        parquet.write(file);
                    }
                });
            case XLSX ->
                AtomicFiles.stream(target, out -> {
                    try (GridWorkbook workbook = new GridWorkbook(out)) {
                        report.accept(workbook);
                    }
                });
            default -> throw new IllegalStateException(this + " takes no rows as they come");
        }
    }
}
