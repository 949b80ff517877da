package dev.mile.sql.query;

import dev.mile.calendar.DateRange;
import dev.mile.engine.TotalsRequest;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;

/** Reads the totals of a statement in which each row has the members of its group. */
final class JdbcTotalsCursor extends ResultSetTotalsCursor {
    private final Cursor cursor;
    private String[] members;
    private String[] ahead;

    JdbcTotalsCursor(Cursor cursor, TotalsStatement statement, TotalsRequest request, DateRange placed) {
        super(statement, request, placed, request.groups().size() + 1);
        this.cursor = cursor;
        int at = request.groups().size() + 3;
        for (int c = 0; c < readers.length; c++) {
            if (statement.same(c) < 0) {
                int place = statement.isRows(c) ? request.groups().size() + 2 : at++;
                readers[c] = ColumnReader.of(request.columns().get(c), place);
            }
        }
        this.ahead = new String[request.groups().size()];
    }

    @Override
    protected Cursor cursor() {
        return cursor;
    }

    @Override
    protected boolean startsNewGroup(ResultSet row) throws SQLException {
        String[] here = new String[ahead.length];
        for (int g = 0; g < here.length; g++) {
            here[g] = row.getString(g + 1);
        }
        ahead = here;
        return members != null && !Arrays.equals(here, members);
    }

    @Override
    protected String[] members() {
        return members;
    }

    @Override
    protected void advance() {
        members = ahead;
    }

    @Override
    public void close() {
        cursor.close();
    }
}
