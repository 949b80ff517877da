package dev.mile.cli;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.StoppedException;
import dev.mile.calendar.SupportedDates;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import dev.mile.internal.PrivateFolder;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import picocli.AutoComplete;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** Starts {@code mile}: finds the command, and turns errors into words and exit codes. */
@Command(
        name = "mile",
        description = "Fiscal and retail date dimensions, and period comparisons that can be checked.",
        footer = {
            "",
            "Exit codes: 0 done, 1 the check found something, 2 wrong usage or model, 3 data could not be read, 4 a",
            "fault of Mile itself.",
            "Start with: mile demo"
        },
        mixinStandardHelpOptions = true,
        version = "mile " + Main.VERSION)
public final class Main implements Runnable {
    static final String VERSION = "0.1.0";

    /** The embedded database unpacks its library. */
    private static final long ROOM_BYTES = 256L << 20;

    private static final Map<String, Class<?>> COMMANDS = new LinkedHashMap<>();

    static {
        COMMANDS.put("demo", DemoCommand.class);
        COMMANDS.put("new", NewCommand.class);
        COMMANDS.put("dates", DatesCommand.class);
        COMMANDS.put("days", DaysCommand.class);
        COMMANDS.put("check", CheckCommand.class);
        COMMANDS.put("report", ReportCommand.class);
        COMMANDS.put("explain", ExplainCommand.class);
        COMMANDS.put("store", StoreCommand.class);
        COMMANDS.put("schema", SchemaCommand.class);
    }

    /** The commands that ask data. */
    private static final Set<String> DATA_COMMANDS = Set.of("report", "explain", "check", "dates");

    @Spec
    private CommandSpec spec;

    private Main() {}

    /** Runs the command line and exits. */
    public static void main(String[] args) {
        if (args.length == 1 && args[0].equals("--version")) {
            // before anything else is loaded
            System.out.println("mile " + VERSION);
            return;
        }
        usePrivateFolder();
        boolean asks = args.length > 0
                && DATA_COMMANDS.contains(args[0])
                && !List.of(args).contains("--help");
        // totals that are kept need no database
        boolean reads = args.length > 0 && args[0].equals("check")
                || List.of(args).contains("--no-store")
                        && PlainArguments.ofReport(args)
                                .map(plain -> WarmUp.mayNeedDatabase(plain.file()))
                                .orElse(true);
        Optional<WarmUp> warmUp = asks ? Optional.of(WarmUp.begin(reads)) : Optional.empty();
        StandardOutput standard = new StandardOutput();
        PrintWriter out = new PrintWriter(new OutputStreamWriter(standard, StandardCharsets.UTF_8), false);
        PrintWriter err = new PrintWriter(new OutputStreamWriter(System.err, StandardCharsets.UTF_8), true);
        int code = run(out, err, args);
        out.flush();
        if (!standard.writeError().isEmpty()) {
            err.println("mile: standard output is not whole: " + standard.writeError());
            code = Math.max(code, ExitCode.DATA);
        }
        warmUp.ifPresent(WarmUp::end);
        System.exit(code);
    }

    /**
     * Has all temporary files of this process, those of libraries too, in a folder that only its user may read, and that is removed with
     * it: beside the totals that are kept, or else in the folder for temporary files.
     */
    private static void usePrivateFolder() {
        List<Path> parents =
                List.of(EngineOptions.standardFolder(System.getenv()), Path.of(System.getProperty("java.io.tmpdir")));
        for (Path parent : parents) {
            try {
                PrivateFolder folder = PrivateFolder.in(parent);
                if (folder.path().toFile().getUsableSpace() > ROOM_BYTES) {
                    System.setProperty("java.io.tmpdir", folder.path().toString());
                    return;
                }
            } catch (IOException | StoppedException e) {
                // the next one may do, unless the process is ending
            }
        }
        // whoever needs a temporary file will say that there is no room for it
    }

    /** Runs the command line with these writers and returns its exit code. */
    static int run(PrintWriter out, PrintWriter err, String... args) {
        Optional<PlainArguments> plain = PlainArguments.ofReport(args);
        try {
            return plain.isPresent() ? report(plain.get(), out, err) : parse(out, err, args);
        } catch (Error e) {
            if (List.of(args).contains("--debug")) {
                e.printStackTrace(err);
            }
            return insideMile(e, err);
        }
    }

    private static int report(PlainArguments given, PrintWriter out, PrintWriter err) {
        ReportCommand command = ReportCommand.of(given);
        command.writeTo(out, err);
        try {
            return command.call();
        } catch (RuntimeException e) {
            return failed(e, false, err);
        }
    }

    private static int parse(PrintWriter out, PrintWriter err, String... args) {
        CommandLine line = commands(args.length == 0 ? "" : args[0]);
        line.setOut(out);
        line.setErr(err);
        line.setCaseInsensitiveEnumValuesAllowed(true);
        line.setUsageHelpAutoWidth(true);
        line.registerConverter(LocalDate.class, Main::date);
        line.setExecutionExceptionHandler((failure, command, parsed) ->
                failed(failure, command.getCommand() instanceof BaseCommand shared && shared.debug(), err));
        line.setParameterExceptionHandler((wrong, given) -> {
            err.println("mile: " + Messages.limited(Messages.escaped(String.valueOf(wrong.getMessage()))));
            CommandLine.UnmatchedArgumentException.printSuggestions(wrong, err);
            err.println("Try '" + wrong.getCommandLine().getCommandSpec().qualifiedName() + " --help'.");
            return ExitCode.USAGE;
        });
        return line.execute(args);
    }

    /** Returns the command of the name alone, since reading the options of all takes time; all of them for any other name. */
    private static CommandLine commands(String name) {
        CommandLine line = new CommandLine(new Main());
        COMMANDS.forEach((known, type) -> {
            if (!COMMANDS.containsKey(name) || known.equals(name)) {
                line.addSubcommand(type);
            }
        });
        if (!COMMANDS.containsKey(name)) {
            line.addSubcommand(AutoComplete.GenerateCompletion.class);
        }
        return line;
    }

    private static LocalDate date(String text) {
        try {
            return SupportedDates.require(EpochDays.parse(text)
                    .orElseThrow(() -> ModelException.of(
                            "'%s' is not a day of the calendar; expected a date such as 2026-04-01", text)));
        } catch (ModelException e) {
            throw new CommandLine.TypeConversionException(e.getMessage());
        }
    }

    static int failed(Exception failure, boolean debug, PrintWriter err) {
        if (failure instanceof MileException e) {
            err.println("mile: " + e.inModelWords().getMessage());
            if (debug) {
                e.printStackTrace(err);
            }
            return e instanceof ModelException ? ExitCode.USAGE : ExitCode.DATA;
        }
        if (failure instanceof StoppedException) {
            // no command has a time limit, so the process is ending: who pressed Ctrl-C knows
            return ExitCode.INTERNAL;
        }
        int code = insideMile(failure, err);
        if (debug) {
            failure.printStackTrace(err);
        }
        return code;
    }

    /** Says on one line that Mile itself failed. */
    private static int insideMile(Throwable failure, PrintWriter err) {
        String what = failure instanceof OutOfMemoryError
                ? "the memory that Java may take is used up; allow it more, as in MILE_JAVA_OPTS=-Xmx4g, or ask for less"
                : failure.toString();
        String line = Messages.escaped(what).replace('\n', ' ');
        err.println("mile: something went wrong inside Mile: " + Messages.limited(line)
                + ". Please report it with the output of --debug.");
        return ExitCode.INTERNAL;
    }

    @Override
    public void run() {
        spec.commandLine().usage(spec.commandLine().getOut());
    }
}
