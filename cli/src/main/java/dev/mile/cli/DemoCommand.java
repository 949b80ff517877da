package dev.mile.cli;

import dev.mile.DataException;
import dev.mile.ModelException;
import dev.mile.demo.DemoProject;
import dev.mile.model.Model;
import dev.mile.render.text.GridText;
import dev.mile.report.Session;
import java.io.IOException;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code mile demo}. */
@Command(
        name = "demo",
        description =
                "Writes the demo project, Fernhollow Garden Centres, and runs its main report. All of it is made up.")
final class DemoCommand extends BaseCommand implements Callable<Integer> {
    @Parameters(
            arity = "0..1",
            paramLabel = "FOLDER",
            defaultValue = "mile-demo",
            description = "Where (default: ${DEFAULT-VALUE}).")
    private Path folder;

    @Option(
            names = "--rows",
            paramLabel = "N",
            defaultValue = "" + DemoProject.ROWS,
            description = "About how many order lines (default: ${DEFAULT-VALUE}); millions for benchmarks.")
    private int rows;

    @Override
    public Integer call() {
        if (rows < 1) {
            throw ModelException.of("--rows %d makes no demo; give 1 or more", rows);
        }
        try {
            DemoProject.write(folder, rows);
        } catch (IOException e) {
            throw DataException.of("cannot write the demo to %s: %s", folder, e.getMessage())
                    .withCause(e);
        }
        Model model = Model.read(folder.resolve("mile.yaml"));
        try (Session session = session(model, null)) {
            out().print(new GridText(useColour(), width()).write(session.report("trading")));
        }
        out().flush();
        info("");
        info("The project is in " + folder + ": cd there, and edit mile.yaml. Try next:");
        info("  mile report shops                       shops of the last three months, against last year");
        info("  mile explain sales_ytd_ly --at \"Aug 2026\"   the days behind a figure, step by step");
        info(
                "  mile report month_end -o month_end.html --open   a pack of reports on one page: choose a shop, press a figure");
        return 0;
    }
}
