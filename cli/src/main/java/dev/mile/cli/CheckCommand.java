package dev.mile.cli;

import dev.mile.DataException;
import dev.mile.dimension.DimensionCheck;
import dev.mile.internal.Messages;
import dev.mile.model.Model;
import dev.mile.render.excel.WorkbookReader;
import dev.mile.report.Finding;
import dev.mile.report.Session;
import dev.mile.sql.files.TableFiles;
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
final class CheckCommand extends BaseCommand implements Callable<Integer> {
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
                            f.where() + ": ",
                            f.text());
            f.remedy().ifPresent(remedy -> out().println("         " + remedy));
        }
        long errors = findings.stream()
                .filter(f -> f.severity() == Finding.Severity.ERROR)
                .count();
        long warnings = findings.stream()
                .filter(f -> f.severity() == Finding.Severity.WARNING)
                .count();
        out().println(Messages.quantity(errors, "error") + ", " + Messages.quantity(warnings, "warning") + ", "
                + Messages.quantity(findings.size() - errors - warnings, "note"));
        return errors > 0 || (strict && warnings > 0) ? ExitCode.FINDINGS : 0;
    }

    private int dimension(Session session) {
        if (!Files.isRegularFile(dates)) {
            throw DataException.of("the file %s is not there; check the path", dates);
        }
        TableFiles.Content content;
        if (AtomicFiles.extension(dates).equals("xlsx")) {
            List<List<String>> rows = WorkbookReader.read(dates);
            if (rows.isEmpty()) {
                throw DataException.of("the workbook %s is empty; expected a header and rows", dates);
            }
            content = new TableFiles.Content(rows.get(0), rows.subList(1, rows.size()));
        } else {
            content = TableFiles.read(dates);
        }
        List<DimensionCheck.DimensionDifference> findings =
                DimensionCheck.check(session.dimension(), content.header(), content.rows());
        for (DimensionCheck.DimensionDifference f : findings) {
            out().println("error  " + f.text() + ": " + Messages.quantity(f.rows(), "row"));
            f.examples().forEach(example -> out().println("         " + example));
        }
        out().println(Messages.quantity(content.rows().size(), "day") + " checked, "
                + Messages.quantity(findings.size(), "finding"));
        return findings.isEmpty() ? 0 : ExitCode.FINDINGS;
    }
}
