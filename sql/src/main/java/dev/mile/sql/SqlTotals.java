package dev.mile.sql;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.MileException;
import dev.mile.fact.TotalsRequest;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;

/** Reads the totals of a statement in which each row has the members of its group. */
final class SqlTotals extends ReadTotals {
    private final Cursor cursor;
    private String[] members;
    private String[] ahead;

    SqlTotals(Cursor cursor, TotalsStatement statement, TotalsRequest request, DateRange placed) {
        super(statement, request, placed, request.groups().size() + 1);
        this.cursor = cursor;
        int at = request.groups().size() + 3;
        for (int c = 0; c < readers.length; c++) {
            readers[c] =
                    statement.same(c) < 0 ? ColumnReader.of(request.columns().get(c), at++) : null;
        }
        this.ahead = new String[request.groups().size()];
    }

    @Override
    Cursor cursor() {
        return cursor;
    }

    @Override
    boolean another(ResultSet row) throws SQLException {
        String[] here = new String[ahead.length];
        for (int g = 0; g < here.length; g++) {
            here[g] = row.getString(g + 1);
        }
        ahead = here;
        return members != null && !Arrays.equals(here, members);
    }

    @Override
    String[] members() {
        return members;
    }

    @Override
    void proceed() {
        members = ahead;
    }

    @Override
    public void close() {
        cursor.close();
    }

    static MileException notFinite() {
        return MileException.data("a column holds an infinite number or NaN; mend the data");
    }
}
