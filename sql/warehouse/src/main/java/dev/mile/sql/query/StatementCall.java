package dev.mile.sql.query;

import java.sql.SQLException;

/** Runs a statement. */
@FunctionalInterface
public interface StatementCall<T> {
    T get() throws SQLException;
}
