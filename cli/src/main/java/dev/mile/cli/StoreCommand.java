package dev.mile.cli;

import dev.mile.ModelException;
import dev.mile.internal.Messages;
import dev.mile.sql.cache.TotalsCache;
import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** {@code mile store}. */
@Command(
        name = "store",
        description = "Lists the totals that reports have kept for the next time, or clears them.",
        footer = {"", "Examples:", "  mile store", "  mile store --clear"})
final class StoreCommand extends BaseCommand implements Callable<Integer> {
    private static final long KIB = 1024;

    private static final DateTimeFormatter TIME =
            DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm", Locale.ROOT).withZone(ZoneId.systemDefault());

    @Option(names = "--store", paramLabel = "FOLDER", description = "Where totals are kept.")
    private Path folder;

    @Option(names = "--clear", description = "Delete all of them, or those that the other options name.")
    private boolean clear;

    @Option(names = "--project", paramLabel = "NAME", description = "Those of one project.")
    private String project;

    @Option(
            names = "--older",
            paramLabel = "DAYS",
            description = "With --clear: those that nobody used for so long, such as 30d.")
    private String older;

    @Override
    public Integer call() {
        Path at = folder == null ? EngineOptions.standardFolder(System.getenv()) : folder;
        if (older != null && (!clear || project != null)) {
            throw ModelException.of("--older goes with --clear alone; write --clear --older %s", older);
        }
        TotalsCache store = TotalsCache.in(at);
        if (clear) {
            info("deleted " + Messages.quantity(cleared(store), "answer") + " in " + at);
            return 0;
        }
        list(store, at);
        return 0;
    }

    private int cleared(TotalsCache store) {
        if (older != null) {
            return store.clearUnused(age(older));
        }
        return project == null ? store.clear() : store.clear(project);
    }

    private static Duration age(String text) {
        if (!text.matches("[1-9][0-9]{0,4}d")) {
            throw ModelException.of("'%s' is no number of days; expected one such as 30d", text);
        }
        return Duration.ofDays(Long.parseLong(text.substring(0, text.length() - 1)));
    }

    private void list(TotalsCache store, Path at) {
        Map<String, List<TotalsCache.Entry>> projects = new LinkedHashMap<>();
        store.list().stream()
                .filter(entry -> project == null || entry.project().equals(project))
                .forEach(entry -> projects.computeIfAbsent(entry.project(), p -> new ArrayList<>())
                        .add(entry));
        long all = 0;
        long number = 0;
        for (Map.Entry<String, List<TotalsCache.Entry>> of : projects.entrySet()) {
            out().println(of.getKey().isEmpty() ? "(no project)" : Messages.escaped(of.getKey()));
            for (TotalsCache.Entry entry : of.getValue()) {
                all += entry.bytes();
                number++;
                out().println(String.format(
                        Locale.ROOT,
                        "%10s  kept %s, used %s  %s",
                        size(entry.bytes()),
                        TIME.format(entry.kept()),
                        entry.hits() == 0
                                ? "never"
                                : Messages.quantity(entry.hits(), "time") + ", last " + TIME.format(entry.lastUsed()),
                        Messages.escaped(entry.about())));
            }
        }
        info(Messages.quantity(number, "store") + " of totals, " + size(all) + " in " + at);
    }

    private static String size(long bytes) {
        return bytes < KIB * KIB
                ? (bytes + KIB - 1) / KIB + " KiB"
                : String.format(Locale.ROOT, "%.1f MiB", bytes / (double) (KIB * KIB));
    }
}
