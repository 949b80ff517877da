package dev.mile.sql.dialect;

import static java.util.Objects.requireNonNull;

/** How names and values are written into SQL; nothing that a user wrote gets into a statement but through here. */
public final class Sql {
    private Sql() {}

    /**
     * {@return the name as an identifier in double quotes}
     *
     * @param name the name
     */
    public static String name(String name) {
        requireNonNull(name, "name is null");
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    /**
     * {@return the text as a literal in single quotes}
     *
     * @param text the text
     */
    public static String text(String text) {
        requireNonNull(text, "text is null");
        return "'" + text.replace("'", "''") + "'";
    }
}
