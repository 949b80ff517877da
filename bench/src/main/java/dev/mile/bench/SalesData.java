package dev.mile.bench;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.DataSchema;
import dev.mile.engine.Source;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.measure.Measure;
import dev.mile.report.DateBound;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.span.Span;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.time.Month;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Sales that are made up: six years, shops and categories drawn by a hash, amounts of up to 1,000 with cents. */
final class SalesData {
    static final LocalDate FIRST = LocalDate.parse("2020-01-01");
    static final LocalDate LAST = LocalDate.parse("2025-12-31");
    private static final long DAYS = LAST.toEpochDay() - FIRST.toEpochDay() + 1;

    private SalesData() {}

    /** Returns the query that makes a number of rows for a number of shops. */
    static String rows(long rows, long shops) {
        return "SELECT DATE '" + FIRST + "' + CAST(i * " + DAYS + " // " + rows + " AS INTEGER) AS day, 'S' || "
                + "lpad(CAST(hash(i) % " + shops
                + " AS VARCHAR), 8, '0') AS shop, 'C' || CAST(hash(i * 7) % 12 AS VARCHAR)"
                + " AS category, CAST((hash(i * 3) % 100000) / 100.0 AS DECIMAL(9, 2)) AS amount FROM range(" + rows
                + ") t(i)";
    }

    /** Makes a Parquet file once; shuffled or in the order of dates. */
    static Path parquet(Path folder, long rows, long shops, boolean shuffled) throws IOException, SQLException {
        Files.createDirectories(folder);
        Path file = folder.resolve("sales-" + rows + "-" + shops + (shuffled ? "-shuffled" : "") + ".parquet");
        if (!Files.exists(file)) {
            Path unfinished = folder.resolve(file.getFileName() + ".part");
            try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                    Statement statement = connection.createStatement()) {
                statement.execute("SET temp_directory = '" + folder + "'");
                statement.execute("COPY (" + rows(rows, shops) + (shuffled ? " ORDER BY hash(i * 11)" : "") + ") TO '"
                        + unfinished + "' (FORMAT PARQUET)");
            }
            Files.move(unfinished, file);
        }
        return file;
    }

    /** Returns the schema of the project whose rows are in the file. */
    static DataSchema schema(Path file) {
        return project().schema().withSources(Map.of("sales", Source.files(file.toString())));
    }

    private static final List<String> SHOWN = List.of("sales", "ytd", "ly", "lytd", "r12", "growth");

    static final Fact SALES = Fact.of("sales", "ordered", "day");

    /**
     * Returns the model: month, year to date, last year, last year's year to date, rolling 12 months and growth, by month and shop;
     * {@code more} has 20 further measures of months and quarters, {@code weeks} 20 of months and weeks, {@code short} and {@code long} windows of 7 and 700 days.
     */
    static Project project() {
        return project(SALES).build();
    }

    /** Returns the model with a list of customers, of whom each row names one; {@code regions} has the six measures by month and region. */
    static Project projectWithCustomers() {
        return project(SALES.withLink("customer", "customers"))
                .lookup(new Lookup("customers", "customer", Map.of()))
                .report(Report.of("regions", List.of("month", "customers.region"), SHOWN)
                        .withTotals(false))
                .build();
    }

    /** Returns the model with a report {@code ends} of one measure: the last days of each month, the last day, the last two and so on. */
    static Project projectOfMonthEnds(int days) {
        Measure sales = Measure.named("sales");
        Measure ends = sales.over(Span.trailing(1, Level.DAY));
        for (int last = 2; last <= days; last++) {
            ends = ends.plus(sales.over(Span.trailing(last, Level.DAY)));
        }
        return project(SALES)
                .measure("ends", ends)
                .report(Report.of("ends", List.of("month", "shop"), List.of("ends"))
                        .withTotals(false))
                .build();
    }

    private static Project.Builder project(Fact fact) {
        Measure sales = Measure.named("sales");
        Measure lastYear = sales.over(Span.back(1, Level.YEAR));
        Project.Builder project = Project.named("bench")
                .asOf(LAST)
                .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(FIRST), DateBound.at(LAST))
                .fact(fact)
                .measure("sales", Measure.sum("sales", "amount"))
                .measure("ytd", sales.over(Span.toDate(Level.YEAR)))
                .measure("ly", lastYear)
                .measure("lytd", sales.over(Span.back(1, Level.YEAR).then(Span.toDate(Level.YEAR))))
                .measure("r12", sales.over(Span.trailing(12, Level.PERIOD)))
                .measure("growth", sales.minus(lastYear).dividedBy(lastYear))
                .measure("days7", sales.over(Span.trailing(7, Level.DAY)))
                .measure("days700", sales.over(Span.trailing(700, Level.DAY)));
        List<String> more = new ArrayList<>(SHOWN);
        List<String> weeks = new ArrayList<>(SHOWN);
        for (int i = 1; i <= 20; i++) {
            Measure year = i % 2 == 0 ? sales : lastYear;
            project.measure("more" + i, year.over(Span.trailing(i + 1, i % 3 == 0 ? Level.QUARTER : Level.PERIOD)));
            project.measure("weeks" + i, sales.over(Span.trailing(i + 1, i % 2 == 0 ? Level.PERIOD : Level.WEEK)));
            more.add("more" + i);
            weeks.add("weeks" + i);
        }
        List<String> parts = List.of("month", "shop");
        return project.report(Report.of("six", parts, SHOWN).withTotals(false))
                .report(Report.of("more", parts, more).withTotals(false))
                .report(Report.of("weeks", parts, weeks).withTotals(false))
                .report(Report.of("short", parts, List.of("days7")).withTotals(false))
                .report(Report.of("long", parts, List.of("days700")).withTotals(false))
                .report(Report.of("years", List.of("shop", "year"), SHOWN).withTotals(false))
                .report(Report.of("shops", List.of("shop", "month"), SHOWN).withTotals(false));
    }

    /** The least that any way to the report reads: each value of its three columns, once. */
    static String scan(String from) {
        return "SELECT sum(amount), min(day), max(shop) FROM " + from;
    }

    /**
     * The report as an engineer would write it by hand: days first, which is faster than months at once, months out of them, and
     * window functions over months. It is right only since the as-of date ends a month, and every shop sells in every month.
     */
    static String byHand(String from) {
        return "WITH days AS (SELECT shop, day, sum(amount) AS amount FROM " + from + " GROUP BY 1, 2),"
                + " months AS (SELECT shop, date_trunc('month', day) AS month, sum(amount) AS sales FROM days GROUP BY 1, 2),"
                + " running AS (SELECT shop, month, sales,"
                + " sum(sales) OVER (PARTITION BY shop, year(month) ORDER BY month) AS ytd,"
                + " lag(sales, 12) OVER (PARTITION BY shop ORDER BY month) AS ly,"
                + " sum(sales) OVER (PARTITION BY shop ORDER BY month ROWS 11 PRECEDING) AS r12 FROM months)"
                + " SELECT month, shop, sales, ytd, ly, lag(ytd, 12) OVER (PARTITION BY shop ORDER BY month) AS lytd, r12,"
                + " (sales - ly) / ly AS growth FROM running ORDER BY month, shop";
    }
}
