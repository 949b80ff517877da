/**
 * Engines that ask SQL over JDBC: DuckDB, embedded, for files, and PostgreSQL, H2 or another database with a
 * {@link dev.mile.sql.Dialect} for facts that live in a warehouse. Called by the command line and by Java programs; calls the core.
 *
 * <p>Engines are not safe for use by several threads. No argument may be null.
 */
package dev.mile.sql;
