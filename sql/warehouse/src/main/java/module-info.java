/** Facts in databases: the question of the engine interface, asked in SQL. */
@SuppressWarnings("module") // the engine for files is compiled after this one
module dev.mile.sql.warehouse {
    requires transitive dev.mile.core; // the engine interface
    requires transitive java.sql; // JDBC, of which dialects speak
    requires org.slf4j; // says that a lost connection is tried again
    requires static org.jspecify; // which types may be null

    uses dev.mile.sql.dialect.Dialect; // databases that Mile does not know

    exports dev.mile.sql.dialect;
    exports dev.mile.sql.warehouse;
    exports dev.mile.sql.query to
            dev.mile.sql.files;
}
