package dev.mile.sql.files;

import dev.mile.engine.DataSchema;
import dev.mile.engine.Source;
import dev.mile.fact.Fact;
import dev.mile.sources.SourceFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Stream;

/**
 * Loads the small text files of a schema while its first file is loaded: most reports ask for the dates of the other facts and the
 * members of the lookups next, and one file alone does not keep all processors busy. What cannot be loaded is loaded again when somebody
 * asks for it, who is then told why.
 */
final class SourcePrefetch {
    /** Reading so much in vain costs less than anybody notices. */
    private static final long MOST_BYTES = 1_000_000;

    private final Thread thread;

    private SourcePrefetch(List<String> names, Consumer<String> load) {
        thread = new Thread(() -> run(names, load), "mile reads small files");
        thread.setDaemon(true);
    }

    /**
     * Begins.
     *
     * @param loaded the fact that is being loaded
     * @param load loads a source; may be called for one that is there
     */
    static SourcePrefetch begin(DataSchema schema, String loaded, Consumer<String> load) {
        // only reports that compare with plans ask for those
        Stream<String> facts =
                schema.facts().values().stream().filter(fact -> !fact.plan()).map(Fact::name);
        List<String> names = Stream.concat(facts, schema.lookups().keySet().stream())
                .filter(name -> !name.equals(loaded) && isSmall(schema.sources().get(name)))
                .toList();
        SourcePrefetch prefetch = new SourcePrefetch(names, load);
        if (!names.isEmpty()) {
            prefetch.thread.start();
        }
        return prefetch;
    }

    private static boolean isSmall(Source source) {
        if (!(source instanceof Source.Files files)
                || !SourceFile.isText(files.pattern())
                || SourceFiles.isPattern(files.pattern())) {
            return false;
        }
        try {
            return Files.size(Path.of(files.pattern())) <= MOST_BYTES;
        } catch (IOException | IllegalArgumentException e) {
            return false;
        }
    }

    private static void run(List<String> names, Consumer<String> load) {
        for (String name : names) {
            try {
                load.accept(name);
            } catch (RuntimeException e) {
                if (Thread.currentThread().isInterrupted()) {
                    return;
                }
            }
        }
    }

    /** Ends it, and waits until it has ended; a thread that is interrupted does not wait. */
    void end() {
        thread.interrupt();
        try {
            thread.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
