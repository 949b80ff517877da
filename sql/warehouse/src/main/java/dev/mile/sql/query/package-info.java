/**
 * The question of the engine interface asked in SQL over JDBC: what engines for files and for warehouses have in common. Hidden: used
 * by the other packages of this module only.
 *
 * <p>Engines are safe for use by several threads; a cursor is read by one. No argument may be null.
 */
@NullMarked
package dev.mile.sql.query;

import org.jspecify.annotations.NullMarked;
