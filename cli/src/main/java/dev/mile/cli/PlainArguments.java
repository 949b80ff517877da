package dev.mile.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The arguments of most reports: names, and a few options in their plainest form. They are read without looking through all options of
 * all commands, which takes a quarter of a start. Whatever else stands among them, faults too, is left to the library for command lines.
 *
 * @param names the reports
 * @param file the model file
 * @param output the files to write
 * @param store where totals are kept; null where that is not said
 * @param noStore whether no totals are kept
 * @param quiet whether nothing but results is said
 */
record PlainArguments(
        List<String> names, Path file, List<String> output, @Nullable Path store, boolean noStore, boolean quiet) {
    /** What cannot be an option, a file of arguments, or a word in quotes. */
    private static final Pattern PLAIN = Pattern.compile("[\\p{L}\\p{N}_./][^\"']*");

    /** Returns the arguments behind {@code report}; empty where they are not of the plain kind. */
    static Optional<PlainArguments> ofReport(String... args) {
        if (args.length == 0 || !args[0].equals("report")) {
            return Optional.empty();
        }
        List<String> names = new ArrayList<>();
        List<String> output = new ArrayList<>();
        Path file = Path.of(BaseCommand.MODEL_FILE);
        Path store = null;
        Set<String> given = new HashSet<>();
        for (int at = 1; at < args.length; at++) {
            String option = args[at];
            if (PLAIN.matcher(option).matches()) {
                names.add(option);
                continue;
            }
            boolean hasValue = List.of("-f", "-o", "--store").contains(option);
            boolean isKnown = hasValue || List.of("--no-store", "--quiet").contains(option);
            if (!isKnown || !option.equals("-o") && !given.add(option)) {
                return Optional.empty();
            }
            if (hasValue) {
                if (++at == args.length || !PLAIN.matcher(args[at]).matches()) {
                    return Optional.empty();
                }
                switch (option) {
                    case "-f" -> file = Path.of(args[at]);
                    case "-o" -> output.add(args[at]);
                    default -> store = Path.of(args[at]);
                }
            }
        }
        return Optional.of(new PlainArguments(
                names, file, output, store, given.contains("--no-store"), given.contains("--quiet")));
    }
}
