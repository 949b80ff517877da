package dev.mile.examples;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.dimension.DateDimension;
import dev.mile.render.text.DatesSql;
import dev.mile.render.text.DatesTable;
import dev.mile.workday.HolidayDate;
import dev.mile.workday.HolidayObservance;
import dev.mile.workday.HolidayRule;
import dev.mile.workday.WorkingWeek;
import java.io.IOException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.MonthDay;
import java.util.List;

/** A date dimension of two calendars, loaded into a database with one view a date role. */
public final class DatesIntoDatabase {
    private DatesIntoDatabase() {}

    /** Loads the dimension into an embedded database and asks it a question. */
    public static void main(String[] args) throws SQLException, IOException {
        try (Connection database = DriverManager.getConnection("jdbc:duckdb:")) {
            System.out.println(load(database));
        }
    }

    static String load(Connection database) throws SQLException, IOException {
        DateDimension dimension = DateDimension.over(DateRange.of(LocalDate.of(2023, 1, 1), LocalDate.of(2026, 12, 31)))
                .calendar("fiscal", FiscalCalendar.startingIn(Month.APRIL))
                .calendar(
                        "retail",
                        FiscalCalendar.weeks("4-5-4")
                                .endingNearest(DayOfWeek.SATURDAY, MonthDay.of(Month.JANUARY, 31))
                                .namedForStart())
                .working(WorkingWeek.named("shops")
                        .rest(DayOfWeek.SUNDAY)
                        .holiday(HolidayRule.of("New Year", HolidayDate.parse("january 1"))
                                .observed(HolidayObservance.NEXT_WORKING_DAY))
                        .build())
                .build();
        StringBuilder script = new StringBuilder();
        DatesSql.write(DatesTable.all(dimension), "dates", List.of("ordered", "dispatched"), script);
        try (Statement statement = database.createStatement()) {
            statement.execute(script.toString());
            try (ResultSet row = statement.executeQuery(
                    "SELECT count(DISTINCT ordered_retail_week_label) FROM ordered_dates WHERE ordered_retail_year = 2023")) {
                row.next();
                return "The retail year 2023 has " + row.getInt(1) + " weeks.";
            }
        }
    }
}
