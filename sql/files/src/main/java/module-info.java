/** Facts in files, asked of an embedded database; facts of a model wherever they are; kept totals. */
module dev.mile.sql.files {
    requires transitive dev.mile.core; // the engine interface
    requires transitive dev.mile.sources; // files as offices write them; how they seem to be written
    requires transitive dev.mile.sql.warehouse; // the question in SQL; facts in databases
    requires duckdb.jdbc; // reads CSV, Parquet and JSON in parallel, embedded
    requires parquet.format.structures; // what Parquet files say of themselves
    requires aircompressor; // the pages of Parquet files
    requires static org.jspecify; // which types may be null

    exports dev.mile.sql;
    exports dev.mile.sql.files;
    exports dev.mile.sql.cache;
}
