package dev.mile.sql;

/** How names and values are written into SQL; nothing that a user wrote gets into a statement but through here. */
final class Sql {
    private Sql() {}

    /** Returns the name as an identifier in double quotes. */
    static String name(String name) {
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    /** Returns the text as a literal in single quotes. */
    static String text(String text) {
        return "'" + text.replace("'", "''") + "'";
    }
}
