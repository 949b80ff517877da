/** Reads files as offices write them, into texts that every engine understands. For engines; it knows no SQL. */
@NullMarked
package dev.mile.sources;

import org.jspecify.annotations.NullMarked;
