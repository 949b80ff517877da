package dev.mile.examples;

import static dev.mile.fact.Condition.column;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Condition;
import dev.mile.fact.CoveredDays;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.report.Finding;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.span.Span;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import java.util.Map;

/** Rows out of a query, conditions in Java, and figures back by their names: Mile inside another program. */
public final class FromAnswerToProgram {
    private FromAnswerToProgram() {}

    /** Prints figures of a report, one by one. */
    public static void main(String[] args) throws SQLException {
        Grid grid = compute();
        BigDecimal sales = grid.row("FY2026 Q1").number("sales").orElseThrow();
        System.out.println("sales of the first quarter: " + sales);
        System.out.println("growth: " + grid.row("FY2026 Q1").number("growth").orElse(null));
        for (Map<String, Object> row : grid.toMaps()) {
            System.out.println(row);
        }
    }

    static Project.Builder project() {
        Measure value = Measure.aggregate(
                Measure.Aggregation.SUM, "sales", RowExpression.column("units").times(RowExpression.column("price")));
        Condition kept = column("shop")
                .in("Alderwick", "Brambleford")
                .and(column("units").moreThan(0));
        return Project.named("Fernhollow Garden Centres")
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .fact(Fact.of("sales", "sold", "day").withCoveredDays(CoveredDays.from(LocalDate.of(2025, 1, 1))))
                .measure("sales", value.where(kept))
                .measure("sales_ly", Measure.named("sales").over(Span.back(1, Level.YEAR)))
                .measure(
                        "growth",
                        Measure.named("sales").minus(Measure.named("sales_ly")).dividedBy(Measure.named("sales_ly")));
    }

    static Grid compute() throws SQLException {
        Project project = project().build();
        MemoryEngine engine = MemoryEngine.over(project).rows("sales", rows());
        try (Session session = Session.open(project, engine)) {
            return session.report(Report.of("quarters", List.of("quarter"), List.of("sales", "growth")));
        }
    }

    /** What is wrong with a project, all of it at once. */
    static List<Finding> faults() {
        return project()
                .measure("margin", Measure.named("salse").minus(Measure.named("cost")))
                .validate();
    }

    private static Table rows() throws SQLException {
        try (Connection database = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = database.createStatement();
                ResultSet answer =
                        statement.executeQuery("SELECT DATE '2025-02-03' AS day, 'Alderwick' AS shop, 4 AS units,"
                                + " CAST(2.50 AS DECIMAL(9, 2)) AS price UNION ALL SELECT DATE '2026-02-03', 'Alderwick', 5, 2.60"
                                + " UNION ALL SELECT DATE '2026-03-31', 'Corvedale', 9, 9.99")) {
            return Table.from(answer);
        }
    }
}
