/**
 * Totals of large Parquet files without the database: columns are read as they lie, members by their numbers in dictionaries, and added
 * up in arrays. What is not read here, the database reads. Hidden: used by the engine for files.
 *
 * <p>The format is that of Apache Parquet, as <a href="https://parquet.apache.org/docs/file-format/">parquet.apache.org</a> has it. No
 * argument may be null.
 */
@NullMarked
package dev.mile.sql.parquet;

import org.jspecify.annotations.NullMarked;
