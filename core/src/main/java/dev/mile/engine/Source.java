package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.Located;
import dev.mile.SourceLocation;
import java.util.Optional;

/** Where the rows of a fact or lookup are, for engines that read them. */
public sealed interface Source extends Located {
    /**
     * Files.
     *
     * @param pattern a path, or a glob for several files
     * @param format how they are written
     * @param location where the model says so, for messages
     */
    record Files(String pattern, FileFormat format, Optional<SourceLocation> location) implements Source {
        public Files {
            requireNonNull(pattern, "pattern is null");
            requireNonNull(format, "format is null");
            requireNonNull(location, "location is null");
        }

        @Override
        public Source withLocation(SourceLocation where) {
            return new Files(pattern, format, Optional.of(where));
        }

        @Override
        public String toString() {
            return format.isPlain() && !format.countsRejects() ? pattern : pattern + " " + format;
        }
    }

    /** Rows of a database. */
    sealed interface InWarehouse extends Source {
        /** {@return the connection that has them} */
        String warehouse();
    }

    /**
     * A table of a database.
     *
     * @param table its name, or {@code schema.table}
     * @param warehouse the connection that has it
     * @param location where the model says so, for messages
     */
    record WarehouseTable(String table, String warehouse, Optional<SourceLocation> location) implements InWarehouse {
        public WarehouseTable {
            requireNonNull(table, "table is null");
            requireNonNull(warehouse, "warehouse is null");
            requireNonNull(location, "location is null");
        }

        @Override
        public Source withLocation(SourceLocation where) {
            return new WarehouseTable(table, warehouse, Optional.of(where));
        }

        @Override
        public String toString() {
            return "table " + table + " in " + warehouse;
        }
    }

    /**
     * The rows that a query of a database gives.
     *
     * @param query one statement that begins with SELECT or WITH
     * @param warehouse the connection that runs it
     * @param location where the model says so, for messages
     */
    record WarehouseQuery(String query, String warehouse, Optional<SourceLocation> location) implements InWarehouse {
        public WarehouseQuery {
            requireNonNull(query, "query is null");
            requireNonNull(warehouse, "warehouse is null");
            requireNonNull(location, "location is null");
        }

        @Override
        public Source withLocation(SourceLocation where) {
            return new WarehouseQuery(query, warehouse, Optional.of(where));
        }

        @Override
        public String toString() {
            return "query in " + warehouse + ": " + query;
        }
    }

    /**
     * Rows of a database, a column of which became rows for each of them.
     *
     * @param wide the rows as the database has them
     * @param columns which columns
     * @param location where the model says so, for messages
     */
    record UnpivotedInWarehouse(InWarehouse wide, FileFormat.Unpivot columns, Optional<SourceLocation> location)
            implements InWarehouse {
        public UnpivotedInWarehouse {
            requireNonNull(wide, "wide is null");
            requireNonNull(columns, "columns is null");
            requireNonNull(location, "location is null");
        }

        @Override
        public String warehouse() {
            return wide.warehouse();
        }

        @Override
        public Source withLocation(SourceLocation where) {
            return new UnpivotedInWarehouse(wide, columns, Optional.of(where));
        }

        @Override
        public String toString() {
            return wide + " " + columns;
        }
    }

    /**
     * {@return the files of a path or glob}
     *
     * @param pattern the file, or a pattern of files
     */
    static Source files(String pattern) {
        return files(pattern, FileFormat.PLAIN);
    }

    /**
     * {@return the files of a path or glob}
     *
     * @param pattern the file, or a pattern of files
     * @param format how they are written
     */
    static Source files(String pattern, FileFormat format) {
        return new Files(pattern, format, Optional.empty());
    }

    /**
     * {@return a table of a warehouse}
     *
     * @param table the table
     * @param warehouse the warehouse
     */
    static Source table(String table, String warehouse) {
        return new WarehouseTable(table, warehouse, Optional.empty());
    }

    /**
     * {@return the rows of a query}
     *
     * @param query one statement that begins with SELECT or WITH
     * @param warehouse the warehouse
     */
    static Source query(String query, String warehouse) {
        return new WarehouseQuery(query, warehouse, Optional.empty());
    }

    /**
     * {@return rows of a database of which columns became rows}
     *
     * @param wide the rows as the database has them
     * @param columns which columns
     */
    static Source unpivoted(InWarehouse wide, FileFormat.Unpivot columns) {
        return new UnpivotedInWarehouse(wide, columns, Optional.empty());
    }

    /**
     * {@return the source with where the model says so}
     *
     * @param where where it is said
     */
    Source withLocation(SourceLocation where);
}
