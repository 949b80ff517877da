package dev.mile.cli;

import dev.mile.render.GridChart;
import dev.mile.render.GridCsv;
import dev.mile.render.GridPage;
import dev.mile.render.GridText;
import dev.mile.render.GridWorkbook;
import dev.mile.render.JsonWriter;
import dev.mile.report.Grid;
import dev.mile.report.GridCollector;
import dev.mile.report.GridSink;
import java.io.Writer;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;

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

    /**
     * Writes a report.
     *
     * @param report hands the report to a sink
     * @param totals whether data files hold subtotals too
     */
    void write(Consumer<GridSink> report, boolean totals, Path target) {
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
            case JSON -> AtomicFiles.text(target, out -> JsonWriter.grid(grid(report), (Writer) out));
            case TXT ->
                AtomicFiles.text(target, out -> out.append(new GridText(false, Integer.MAX_VALUE).write(grid(report))));
            case HTML -> AtomicFiles.text(target, out -> GridPage.write(grid(report), out));
            case PNG -> AtomicFiles.stream(target, out -> GridChart.png(grid(report), out));
            case SVG -> AtomicFiles.text(target, out -> GridChart.svg(grid(report), (Writer) out));
        }
    }

    private static Grid grid(Consumer<GridSink> report) {
        GridCollector collector = new GridCollector();
        report.accept(collector);
        return collector.grid();
    }
}
