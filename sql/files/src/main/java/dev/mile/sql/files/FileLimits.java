package dev.mile.sql.files;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.duckdb.EmbeddedDatabase;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.DoubleConsumer;

/**
 * How much of the machine reading files may take, and who receives its progress. Immutable.
 *
 * @param memory a size such as 2GB; empty for four fifths of what there is
 * @param threads how many; empty for one for each processor
 * @param progress receives the fraction of a long statement that is done, from 0 to 1, perhaps on another thread
 */
public record FileLimits(Optional<String> memory, OptionalInt threads, Optional<DoubleConsumer> progress) {
    private static final int MAX_THREADS = 512;

    /** All of the machine, and no listener. */
    public static final FileLimits NONE = new FileLimits(Optional.empty(), OptionalInt.empty(), Optional.empty());

    /**
     * {@return the limits with another size of memory, such as 512MB}
     *
     * @param size the size, such as 2GB
     */
    public FileLimits withMemory(String size) {
        requireNonNull(size, "size is null");
        if (!size.matches("(?i)[1-9][0-9]*(\\.[0-9]+)? *[KMGT]i?B")) {
            throw ModelException.of("'%s' is no size of memory; expected one such as 512MB or 2GB", size);
        }
        return new FileLimits(Optional.of(size), threads, progress);
    }

    /**
     * {@return the limits with another number of threads}
     *
     * @param count how many, 512 at most
     */
    public FileLimits withThreads(int count) {
        if (count < 1 || count > MAX_THREADS) {
            throw ModelException.of("the number of threads is %d; expected 1 to %d", count, MAX_THREADS);
        }
        return new FileLimits(memory, OptionalInt.of(count), progress);
    }

    /**
     * {@return the limits with a listener for the progress of statements}
     *
     * @param listener the listener
     */
    public FileLimits withProgress(DoubleConsumer listener) {
        requireNonNull(listener, "listener is null");
        return new FileLimits(memory, threads, Optional.of(listener));
    }

    /** Returns how many threads may read. */
    int mostThreads() {
        return threads.orElse(Runtime.getRuntime().availableProcessors());
    }

    void apply(EmbeddedDatabase database) {
        memory.ifPresent(size -> database.run("SET memory_limit = " + Sql.text(size)));
        threads.ifPresent(count -> database.run("SET threads = " + count));
        progress.ifPresent(database::onProgress);
    }
}
