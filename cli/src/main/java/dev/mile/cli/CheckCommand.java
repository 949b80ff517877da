package dev.mile.cli;

import dev.mile.calendar.MileException;
import dev.mile.calendar.Texts;
import dev.mile.dimension.DimensionCheck;
import dev.mile.model.Model;
import dev.mile.render.WorkbookRows;
import dev.mile.report.Finding;
import dev.mile.report.Session;
import dev.mile.sql.TableFiles;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** {@code mile check}. */
@Command(
        name = "check",
        description =
                "Checks the model and its data, or a date dimension made elsewhere. Exit code 1 where it found an error.",
        footer = {"", "Examples:", "  mile check --strict", "  mile check --dates their_dates.csv"})
final class CheckCommand extends Shared implements Callable<Integer> {
    @Option(
            names = "--dates",
            paramLabel = "FILE",
            description = "A date dimension made elsewhere: CSV, Parquet or XLSX.")
    private Path dates;

    @Option(names = "--strict", description = "Exit code 1 from warnings up.")
    private boolean strict;

    @Override
    public Integer call() {
        try (Session session = session(Model.read(file), null)) {
            return dates == null ? model(session) : dimension(session);
        }
    }

    private int model(Session session) {
        List<Finding> findings = new ArrayList<>(session.check());
        findings.sort(Comparator.comparing(Finding::severity));
        for (Finding f : findings) {
            out().printf(
                            Locale.ROOT,
                            "%-9s%s%s%n",
                            f.severity().name().toLowerCase(Locale.ROOT),
                            f.place().isEmpty() ? "" : f.place() + ": ",
                            f.text());
            if (!f.mend().isEmpty()) {
                out().println("         " + f.mend());
            }
        }
        long errors = findings.stream()
                .filter(f -> f.severity() == Finding.Severity.ERROR)
                .count();
        long warnings = findings.stream()
                .filter(f -> f.severity() == Finding.Severity.WARNING)
                .count();
        out().println(Texts.count(errors, "error") + ", " + Texts.count(warnings, "warning") + ", "
                + Texts.count(findings.size() - errors - warnings, "note"));
        return errors > 0 || (strict && warnings > 0) ? Main.FOUND : 0;
    }

    private int dimension(Session session) {
        if (!Files.isRegularFile(dates)) {
            throw MileException.data("the file %s is not there; check the path", dates);
        }
        TableFiles.Content content;
        if (Output.ending(dates).equals("xlsx")) {
            List<List<String>> rows = WorkbookRows.read(dates);
            if (rows.isEmpty()) {
                throw MileException.data("the workbook %s is empty; expected a header and rows", dates);
            }
            content = new TableFiles.Content(rows.get(0), rows.subList(1, rows.size()));
        } else {
            content = TableFiles.read(dates);
        }
        List<DimensionCheck.Finding> findings =
                DimensionCheck.check(session.dimension(), content.header(), content.rows());
        for (DimensionCheck.Finding f : findings) {
            out().println("error  " + f.text() + ": " + Texts.count(f.rows(), "row"));
            f.examples().forEach(example -> out().println("         " + example));
        }
        out().println(Texts.count(content.rows().size(), "day") + " checked, "
                + Texts.count(findings.size(), "finding"));
        return findings.isEmpty() ? 0 : Main.FOUND;
    }
}
