package dev.mile.sql.files;

import dev.mile.calendar.DateRange;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsRequest;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.duckdb.BucketTable;
import dev.mile.sql.query.ColumnReader;
import dev.mile.sql.query.Cursor;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.ResultSetTotalsCursor;
import dev.mile.sql.query.TotalsStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;

/**
 * Totals of the embedded database, in a table of their own until they are read. What is read for each group and day is numbers
 * alone, groups by number and amounts by their digits: texts and wide decimals cost many times as much on their way to Java.
 */
final class DuckDbTotalsCursor extends ResultSetTotalsCursor {
    private final Database database;
    private final String table;
    private final String groups;
    private final TotalsRequest request;
    private final TotalsStatement statement;
    private final Map<Integer, DistinctValues> distinct = new LinkedHashMap<>();
    private final BucketTable buckets;
    private final Cursor names;
    private final Cursor cursor;
    private final int width;
    private final long all;
    private int code = 1;
    private int ahead = 1;
    private int named;

    DuckDbTotalsCursor(Database database, TotalsStatement statement, TotalsRequest request, DateRange placed) {
        super(statement, request, placed, 2);
        this.database = database;
        this.buckets = request.buckets().isDaily() ? null : new BucketTable(database, request);
        this.request = request;
        this.statement = statement;
        String id = UUID.randomUUID().toString();
        this.table = Sql.name("totals " + id);
        this.groups = Sql.name("groups " + id);
        this.width = request.groups().size();
        Cursor first = null;
        try {
            database.run("CREATE TABLE " + table + " AS " + grouped());
            if (buckets != null) {
                countOthers();
            }
            String read = select();
            if (width == 0) {
                names = null;
                all = 1;
                cursor = database.open("SELECT 1, epoch_day, n" + read + " FROM " + table + " ORDER BY epoch_day");
                return;
            }
            List<String> own = new ArrayList<>();
            List<String> order = new ArrayList<>();
            List<String> same = new ArrayList<>();
            for (int g = 0; g < width; g++) {
                own.add("g" + g);
                order.add("g" + g + " NULLS LAST");
                same.add("t.g" + g + " IS NOT DISTINCT FROM g.g" + g);
            }
            String list = String.join(", ", own);
            database.run("CREATE TABLE " + groups + " AS SELECT " + list
                    + ", CAST(row_number() OVER (ORDER BY " + String.join(", ", order) + ") AS INTEGER) AS code FROM"
                    + " (SELECT DISTINCT " + list + " FROM " + table + ")");
            all = number("SELECT count(*) FROM " + groups);
            first = database.open("SELECT " + list + " FROM " + groups + " ORDER BY code");
            cursor = database.open("SELECT code, epoch_day, n" + read + " FROM " + table + " AS t JOIN " + groups
                    + " AS g ON " + String.join(" AND ", same) + " ORDER BY code, epoch_day");
            names = first;
        } catch (RuntimeException e) {
            if (first != null) {
                first.close();
            }
            drop();
            throw e;
        }
    }

    private String grouped() {
        TotalsStatement numbered = statement;
        for (int c = 0; c < statement.columns().size(); c++) {
            Optional<String> value = statement.columns().get(c).distinct();
            if (value.isPresent() && statement.same(c) < 0) {
                DistinctValues values = DistinctValues.of(database, statement, value.get());
                distinct.put(c, values);
                numbered = values.in(numbered, c);
            }
        }
        TotalsStatement all = numbered;
        return buckets == null
                ? all.grouped()
                : MemberCodes.grouped(database, all, buckets)
                        .orElseGet(() -> buckets.of(all).grouped());
    }

    /** Counts the rows of days outside the buckets, if there are any, since no row is to be lost. */
    private void countOthers() {
        boolean all = statement.keep().equals("true");
        if (all && number(statement.all()) == number("SELECT sum(n) FROM " + table)) {
            return;
        }
        database.query(statement.outside(request.days()), row -> {
            count(row, 1);
            return 1;
        });
    }

    private long number(String sql) {
        return database.query(sql, row -> row.getLong(1)).get(0);
    }

    /** Returns the columns to read, each with its reader: digits of amounts as whole numbers, if all fit. */
    private String select() {
        StringBuilder read = new StringBuilder();
        Map<String, Integer> scales = scales();
        int at = 4;
        for (int c = 0; c < readers.length; c++) {
            if (statement.same(c) >= 0) {
                continue;
            }
            TotalColumn column = request.columns().get(c);
            Integer scale = scales.get("c" + c);
            boolean amount = column.kind() != TotalColumn.Kind.ROWS
                    && column.kind() != TotalColumn.Kind.COUNT
                    && column.kind() != TotalColumn.Kind.DISTINCT;
            if (amount && scale != null) {
                readers[c] = ColumnReader.digits(at++, scale);
                read.append(", CAST(CAST(c")
                        .append(c)
                        .append(" AS DECIMAL(18, ")
                        .append(scale);
                read.append(")) * 1").append("0".repeat(scale)).append(" AS BIGINT)");
            } else if (distinct.containsKey(c)) {
                readers[c] = ColumnReader.numbered(at++, distinct.get(c).texts());
                read.append(", array_to_string(c").append(c).append(", ',')");
            } else {
                readers[c] = ColumnReader.of(column, at++);
                read.append(", ").append(statement.name(c));
            }
        }
        return read.toString();
    }

    /** Returns the places behind the point of the columns whose digits fit into a whole number of 64 bits. */
    private Map<String, Integer> scales() {
        Map<String, Integer> scales = new LinkedHashMap<>();
        database.query("DESCRIBE " + table, row -> {
            String type = row.getString(2);
            if (row.getString(1).startsWith("c") && type.startsWith("DECIMAL(")) {
                scales.put(
                        row.getString(1),
                        Integer.valueOf(type.substring(type.indexOf(',') + 1, type.length() - 1)
                                .strip()));
            } else if (row.getString(1).startsWith("c") && type.matches("(TINY|SMALL|BIG|HUGE)?INT(EGER)?")) {
                scales.put(row.getString(1), 0);
            }
            return 1;
        });
        scales.values().removeIf(scale -> scale >= DailyTotals.MOST_DIGITS);
        if (scales.isEmpty()) {
            return scales;
        }
        List<String> asked = new ArrayList<>();
        scales.forEach((column, scale) -> asked.add("coalesce(max(" + column + ") < 1"
                + "0".repeat(DailyTotals.MOST_DIGITS - scale) + " AND min(" + column + ") > -1"
                + "0".repeat(DailyTotals.MOST_DIGITS - scale) + ", true)"));
        List<String> columns = List.copyOf(scales.keySet());
        database.query("SELECT " + String.join(", ", asked) + " FROM " + table, row -> {
            for (int c = 0; c < columns.size(); c++) {
                if (!row.getBoolean(c + 1)) {
                    scales.remove(columns.get(c));
                }
            }
            return 1;
        });
        return scales;
    }

    @Override
    public double progress() {
        return (double) code / all;
    }

    @Override
    protected Cursor cursor() {
        return cursor;
    }

    @Override
    protected boolean startsNewGroup(ResultSet row) throws SQLException {
        ahead = row.getInt(1);
        return ahead != code;
    }

    @Override
    protected void advance() {
        code = ahead;
    }

    @Override
    protected String[] members() throws SQLException {
        while (names != null && named < code) {
            names.rows().next();
            named++;
        }
        String[] own = new String[width];
        for (int g = 0; g < own.length; g++) {
            own[g] = names.rows().getString(g + 1);
        }
        return own;
    }

    @Override
    public void close() {
        cursor.close();
        if (names != null) {
            names.close();
        }
        drop();
    }

    private void drop() {
        database.drop(table, groups);
        distinct.values().forEach(values -> database.drop(values.table()));
        if (buckets != null) {
            buckets.drop();
        }
    }
}
