package dev.mile.sql.warehouse;

import dev.mile.ModelException;
import dev.mile.sql.dialect.Sql;
import java.util.regex.Pattern;

/** Makes a table of a query that somebody wrote: in brackets a database takes nothing that writes. */
final class ReadOnlyQuery {
    private static final Pattern BEGINNING = Pattern.compile("(?is)\\s*\\(*\\s*(select|with|values)\\b.*");

    private ReadOnlyQuery() {}

    /**
     * {@return the query, for use behind FROM}
     *
     * @throws ModelException if it is no query, or several statements
     */
    static String asTable(String query) {
        String plain = withoutTextsAndComments(query).strip();
        String statement = query.strip();
        if (plain.endsWith(";") && statement.endsWith(";")) {
            plain = plain.substring(0, plain.length() - 1);
            statement = statement.substring(0, statement.length() - 1);
        }
        if (!BEGINNING.matcher(plain).matches()) {
            throw ModelException.of(
                    "a `query` reads rows, so it begins with select or with; found '%s'",
                    statement.lines().findFirst().orElse(""));
        }
        if (plain.contains(";")) {
            throw ModelException.of(
                    "a `query` is one statement; found a semicolon inside, so take out what follows it");
        }
        if (depth(plain) != 0) {
            throw ModelException.of("the brackets of the `query` do not match; correct them");
        }
        // a comment at its end would swallow the bracket
        return "(" + statement + "\n) AS " + Sql.name("mile query");
    }

    /** Returns how many brackets stay open; -1 where one closes that was not opened. */
    private static int depth(String plain) {
        int open = 0;
        for (char c : plain.toCharArray()) {
            open += c == '(' ? 1 : c == ')' ? -1 : 0;
            if (open < 0) {
                return -1;
            }
        }
        return open;
    }

    private static String withoutTextsAndComments(String query) {
        return query.replaceAll("(?s)'[^']*'|\"[^\"]*\"|--[^\\n]*|/\\*.*?\\*/", " ");
    }
}
