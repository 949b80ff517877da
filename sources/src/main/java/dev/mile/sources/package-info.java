/** Reads files as offices write them, into texts that every engine understands, and finds how files are written. For engines, and for drafts of models; it knows no SQL. */
@NullMarked
package dev.mile.sources;

import org.jspecify.annotations.NullMarked;
