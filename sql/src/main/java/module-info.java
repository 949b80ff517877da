/** Facts in files and databases: the question of the engine interface, asked in SQL. */
module dev.mile.sql {
    requires transitive dev.mile.core; // the engine interface
    requires transitive dev.mile.sources; // files as offices write them; how they seem to be written
    requires transitive java.sql; // JDBC, of which dialects speak
    requires org.slf4j; // says that a lost connection is tried again
    requires duckdb.jdbc; // reads CSV, Parquet and JSON in parallel, embedded
    requires static transitive org.jspecify; // which types may be null

    uses dev.mile.sql.dialect.Dialect; // databases that Mile does not know

    exports dev.mile.sql;
    exports dev.mile.sql.dialect;
    exports dev.mile.sql.files;
    exports dev.mile.sql.warehouse;
    exports dev.mile.sql.cache;
}
