/**
 * What databases say in their own words: the dialects, and how names and values are written into SQL. For whoever adds a database;
 * used by every package of this module that writes SQL.
 */
@NullMarked
package dev.mile.sql.dialect;

import org.jspecify.annotations.NullMarked;
