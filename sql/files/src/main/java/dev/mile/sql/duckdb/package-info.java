/**
 * DuckDB, embedded in this program: its connections, the progress of its statements, and the tables that are written into it.
 * Hidden: used by the engine for files.
 *
 * <p>The database is safe for use by several threads. No argument may be null.
 */
@NullMarked
package dev.mile.sql.duckdb;

import org.jspecify.annotations.NullMarked;
