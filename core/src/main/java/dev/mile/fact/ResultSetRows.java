package dev.mile.fact;

import dev.mile.DataException;
import java.sql.Date;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.sql.Types;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Reads what a database answered into columns, by the types of the database. */
final class ResultSetRows {
    /** Adds the value of a row. */
    @FunctionalInterface
    private interface Reader {
        void add() throws SQLException;
    }

    private final ResultSet rows;
    private final ZoneId zone;
    private final TableBuilder table = new TableBuilder();

    private ResultSetRows(ResultSet rows, ZoneId zone) {
        this.rows = rows;
        this.zone = zone;
    }

    /** Returns the rows that are left. */
    static TableBuilder read(ResultSet rows, ZoneId zone) throws SQLException {
        return new ResultSetRows(rows, zone).read();
    }

    private TableBuilder read() throws SQLException {
        ResultSetMetaData columns = rows.getMetaData();
        List<Reader> readers = new ArrayList<>();
        for (int c = 1; c <= columns.getColumnCount(); c++) {
            readers.add(reader(columns, c));
        }
        while (rows.next()) {
            for (Reader reader : readers) {
                reader.add();
            }
        }
        return table;
    }

    private Reader reader(ResultSetMetaData columns, int c) throws SQLException {
        String name = columns.getColumnLabel(c);
        switch (columns.getColumnType(c)) {
            case Types.TINYINT, Types.SMALLINT, Types.INTEGER, Types.BIGINT:
                return whole(table.number(name), c);
            case Types.NUMERIC, Types.DECIMAL:
                TableBuilder.Numbers numbers = table.number(name);
                return () -> numbers.add(rows.getBigDecimal(c));
            case Types.REAL, Types.FLOAT, Types.DOUBLE:
                return floating(table.floating(name), name, c);
            case Types.DATE, Types.TIMESTAMP, Types.TIMESTAMP_WITH_TIMEZONE:
                TableBuilder.Dates dates = table.date(name);
                // some drivers call moments timestamps; the name of the type tells
                boolean moment = columns.getColumnType(c) == Types.TIMESTAMP_WITH_TIMEZONE
                        || columns.getColumnTypeName(c)
                                .toLowerCase(Locale.ROOT)
                                .matches("timestamptz|.*with time zone");
                return () -> dates.add(day(c, moment));
            case Types.CHAR,
                    Types.VARCHAR,
                    Types.LONGVARCHAR,
                    Types.NCHAR,
                    Types.NVARCHAR,
                    Types.LONGNVARCHAR,
                    Types.CLOB,
                    Types.NCLOB,
                    Types.BOOLEAN,
                    Types.BIT,
                    Types.OTHER:
                TableBuilder.Texts texts = table.text(name);
                return () -> texts.add(rows.getString(c));
            default:
                throw DataException.of(
                        "the column '%s' is of the type %s, which Mile does not read; cast it to a number, a date or a text in"
                                + " the query",
                        name, columns.getColumnTypeName(c));
        }
    }

    private Reader whole(TableBuilder.Numbers numbers, int c) {
        return () -> {
            long value = rows.getLong(c);
            if (rows.wasNull()) {
                numbers.addBlank();
            } else {
                numbers.addWhole(value);
            }
        };
    }

    private Reader floating(TableBuilder.Doubles doubles, String name, int c) {
        return () -> {
            double value = rows.getDouble(c);
            if (Double.isNaN(value)) {
                throw DataException.of("the column '%s' holds NaN; correct the data, or leave those rows out", name);
            }
            doubles.add(rows.wasNull() ? Double.NaN : value);
        };
    }

    private @Nullable LocalDate day(int c, boolean moment) throws SQLException {
        if (moment) {
            OffsetDateTime at = rows.getObject(c, OffsetDateTime.class);
            return at == null ? null : at.atZoneSameInstant(zone).toLocalDate();
        }
        Object value = rows.getObject(c);
        if (value instanceof LocalDate date) {
            return date;
        }
        if (value instanceof LocalDateTime time) {
            return time.toLocalDate();
        }
        if (value instanceof Date date) {
            return date.toLocalDate();
        }
        if (value instanceof Timestamp time) {
            return time.toLocalDateTime().toLocalDate();
        }
        if (value == null) {
            return null;
        }
        throw DataException.of(
                "the column '%s' holds dates as %s, which Mile does not read; cast it to a date in the query",
                rows.getMetaData().getColumnLabel(c), value.getClass().getName());
    }
}
