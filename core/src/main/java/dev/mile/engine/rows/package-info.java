/**
 * Rows in memory, joined with their lookups and added up: behind {@link dev.mile.engine.memory.MemoryEngine}, and where plans are
 * spread over days, whatever engine holds them. Hidden; used by the memory engine and by sessions.
 *
 * <p>What is computed once for the rows is safe for use by several threads; what adds them up belongs to one request. No argument may be null.
 */
@NullMarked
package dev.mile.engine.rows;

import org.jspecify.annotations.NullMarked;
