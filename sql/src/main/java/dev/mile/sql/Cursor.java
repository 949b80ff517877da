package dev.mile.sql;

import dev.mile.calendar.MileException;
import java.sql.ResultSet;
import java.sql.SQLException;

/** The rows of a statement that is still open. */
interface Cursor extends AutoCloseable {
    ResultSet rows();

    /** Returns the error in words. */
    MileException failed(SQLException e);

    @Override
    void close();
}
