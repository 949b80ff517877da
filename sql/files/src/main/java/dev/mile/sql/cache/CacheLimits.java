package dev.mile.sql.cache;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import java.time.Duration;

/**
 * How much a store keeps: what was used longest ago goes first.
 *
 * @param bytes the size of all its files together, more than 0
 * @param unused after how long an answer that nobody asked for goes
 */
public record CacheLimits(long bytes, Duration unused) {
    /** 2 GiB, and 90 days. */
    public static final CacheLimits DEFAULT = new CacheLimits(2L << 30, Duration.ofDays(90));

    public CacheLimits {
        requireNonNull(unused, "unused is null");
        if (bytes <= 0 || unused.isNegative() || unused.isZero()) {
            throw ModelException.of("a store of %d bytes and %s keeps nothing; give it more", bytes, unused);
        }
    }

    /**
     * {@return the limits with another size}
     *
     * @param size the size of all files together, in bytes
     */
    public CacheLimits withBytes(long size) {
        return new CacheLimits(size, unused);
    }

    /**
     * {@return the limits with another age}
     *
     * @param age after how long an answer that nobody asked for goes
     */
    public CacheLimits withUnused(Duration age) {
        requireNonNull(age, "age is null");
        return new CacheLimits(bytes, age);
    }
}
