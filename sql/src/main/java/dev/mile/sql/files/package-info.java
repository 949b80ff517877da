/**
 * Facts in files: DuckDB, embedded, reads CSV, Parquet and JSON. Used by Java programs and the command line; uses queries.
 *
 * <p>Engines are not safe for use by several threads. No argument may be null.
 */
@NullMarked
package dev.mile.sql.files;

import org.jspecify.annotations.NullMarked;
