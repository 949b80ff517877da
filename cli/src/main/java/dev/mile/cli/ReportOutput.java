package dev.mile.cli;

import dev.mile.calendar.MileException;
import dev.mile.fact.Engine;
import dev.mile.render.GridChart;
import dev.mile.render.GridCsv;
import dev.mile.render.GridPage;
import dev.mile.render.GridText;
import dev.mile.render.GridWorkbook;
import dev.mile.render.Json;
import dev.mile.report.ClusterEngine;
import dev.mile.report.Grid;
import dev.mile.report.Report;
import dev.mile.report.Session;
import java.awt.Desktop;
import java.awt.GraphicsEnvironment;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Option;

/** Where a report goes: files by their endings, all from one computation, or standard output. */
final class ReportOutput {
    private static final List<String> ENDINGS = List.of("html", "xlsx", "csv", "parquet", "json", "txt", "png", "svg");

    @Option(names = "--windows", description = "JSON: with each value the days that it looked at.")
    private boolean windows;

    @Option(
            names = "--open",
            description = "Shows the file that is written (a page where none is named) in your viewer.")
    private boolean open;

    @Option(names = "--totals", description = "CSV: subtotals too, their finer columns empty.")
    private boolean totals;

    @Option(
            names = {"-o", "--output"},
            paramLabel = "FILE",
            description =
                    "Write a file; its ending chooses the format: .html, .xlsx, .csv, .parquet, .json, .txt, .png, .svg. May be repeated.")
    private List<Path> output = new ArrayList<>();

    @Option(
            names = "--as",
            paramLabel = "FORMAT",
            description = "The format on standard output: text (default), csv or json.")
    private String as = "text";

    /** Refuses formats that there are not, and folders that are not there, before anything is read. */
    void check() {
        for (Path target : output) {
            if (!ENDINGS.contains(Output.ending(target))) {
                throw MileException.model(
                        "'%s' has no ending that a report can be written to; expected %s",
                        target, ENDINGS.stream().map(ending -> "." + ending).collect(Collectors.joining(", ")));
            }
            Output.checkFolder(target);
        }
        if (!List.of("text", "csv", "json").contains(as)) {
            throw MileException.model("'%s' is not a format for standard output; expected text, csv or json", as);
        }
    }

    /** Computes the report and writes it. */
    void write(Session session, Report report, Engine engine, Shared command) {
        try {
            if (open && output.isEmpty()) {
                output.add(Files.createTempFile("mile", ".html"));
            }
            List<Path> here = new ArrayList<>(output);
            if (engine instanceof ClusterEngine cluster) {
                here.removeIf(target -> Output.ending(target).equals("parquet"));
                for (Path target : output) {
                    if (!here.contains(target)) {
                        writeOn(cluster, session, report, target, command);
                    }
                }
            }
            if (!here.isEmpty() || output.isEmpty()) {
                write(session, report, here, command);
            }
            if (open) {
                show(output.get(0), command);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Writes a folder of parts from where the rows are. */
    private void writeOn(ClusterEngine cluster, Session session, Report report, Path target, Shared command) {
        if (totals) {
            throw MileException.model(
                    "a cluster writes %s without subtotals, which need all rows in one place; leave --totals out, or write .csv",
                    target);
        }
        cluster.write(session, report, target);
        command.say("wrote " + target);
    }

    private void write(Session session, Report report, List<Path> targets, Shared command) throws IOException {
        if (targets.size() == 1 && !windows && streams(targets.get(0))) {
            stream(session, report, targets.get(0), command);
        } else if (targets.isEmpty() && as.equals("csv")) {
            session.report(report, new GridCsv(totals, command.out()));
        } else {
            Grid grid = windows ? session.reportWithWindows(report) : session.report(report);
            for (Path target : targets) {
                write(grid, target, command);
            }
            if (targets.isEmpty()) {
                print(grid, command);
            }
        }
    }

    private static boolean streams(Path target) {
        return List.of("csv", "xlsx", "parquet").contains(Output.ending(target));
    }

    private void stream(Session session, Report report, Path target, Shared command) {
        if (Output.ending(target).equals("csv")) {
            Output.text(target, out -> session.report(report, new GridCsv(totals, out)));
        } else if (Output.ending(target).equals("parquet")) {
            Output.file(target, file -> {
                try (GridParquet parquet =
                        new GridParquet(totals, file.toAbsolutePath().getParent())) {
                    session.report(report, parquet);
                    parquet.write(file);
                }
            });
        } else {
            Output.stream(target, out -> {
                try (GridWorkbook workbook = new GridWorkbook(out)) {
                    session.report(report, workbook);
                }
            });
        }
        command.say("wrote " + target);
    }

    private static void show(Path target, Shared command) {
        if (!GraphicsEnvironment.isHeadless()
                && Desktop.isDesktopSupported()
                && Desktop.getDesktop().isSupported(Desktop.Action.OPEN)) {
            try {
                Desktop.getDesktop().open(target.toFile());
                return;
            } catch (IOException e) {
                // no program is known for the file
            }
        }
        command.say("there is no viewer here; open " + target.toAbsolutePath() + " yourself");
    }

    private void write(Grid grid, Path target, Shared command) {
        switch (Output.ending(target)) {
            case "csv" -> Output.text(target, out -> GridCsv.write(grid, totals, out));
            case "parquet" ->
                Output.file(target, file -> {
                    try (GridParquet parquet =
                            new GridParquet(totals, file.toAbsolutePath().getParent())) {
                        parquet.head(grid.head());
                        grid.rows().forEach(parquet::row);
                        parquet.write(file);
                    }
                });
            case "json" -> Output.text(target, out -> Json.grid(grid, (Writer) out));
            case "txt" -> Output.text(target, out -> out.append(new GridText(false, Integer.MAX_VALUE).write(grid)));
            case "html" -> Output.text(target, out -> GridPage.write(grid, out));
            case "xlsx" -> Output.stream(target, out -> GridWorkbook.write(grid, out));
            case "png" -> Output.stream(target, out -> GridChart.png(grid, out));
            case "svg" -> Output.text(target, out -> GridChart.svg(grid, (Writer) out));
            default -> throw new IllegalStateException(target + " was refused before");
        }
        command.say("wrote " + target);
    }

    private void print(Grid grid, Shared command) throws IOException {
        switch (as) {
            case "text" -> command.out().print(new GridText(command.colour(), Shared.width()).write(grid));
            case "csv" -> GridCsv.write(grid, totals, command.out());
            default -> Json.grid(grid, command.out());
        }
    }
}
