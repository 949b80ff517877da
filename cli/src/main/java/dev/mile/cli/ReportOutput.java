package dev.mile.cli;

import dev.mile.DataException;
import dev.mile.ModelException;
import dev.mile.engine.DataSchema;
import dev.mile.engine.Engine;
import dev.mile.engine.Source;
import dev.mile.render.text.GridChanges;
import dev.mile.render.text.GridCsv;
import dev.mile.render.text.GridSnapshot;
import dev.mile.render.text.GridText;
import dev.mile.render.text.JsonWriter;
import dev.mile.report.Grid;
import dev.mile.report.Report;
import dev.mile.report.ReportOptions;
import dev.mile.report.Session;
import dev.mile.report.distributed.ClusterEngine;
import dev.mile.sql.files.SourceFiles;
import java.awt.Desktop;
import java.awt.GraphicsEnvironment;
import java.io.File;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
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

    @Option(
            names = "--days",
            description = "JSON: with what its facts have on each day, so that --since can tell which changed.")
    private boolean days;

    @Option(
            names = "--since",
            paramLabel = "FILE",
            description = "What changed since an earlier run, which wrote the file with -o FILE.json --days.")
    private Path since;

    @Option(names = "--totals", description = "CSV: subtotals too, their finer columns empty.")
    private boolean totals;

    @Option(
            names = {"-o", "--output"},
            paramLabel = "FILE",
            description = {
                "Write a file; its ending chooses the format: .html, .xlsx, .csv, .parquet, .json, .txt, .png, .svg.",
                "A folder, with / at its end, gets a CSV file for each report. May be repeated."
            })
    private List<String> output = new ArrayList<>();

    @Option(names = "--no-pager", description = "Write long reports to the terminal at once.")
    private boolean noPager;

    @Option(
            names = "--as",
            paramLabel = "FORMAT",
            description = "The format on standard output: text (default), csv or json.")
    private String as = "text";

    /** Sets the files to write. */
    void to(List<String> files) {
        output = files;
    }

    /**
     * Refuses formats that there are not, and folders that are not there, before anything is read.
     *
     * @param reports how many reports are written
     */
    void check(int reports) {
        if (output.stream().distinct().count() < output.size()) {
            throw ModelException.of("one file is named twice by -o; name it once");
        }
        for (String target : output) {
            Path path = Path.of(target);
            AtomicFiles.checkFolder(path);
            if (isFolder(target)) {
                continue;
            }
            ReportFormat format = format(path);
            boolean oneForEach = since != null && format == ReportFormat.CSV;
            if ((reports > 1 || since != null) && !format.holdsSeveral() && !oneForEach) {
                throw ModelException.of(
                        "'%s' holds one report, and there are %s; write a folder (-o folder/), a workbook (.xlsx), a page (.html) or a"
                                + " text (.txt)",
                        target, since == null ? reports : "two, of the figures and of the days that changed");
            }
        }
        if (!List.of("text", "csv", "json").contains(as)) {
            throw ModelException.of("'%s' is not a format for standard output; expected text, csv or json", as);
        }
        if (since != null && (reports > 1 || days || as.equals("json"))) {
            throw ModelException.of(
                    "--since compares one report, and writes no JSON; name one report, and leave --days and --as json to a run of"
                            + " its own");
        }
        if (days && !as.equals("json") && output.stream().noneMatch(target -> target.endsWith(".json"))) {
            throw ModelException.of("--days goes into JSON, and none is written; add -o last.json");
        }
        if (reports > 1 && !as.equals("text") && output.isEmpty()) {
            throw ModelException.of(
                    "--as %s writes one report, and there are %d; write a folder (-o folder/)", as, reports);
        }
    }

    /**
     * Refuses to write a report over the data that it is computed from.
     *
     * @throws dev.mile.MileException if a file is one of a source
     */
    void checkNotOver(DataSchema schema) {
        for (String target : output) {
            Path path = Path.of(target).toAbsolutePath().normalize();
            schema.sources().forEach((table, source) -> {
                if (source instanceof Source.Files files
                        && Files.exists(path)
                        && SourceFiles.there(files.pattern())
                        && SourceFiles.of(files.pattern()).stream()
                                .anyMatch(file ->
                                        file.toAbsolutePath().normalize().equals(path))) {
                    throw ModelException.of(
                            "%s is the data of '%s'; write the report to another file", path.getFileName(), table);
                }
            });
        }
    }

    /** A folder has a slash at its end, or is there. */
    private static boolean isFolder(String target) {
        return target.endsWith("/") || target.endsWith(File.separator) || Files.isDirectory(Path.of(target));
    }

    private static ReportFormat format(Path target) {
        return ReportFormat.of(target)
                .orElseThrow(() -> ModelException.of(
                        "'%s' has no ending that a report can be written to; expected %s, or a folder with / at its end",
                        target,
                        Arrays.stream(ReportFormat.values())
                                .map(ReportFormat::ending)
                                .collect(Collectors.joining(", "))));
    }

    /**
     * Computes reports and writes them.
     *
     * @param title what people read above several
     * @return the labels of closed periods that changed since the earlier run that is asked for
     */
    List<String> write(Session session, String title, List<Report> reports, Engine engine, BaseCommand command) {
        try {
            if (open && output.isEmpty()) {
                output.add(ShownPage.newFile().toString());
            }
            List<String> here = new ArrayList<>(output);
            if (engine instanceof ClusterEngine cluster && reports.size() == 1) {
                here.removeIf(target -> !isFolder(target) && format(Path.of(target)) == ReportFormat.PARQUET);
                for (String target : output) {
                    if (!here.contains(target)) {
                        writeOn(cluster, session, reports.get(0), Path.of(target), command);
                    }
                }
            }
            List<String> closed = List.of();
            if (since != null) {
                Report report = reports.get(0);
                GridSnapshot before = GridSnapshot.read(since);
                GridChanges changes = GridChanges.between(before, session.report(report), session.factDays(report));
                write(ComputedReports.of(report.name(), changes), here, command);
                closed = changes.closedPeriods();
            } else if (!here.isEmpty() || output.isEmpty()) {
                write(session, title, reports, here, command);
            }
            if (open) {
                show(Path.of(output.get(0)), command);
            }
            return closed;
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

    private void write(Session session, String title, List<Report> reports, List<String> targets, BaseCommand command)
            throws IOException {
        boolean one = reports.size() == 1;
        boolean streams = one && !windows && targets.size() == 1 && !isFolder(targets.get(0));
        if (streams && format(Path.of(targets.get(0))).streams()) {
            Path target = Path.of(targets.get(0));
            List<String> notes = new ArrayList<>();
            format(target).stream(sink -> session.report(reports.get(0), new NotesAside(sink, notes)), totals, target);
            command.info("wrote " + target);
            if (!format(target).hasNotes()) {
                notes.forEach(command::info);
            }
        } else if (one && !windows && targets.isEmpty() && as.equals("csv")) {
            List<String> notes = new ArrayList<>();
            session.report(reports.get(0), new NotesAside(new GridCsv(totals, command.out()), notes));
            notes.forEach(command::info);
        } else {
            ReportOptions options = windows ? ReportOptions.DEFAULT.withWindows() : ReportOptions.DEFAULT;
            write(
                    ComputedReports.of(
                            title,
                            reports,
                            session.reports(reports, options),
                            session,
                            days ? session.factDays(reports.get(0)) : List.of()),
                    targets,
                    command);
        }
    }

    private void write(ComputedReports computed, List<String> targets, BaseCommand command) throws IOException {
        boolean notesAside = false;
        for (String target : targets) {
            if (isFolder(target)) {
                writeFolder(computed, Path.of(target), command);
                notesAside = true;
            } else if (computed.grids().size() > 1 && !format(Path.of(target)).holdsSeveral()) {
                writeEach(computed, Path.of(target), command);
                notesAside = true;
            } else {
                format(Path.of(target)).write(computed, totals, Path.of(target));
                command.info("wrote " + target);
                notesAside |= !format(Path.of(target)).hasNotes();
            }
        }
        if (notesAside) {
            computed.grids().stream()
                    .flatMap(grid -> grid.notes().stream())
                    .distinct()
                    .forEach(command::info);
        }
        if (targets.isEmpty()) {
            print(computed, command);
        }
    }

    /** Writes a CSV file for each report, under its name. */
    private void writeFolder(ComputedReports computed, Path folder, BaseCommand command) {
        try {
            Files.createDirectories(folder);
        } catch (IOException e) {
            throw DataException.of("cannot make the folder %s: %s; choose another", folder, e.getMessage())
                    .withCause(e);
        }
        for (int i = 0; i < computed.grids().size(); i++) {
            Path file = folder.resolve(computed.names().get(i).replaceAll("[^\\p{L}\\p{N}_-]", "_") + ".csv");
            ReportFormat.CSV.write(computed.only(i), totals, file);
            command.info("wrote " + file);
        }
    }

    /** Writes a CSV file for each, the first under the name of the target and the others beside it. */
    private void writeEach(ComputedReports computed, Path target, BaseCommand command) {
        String name = String.valueOf(target.getFileName()).replaceFirst("\\.[^.]*$", "");
        for (int i = 0; i < computed.grids().size(); i++) {
            String suffix =
                    computed.names().get(i).substring(computed.names().get(0).length());
            Path file = target.resolveSibling(name + suffix + ".csv");
            ReportFormat.CSV.write(computed.only(i), totals || since != null, file);
            command.info("wrote " + file);
        }
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

    private void print(ComputedReports computed, BaseCommand command) throws IOException {
        List<Grid> grids = computed.grids();
        switch (as) {
            case "text" -> {
                GridText text = new GridText(command.useColour(), BaseCommand.width());
                String all = grids.stream().map(text::write).collect(Collectors.joining("\n"));
                Pager.print(all, noPager, command.out());
            }
            case "csv" -> {
                GridCsv.write(grids.get(0), totals || since != null, command.out());
                grids.get(0).notes().forEach(command::info);
            }
            default -> JsonWriter.grid(grids.get(0), computed.days(), command.out());
        }
    }
}
