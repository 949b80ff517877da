package dev.mile.sql.query;

import dev.mile.MileException;
import java.sql.ResultSet;
import java.sql.SQLException;

/** The rows of a statement that is still open. */
public interface Cursor extends AutoCloseable {
    ResultSet rows();

    /** Returns the error in words. */
    MileException failed(SQLException e);

    @Override
    void close();
}
