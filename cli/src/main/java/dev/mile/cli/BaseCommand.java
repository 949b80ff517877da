package dev.mile.cli;

import dev.mile.engine.Engine;
import dev.mile.internal.Messages;
import dev.mile.model.Model;
import dev.mile.report.Session;
import dev.mile.sql.RoutingEngine;
import dev.mile.sql.files.FileLimits;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** What all commands share: the model, how much is said, and colours. */
@Command(mixinStandardHelpOptions = true, version = "mile " + Main.VERSION)
abstract class BaseCommand {
    private static final int PLAIN_WIDTH = 200;

    static final String MODEL_FILE = "mile.yaml";

    /** Where to write, while the command runs without the library for command lines. */
    private record Writers(PrintWriter out, PrintWriter err) {}

    @Spec
    CommandSpec spec;

    private @Nullable Writers writers;

    @Option(
            names = {"-f", "--file"},
            paramLabel = "FILE",
            defaultValue = MODEL_FILE,
            description = "The model file (default: ${DEFAULT-VALUE}).")
    Path file;

    @Option(names = "--quiet", description = "Say nothing but results and errors.")
    boolean quiet;

    @Option(names = "--no-color", description = "No colours.")
    boolean noColor;

    @Option(names = "--debug", description = "Show stack traces of errors.")
    private boolean debug;

    boolean debug() {
        return debug;
    }

    /** Has results and all else written by these. */
    final void writeTo(PrintWriter out, PrintWriter err) {
        writers = new Writers(out, err);
    }

    PrintWriter out() {
        return writers == null ? spec.commandLine().getOut() : writers.out();
    }

    private PrintWriter err() {
        return writers == null ? spec.commandLine().getErr() : writers.err();
    }

    /** Says something that is not a result. */
    void info(String text) {
        if (!quiet) {
            err().println(Messages.escaped(text));
        }
    }

    /** Returns whether somebody looks at a terminal. */
    static boolean isTerminal() {
        return System.console() != null && System.getenv("TERM") != null && !"dumb".equals(System.getenv("TERM"));
    }

    boolean useColour() {
        return !noColor && System.getenv("NO_COLOR") == null && isTerminal();
    }

    /** Returns the width of a line in characters: the terminal's, as passed on by the launcher. */
    static int width() {
        String columns = System.getenv("MILE_COLUMNS");
        try {
            return columns == null || columns.isBlank() ? PLAIN_WIDTH : Math.max(40, Integer.parseInt(columns.strip()));
        } catch (NumberFormatException e) {
            return PLAIN_WIDTH;
        }
    }

    /** Opens a session over the sources themselves. */
    Session session(Model model, LocalDate asOf) {
        return session(model, asOf, RoutingEngine.over(model.schema(), model.warehouses(), FileLimits.NONE));
    }

    /** Opens a session over an engine, which is closed with it. */
    static Session session(Model model, LocalDate asOf, Engine engine) {
        return asOf == null
                ? Session.open(model.project(), () -> engine)
                : Session.open(model.project(), () -> engine, asOf);
    }
}
