package dev.mile.sql.query;

import dev.mile.StoppedException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.RowOutcomeCounts;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Table;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.Map;

/** Reads totals from rows that come by group and day: first the group, then day, rows, and the columns. */
public abstract class ResultSetTotalsCursor implements TotalsCursor {
    public final ColumnReader[] readers;
    private final TotalsStatement statement;
    private final TotalsRequest request;
    private final DateRange placed;
    private final int dayAt;
    private final RowOutcomeCounts rows = new RowOutcomeCounts();

    private int[] days = new int[64];
    private int size;
    private boolean done;

    /**
     * Returns a reader.
     *
     * @param dayAt the position of the day in a row, counted from one; its number of rows follows, then the columns
     */
    public ResultSetTotalsCursor(TotalsStatement statement, TotalsRequest request, DateRange placed, int dayAt) {
        this.statement = statement;
        this.request = request;
        this.placed = placed;
        this.dayAt = dayAt;
        this.readers = new ColumnReader[request.columns().size()];
    }

    /** Returns the rows. */
    protected abstract Cursor cursor();

    /** Returns whether the row is of another group than the one before, and remembers its group as the next. */
    protected abstract boolean startsNewGroup(ResultSet row) throws SQLException;

    /** Returns the members of the group whose last day was read. */
    protected abstract String[] members() throws SQLException;

    /** Takes the group of the last row read as the one whose days come now. */
    protected abstract void advance();

    @Override
    public final GroupTotals next() {
        try {
            return done ? null : read();
        } catch (SQLException e) {
            throw cursor().failed(e);
        }
    }

    private GroupTotals read() throws SQLException {
        ResultSet row = cursor().rows();
        while (row.next()) {
            StoppedException.throwIfInterrupted(Thread.currentThread());
            GroupTotals finished = startsNewGroup(row) ? group() : null;
            advance();
            day(row);
            if (finished != null) {
                return finished;
            }
        }
        done = true;
        return group();
    }

    private void day(ResultSet row) throws SQLException {
        int day = count(row, dayAt);
        if (day < request.days().firstEpochDay() || day > request.days().lastEpochDay()) {
            return;
        }
        if (size == days.length) {
            days = Arrays.copyOf(days, size * 2);
        }
        days[size] = day;
        for (ColumnReader reader : readers) {
            if (reader != null) {
                reader.read(row, size);
            }
        }
        size++;
    }

    /** Counts the rows of a day, which comes just before their number; returns the day. */
    public final int count(ResultSet row, int at) throws SQLException {
        int day = row.getInt(at);
        day = row.wasNull() ? Table.NO_DATE : day;
        rows.add(RoleAccounts.RowOutcome.of(day, placed), row.getLong(at + 1));
        return day;
    }

    /** Returns the group read so far; null where it has no day that counts. */
    private GroupTotals group() throws SQLException {
        if (size == 0) {
            return null;
        }
        DailyTotals[] values = new DailyTotals[readers.length];
        for (int c = 0; c < values.length; c++) {
            values[c] = readers[c] == null ? values[statement.same(c)] : readers[c].take(size);
        }
        GroupTotals group = new GroupTotals(members(), Arrays.copyOf(days, size), values);
        size = 0;
        return group;
    }

    @Override
    public final Map<RoleAccounts.RowOutcome, Long> rowOutcomes() {
        return rows.byOutcome();
    }
}
