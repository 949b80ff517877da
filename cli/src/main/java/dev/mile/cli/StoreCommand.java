package dev.mile.cli;

import dev.mile.internal.Messages;
import dev.mile.sql.cache.TotalsCache;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
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

    @Option(names = "--store", paramLabel = "FOLDER", description = "Where totals are kept.")
    private Path folder;

    @Option(names = "--clear", description = "Delete all of them.")
    private boolean clear;

    @Override
    public Integer call() {
        Path at = folder == null ? EngineOptions.standardFolder(System.getenv()) : folder;
        try (TotalsCache store = TotalsCache.in(at)) {
            if (clear) {
                info("deleted " + Messages.quantity(store.clear(), "file") + " in " + at);
                return 0;
            }
            List<TotalsCache.Entry> entries = store.list();
            long all = 0;
            for (TotalsCache.Entry entry : entries) {
                all += entry.bytes();
                out().println(String.format(Locale.ROOT, "%10s  %s", size(entry.bytes()), entry.about()));
            }
            info(Messages.quantity(entries.size(), "store") + " of totals, " + size(all) + " in " + at);
        }
        return 0;
    }

    private static String size(long bytes) {
        return bytes < KIB * KIB
                ? (bytes + KIB - 1) / KIB + " KiB"
                : String.format(Locale.ROOT, "%.1f MiB", bytes / (double) (KIB * KIB));
    }
}
