package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.Located;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import java.time.Duration;
import java.util.Optional;

/**
 * A connection to a database that holds facts and lookups. It knows where the password is, never the password.
 *
 * @param name its name in the model
 * @param url its JDBC URL
 * @param user the user; empty for the one that the URL or the system names
 * @param password where the password is; empty where none is needed
 * @param timeout how long a statement may take: a day at most
 * @param location where the model says so, for messages
 */
public record Warehouse(
        String name,
        String url,
        Optional<String> user,
        Optional<PasswordSource> password,
        Duration timeout,
        Optional<SourceLocation> location)
        implements Located {
    /** How long a statement may take unless somebody says otherwise. */
    public static final Duration DEFAULT_TIMEOUT = Duration.ofMinutes(10);

    private static final Duration MAX_TIMEOUT = Duration.ofDays(1);

    /** Where a password is. */
    public sealed interface PasswordSource {
        /** A variable of the environment. */
        record Variable(String name) implements PasswordSource {}

        /** The first line of a file. */
        record FirstLine(String file) implements PasswordSource {}
    }

    public Warehouse {
        requireNonNull(name, "name is null");
        url = WarehouseUrl.require(requireNonNull(url, "url is null"));
        requireNonNull(user, "user is null");
        requireNonNull(password, "password is null");
        requireNonNull(timeout, "timeout is null");
        if (timeout.isNegative() || timeout.isZero() || timeout.compareTo(MAX_TIMEOUT) > 0) {
            throw ModelException.of(
                    "the time-out of the warehouse '%s' is %d seconds; expected 1 to %d",
                    name, timeout.toSeconds(), MAX_TIMEOUT.toSeconds());
        }
        requireNonNull(location, "location is null");
    }

    /**
     * {@return a warehouse that needs neither a user nor a password}
     *
     * @param name the name
     * @param url the JDBC url
     */
    public static Warehouse of(String name, String url) {
        requireNonNull(name, "name is null");
        requireNonNull(url, "url is null");
        return new Warehouse(name, url, Optional.empty(), Optional.empty(), DEFAULT_TIMEOUT, Optional.empty());
    }

    /**
     * {@return the warehouse with a user}
     *
     * @param userName who logs in
     */
    public Warehouse withUser(String userName) {
        requireNonNull(userName, "userName is null");
        return new Warehouse(name, url, Optional.of(userName), password, timeout, location);
    }

    /**
     * {@return the warehouse with where its password is}
     *
     * @param source where the password is
     */
    public Warehouse withPassword(PasswordSource source) {
        requireNonNull(source, "source is null");
        return new Warehouse(name, url, user, Optional.of(source), timeout, location);
    }

    /**
     * {@return the warehouse with another limit of time for a statement}
     *
     * @param limit after how long a statement is given up
     */
    public Warehouse withTimeout(Duration limit) {
        requireNonNull(limit, "limit is null");
        return new Warehouse(name, url, user, password, limit, location);
    }

    /**
     * {@return the warehouse with where the model defines it}
     *
     * @param where where it is said
     */
    public Warehouse withLocation(SourceLocation where) {
        requireNonNull(where, "where is null");
        return new Warehouse(name, url, user, password, timeout, Optional.of(where));
    }
}
