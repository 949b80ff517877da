/** Reads files as offices write them, into texts that every engine understands, and finds how files are written. For engines, and for drafts of models; it knows no SQL. */
@API(status = API.Status.EXPERIMENTAL, since = "0.1")
@NullMarked
package dev.mile.sources;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
