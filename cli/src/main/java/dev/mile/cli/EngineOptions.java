package dev.mile.cli;

import dev.mile.ModelException;
import dev.mile.engine.Engine;
import dev.mile.engine.EngineProvider;
import dev.mile.internal.Messages;
import dev.mile.model.HolidayCache;
import dev.mile.model.Model;
import dev.mile.sql.RoutingEngine;
import dev.mile.sql.cache.CacheLimits;
import dev.mile.sql.cache.CachingEngine;
import dev.mile.sql.cache.FileTables;
import dev.mile.sql.cache.TotalsCache;
import dev.mile.sql.files.FileLimits;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** How data is read: from the sources or from totals that are kept, and with how much of the machine. */
final class EngineOptions {
    private static final long MEGABYTE = 1_000_000;
    private static final long GIGABYTE = 1_000_000_000;

    @Option(names = "--no-store", description = "Read the sources, and keep no totals for the next time.")
    private boolean noStore;

    @Option(
            names = "--store",
            paramLabel = "FOLDER",
            description = "Where totals are kept (default: $MILE_STORE, or mile in the folder for caches).")
    private Path folder;

    @Option(names = "--memory", paramLabel = "SIZE", description = "The memory for reading files, such as 2GB.")
    private String memory;

    @Option(names = "--threads", paramLabel = "N", description = "The threads for reading files.")
    private Integer threads;

    @Option(
            names = "--engine",
            paramLabel = "NAME",
            description = "What reads the files instead of the embedded database: spark, if it is on the class path.")
    private String engine;

    @Option(names = "--master", paramLabel = "URL", description = "Spark: the cluster (default: this machine).")
    private String master;

    /** Sets where totals are kept, if anywhere. */
    void keep(@Nullable Path store, boolean none) {
        folder = store;
        noStore = none;
    }

    /** Returns the engine over the sources of a model. */
    Engine open(Model model, BaseCommand command) {
        if (engine != null) {
            return openProvided(model);
        }
        if (master != null) {
            throw ModelException.of("--master is for Spark; write --engine spark --master %s", master);
        }
        FileLimits limits = memory == null ? FileLimits.NONE : FileLimits.NONE.withMemory(memory);
        limits = threads == null ? limits : limits.withThreads(threads);
        limits = command.quiet ? limits : limits.withProgress(new Progress(System.err, "reading"));
        Engine sources = RoutingEngine.over(model.schema(), model.warehouses(), limits);
        if (noStore) {
            return sources;
        }
        return new CachingEngine(
                sources,
                new FileTables(sources.schema()),
                cache().ofProject(model.project().name()),
                command::info);
    }

    /** Returns where the days of iCalendar files are kept. */
    HolidayCache holidays() {
        return noStore || engine != null ? HolidayCache.NONE : cache()::rows;
    }

    private TotalsCache cache() {
        return TotalsCache.in(folder == null ? standardFolder(System.getenv()) : folder, limits(System.getenv()));
    }

    private Engine openProvided(Model model) {
        if (memory != null || threads != null || folder != null) {
            throw ModelException.of(
                    "--memory, --threads and --store are for the embedded database; leave them out with --engine %s",
                    engine);
        }
        List<String> names = new ArrayList<>();
        for (EngineProvider provider : ServiceLoader.load(EngineProvider.class)) {
            names.add(provider.name());
            if (provider.name().equals(engine)) {
                return provider.open(model.schema(), master == null ? Map.of() : Map.of("master", master));
            }
        }
        throw ModelException.of(
                "no engine '%s' is on the class path%s; leave --engine out for the embedded database, or start with"
                        + " `./mile report --engine spark`, which brings Spark",
                engine, names.isEmpty() ? "" : Messages.didYouMean(engine, names));
    }

    /** Returns how much is kept: $MILE_STORE_SIZE, or what is kept if nothing is said. */
    static CacheLimits limits(Map<String, String> environment) {
        String size = environment.getOrDefault("MILE_STORE_SIZE", "");
        if (size.isEmpty()) {
            return CacheLimits.DEFAULT;
        }
        Matcher parts = Pattern.compile("([1-9][0-9]{0,5}) *(MB|GB)", Pattern.CASE_INSENSITIVE)
                .matcher(size.strip());
        if (!parts.matches()) {
            throw ModelException.of(
                    "MILE_STORE_SIZE is '%s', which is no size; expected one such as 500MB or 2GB", size);
        }
        long unit = parts.group(2).equalsIgnoreCase("MB") ? MEGABYTE : GIGABYTE;
        return CacheLimits.DEFAULT.withBytes(Long.parseLong(parts.group(1)) * unit);
    }

    /** Returns where totals are kept if nothing is said. */
    static Path standardFolder(Map<String, String> environment) {
        String chosen = environment.getOrDefault("MILE_STORE", "");
        if (!chosen.isEmpty()) {
            return Path.of(chosen);
        }
        Path home = Path.of(System.getProperty("user.home"));
        String system = System.getProperty("os.name");
        if (system.startsWith("Windows")) {
            return Path.of(environment.getOrDefault(
                            "LOCALAPPDATA", home.resolve("AppData/Local").toString()))
                    .resolve("mile");
        }
        String caches = environment.getOrDefault("XDG_CACHE_HOME", "");
        return caches.isEmpty()
                ? home.resolve(system.startsWith("Mac") ? "Library/Caches/mile" : ".cache/mile")
                : Path.of(caches).resolve("mile");
    }
}
