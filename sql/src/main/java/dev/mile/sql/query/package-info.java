/**
 * The question of the engine interface asked in SQL over JDBC, and the dialects in which databases differ. Used by the engines for files
 * and for warehouses, and by whoever writes a {@link dev.mile.sql.query.Dialect}; uses the core.
 *
 * <p>Engines are not safe for use by several threads; dialects have no state. No argument may be null.
 */
@NullMarked
package dev.mile.sql.query;

import org.jspecify.annotations.NullMarked;
