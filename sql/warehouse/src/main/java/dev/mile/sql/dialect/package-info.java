/**
 * What databases say in their own words: the dialects, and how names and values are written into SQL. For whoever adds a database;
 * used by every package of this module that writes SQL.
 */
@API(status = API.Status.EXPERIMENTAL, since = "0.1")
@NullMarked
package dev.mile.sql.dialect;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
