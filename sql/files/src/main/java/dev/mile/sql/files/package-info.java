/**
 * Facts in files: DuckDB, embedded, reads CSV, Parquet and JSON; plain sums over Parquet are read without it. Used by Java programs and the command line; uses queries.
 *
 * <p>Engines are safe for use by several threads; a cursor is read by one. No argument may be null.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.sql.files;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
