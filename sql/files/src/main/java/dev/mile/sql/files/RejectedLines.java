package dev.mile.sql.files;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.SourceLocation;
import dev.mile.engine.FactAccounts;
import dev.mile.sources.RowSink;
import dev.mile.sources.SourceRow;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Refuses lines of files that are no rows. */
final class RejectedLines implements RowSink {
    private static final Pattern PLACE = Pattern.compile("(.+?):([0-9]+): (.*)", Pattern.DOTALL);
    private static final Pattern COUNTS = Pattern.compile("Expected Number of Columns: ([0-9]+) Found: ([0-9]+)");

    /**
     * Requires that all lines are rows.
     *
     * @throws dev.mile.MileException if one is not, at its place
     */
    static void require(FactAccounts.Rejected rejected) {
        if (rejected.lines() == 0) {
            return;
        }
        Matcher place = PLACE.matcher(rejected.example());
        boolean isPlaced = place.matches();
        String why = isPlaced ? place.group(3) : rejected.example();
        String others = rejected.lines() == 1 ? "" : " (and " + (rejected.lines() - 1) + " more)";
        MileException error = DataException.of(
                "this line is no row: %s%s; correct it, or have such lines counted and left out: `rejects: count` at the source, as in"
                        + " {file: NAME, rejects: count}, or FileFormat.withRejectsCounted()",
                why, others);
        throw isPlaced
                ? error.withLocation(SourceLocation.of(place.group(1), Integer.parseInt(place.group(2))))
                : error;
    }

    /** Returns why the database takes a line for no row, in words of ours. */
    static String reason(String message) {
        Matcher counts = COUNTS.matcher(message);
        return counts.find()
                ? "expected " + counts.group(1) + " values, as the header has, found " + counts.group(2)
                : message;
    }

    @Override
    public void columns(List<String> names) {
        // only lines that are no rows are of interest
    }

    @Override
    public void row(SourceRow row) {
        // is one
    }

    @Override
    public void rejected(String place, String why) {
        require(new FactAccounts.Rejected(1, place + ": " + why, 0));
    }
}
