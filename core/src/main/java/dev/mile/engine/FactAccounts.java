package dev.mile.engine;

import java.util.List;
import java.util.Map;

/**
 * The accounts of every row of a fact.
 *
 * @param fact the fact
 * @param read rows in the source
 * @param rejected lines that are no rows
 * @param kept rows for which the fact's condition holds
 * @param undecided rows for which it neither holds nor fails, since a value is blank
 * @param amounts the names of the amount columns
 * @param roles the rows kept, by role
 * @param unknownKeys by the name of a link at any depth, what has no counterpart in its lookup
 */
public record FactAccounts(
        String fact,
        long read,
        Rejected rejected,
        long kept,
        long undecided,
        List<String> amounts,
        List<RoleAccounts> roles,
        Map<String, UnknownKeys> unknownKeys) {

    /**
     * Lines of files that are no rows.
     *
     * @param lines how many
     * @param example the first, with its file, its line and what is wrong with it; empty if there is none
     * @param afterEnd how many rows come after the end of the table, where the model says how it ends
     */
    public record Rejected(long lines, String example, long afterEnd) {
        /** No line. */
        public static final Rejected NONE = new Rejected(0, "", 0);

        /** {@return whether every line is a row that counts} */
        public boolean isNone() {
            return lines == 0 && afterEnd == 0;
        }
    }

    /**
     * Keys that the lookup lacks.
     *
     * @param lookup the lookup
     * @param rows rows with such a key
     * @param example one of them
     */
    public record UnknownKeys(String lookup, long rows, String example) {}
}
