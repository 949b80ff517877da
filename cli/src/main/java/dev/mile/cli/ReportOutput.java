package dev.mile.cli;

import dev.mile.ModelException;
import dev.mile.engine.Engine;
import dev.mile.render.GridCsv;
import dev.mile.render.GridText;
import dev.mile.render.JsonWriter;
import dev.mile.report.Grid;
import dev.mile.report.GridSink;
import dev.mile.report.Report;
import dev.mile.report.ReportOptions;
import dev.mile.report.Session;
import dev.mile.report.distributed.ClusterEngine;
import java.awt.Desktop;
import java.awt.GraphicsEnvironment;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import picocli.CommandLine.Option;

/** Where a report goes: files by their endings, all from one computation, or standard output. */
final class ReportOutput {
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
            format(target);
            AtomicFiles.checkFolder(target);
        }
        if (!List.of("text", "csv", "json").contains(as)) {
            throw ModelException.of("'%s' is not a format for standard output; expected text, csv or json", as);
        }
    }

    private static ReportFormat format(Path target) {
        return ReportFormat.of(target)
                .orElseThrow(() -> ModelException.of(
                        "'%s' has no ending that a report can be written to; expected %s",
                        target,
                        Arrays.stream(ReportFormat.values())
                                .map(ReportFormat::ending)
                                .collect(Collectors.joining(", "))));
    }

    /** Computes the report and writes it. */
    void write(Session session, Report report, Engine engine, BaseCommand command) {
        try {
            if (open && output.isEmpty()) {
                output.add(Files.createTempFile("mile", ".html"));
            }
            List<Path> here = new ArrayList<>(output);
            if (engine instanceof ClusterEngine cluster) {
                here.removeIf(target -> format(target) == ReportFormat.PARQUET);
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
    private void writeOn(ClusterEngine cluster, Session session, Report report, Path target, BaseCommand command) {
        if (totals) {
            throw ModelException.of(
                    "a cluster writes %s without subtotals, which need all rows in one place; leave --totals out, or write .csv",
                    target);
        }
        cluster.write(session.distribute(report), target);
        command.info("wrote " + target);
    }

    private void write(Session session, Report report, List<Path> targets, BaseCommand command) throws IOException {
        if (targets.size() == 1 && !windows && format(targets.get(0)).streams()) {
            Path target = targets.get(0);
            List<String> notes = new ArrayList<>();
            write(sink -> session.report(report, new NotesAside(sink, notes)), target, command);
            if (!format(target).hasNotes()) {
                notes.forEach(command::info);
            }
        } else if (targets.isEmpty() && as.equals("csv")) {
            List<String> notes = new ArrayList<>();
            session.report(report, new NotesAside(new GridCsv(totals, command.out()), notes));
            notes.forEach(command::info);
        } else {
            Grid grid = session.report(report, windows ? ReportOptions.withWindows() : ReportOptions.DEFAULT);
            for (Path target : targets) {
                write(sink -> replay(grid, sink), target, command);
            }
            if (targets.stream().anyMatch(target -> !format(target).hasNotes())) {
                grid.notes().forEach(command::info);
            }
            if (targets.isEmpty()) {
                print(grid, command);
            }
        }
    }

    private void write(Consumer<GridSink> report, Path target, BaseCommand command) {
        format(target).write(report, totals, target);
        command.info("wrote " + target);
    }

    private static void replay(Grid grid, GridSink sink) {
        sink.header(grid.header());
        grid.rows().forEach(sink::row);
        sink.notes(grid.notes());
    }

    private static void show(Path target, BaseCommand command) {
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
        command.info("there is no viewer here; open " + target.toAbsolutePath() + " yourself");
    }

    private void print(Grid grid, BaseCommand command) throws IOException {
        switch (as) {
            case "text" -> command.out().print(new GridText(command.useColour(), BaseCommand.width()).write(grid));
            case "csv" -> GridCsv.write(grid, totals, command.out());
            default -> JsonWriter.grid(grid, command.out());
        }
    }
}
