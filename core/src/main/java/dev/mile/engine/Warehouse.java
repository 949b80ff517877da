package dev.mile.engine;

import static java.util.Objects.requireNonNull;

/**
 * A connection to a database that holds facts and lookups. It knows where the password is, never the password.
 *
 * @param name its name in the model
 * @param url its JDBC URL
 * @param user the user; empty for the one that the URL or the system names
 * @param passwordFrom where the password is
 * @param seconds how long a statement may take
 * @param place where the model says so, for messages
 */
public record Warehouse(String name, String url, String user, PasswordSource passwordFrom, int seconds, String place) {
    /**
     * Where a password is.
     *
     * @param variable a variable of the environment; empty for none
     * @param file a file with it in its first line; empty for none
     */
    public record PasswordSource(String variable, String file) {
        /** No password. */
        public static final PasswordSource NONE = new PasswordSource("", "");
    }

    public Warehouse {
        requireNonNull(name, "name is null");
        requireNonNull(url, "url is null");
        requireNonNull(passwordFrom, "passwordFrom is null");
    }
}
