package dev.mile.sql.query;

import dev.mile.engine.DailyTotals;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;

/**
 * Different values that the embedded database hands over as one text a day, since each value of a list costs many times as much on
 * its way to Java. A separator comes between them; where a value holds it, it is escaped.
 */
public final class DelimitedStringsReader extends ColumnReader {
    /** How many columns are read: the texts, and how many there are. */
    public static final int COLUMNS = 2;

    private static final char BETWEEN = 31;
    private static final char MARK = 30;
    private static final char BETWEEN_INSIDE = 'b';
    private static final char MARK_INSIDE = 'm';

    private String[][] texts = new String[64][];

    public DelimitedStringsReader(int at) {
        super(at);
    }

    /** Returns the SQL that joins a list of texts. */
    public static String sql(String list) {
        String mark = "chr(" + (int) MARK + ")";
        String between = "chr(" + (int) BETWEEN + ")";
        return "array_to_string(list_transform(list_filter(" + list + ", x -> x IS NOT NULL), x -> replace(replace(x, "
                + mark + ", " + mark + " || '" + MARK_INSIDE + "'), " + between + ", " + mark + " || '" + BETWEEN_INSIDE
                + "')), " + between + "), len(list_filter(" + list + ", x -> x IS NOT NULL))";
    }

    @Override
    void read(ResultSet row, int place) throws SQLException {
        if (place == texts.length) {
            texts = Arrays.copyOf(texts, place * 2);
        }
        // no value and one that is empty look alike but for their number
        int size = row.getInt(at + 1);
        texts[place] = size == 0 ? null : parted(row.getString(at), size);
    }

    private static String[] parted(String joined, int size) {
        String[] parts = new String[size];
        int from = 0;
        for (int i = 0; i < size; i++) {
            int to = i == size - 1 ? joined.length() : joined.indexOf(BETWEEN, from);
            String part = joined.substring(from, to);
            parts[i] = part.indexOf(MARK) < 0 ? part : inside(part);
            from = to + 1;
        }
        return parts;
    }

    private static String inside(String part) {
        return part.replace("" + MARK + BETWEEN_INSIDE, "" + BETWEEN).replace("" + MARK + MARK_INSIDE, "" + MARK);
    }

    @Override
    DailyTotals take(int size) {
        return new DailyTotals.StringSets(Arrays.copyOf(texts, size));
    }
}
