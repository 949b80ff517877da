package dev.mile.bench;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;

/** A program that runs the SQL by hand once, or only opens the database: what a process of Mile is measured by. */
public final class HandSql {
    private HandSql() {}

    /**
     * Runs it.
     *
     * @param args a Parquet file of sales; none for the database alone
     */
    public static void main(String[] args) throws Exception {
        String sql = args.length == 0 ? "SELECT 1" : SalesData.byHand("read_parquet('" + args[0] + "')");
        long rows = 0;
        try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = connection.createStatement();
                ResultSet result = statement.executeQuery(sql)) {
            while (result.next()) {
                rows++;
            }
        }
        System.out.println(rows);
    }
}
