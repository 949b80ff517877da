package dev.mile.render.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import biweekly.Biweekly;
import biweekly.ICalendar;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.PeriodEnd;
import dev.mile.dimension.DateColumn;
import dev.mile.dimension.DateDimension;
import dev.mile.dimension.DimensionCheck;
import dev.mile.dimension.Event;
import dev.mile.dimension.EventColumn;
import dev.mile.render.layout.Csv;
import dev.mile.workday.HolidayDate;
import dev.mile.workday.HolidayObservance;
import dev.mile.workday.HolidayRule;
import dev.mile.workday.WorkingWeek;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.StringWriter;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.MonthDay;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DatesOutputTest {
    private static final FiscalCalendar RETAIL = FiscalCalendar.weeks("4-5-4")
            .endingNearest(DayOfWeek.SATURDAY, MonthDay.of(Month.JANUARY, 31))
            .namedForStart();
    private static final WorkingWeek WEEK = WorkingWeek.named("shops")
            .rest(DayOfWeek.SUNDAY)
            .holiday(HolidayRule.of("O'Hara's \"day\"", HolidayDate.parse("may 1"))
                    .observed(HolidayObservance.NEXT_WORKING_DAY))
            .specialDay(LocalDate.parse("2024-12-24"), "Half", new java.math.BigDecimal("0.5"))
            .build();

    private static DateDimension dimension(String locale) {
        return DateDimension.over(DateRange.of(LocalDate.parse("2023-05-01"), LocalDate.parse("2024-06-01")))
                .calendar("fiscal", FiscalCalendar.startingIn(Month.APRIL))
                .calendar("retail", RETAIL)
                .working(WEEK)
                .events(EventColumn.of(
                        "promotions",
                        List.of(Event.of(
                                DateRange.of(LocalDate.parse("2024-03-01"), LocalDate.parse("2024-03-03")), "=1+2"))))
                .asOf(LocalDate.parse("2024-03-10"))
                .locale(Locale.forLanguageTag(locale))
                .build();
    }

    private static String csv(DatesTable table) throws IOException {
        StringBuilder out = new StringBuilder();
        DatesCsv.write(table, out);
        return out.toString();
    }

    private static List<List<String>> lines(String csv) {
        return Stream.of(csv.split("\n")).map(l -> List.of(l.split(",", -1))).toList();
    }

    @Test
    void theRangeIsWidenedToTheYearsOfEveryCalendar() {
        DateDimension dimension = dimension("en");
        // 2023-05-01 is in the retail year from 2023-01-29; 2024-06-01 in the fiscal year to 2025-03-31
        assertThat(dimension.range()).hasToString("2023-01-29..2025-03-31");
        assertThat(dimension
                        .column("fiscal_part_year")
                        .orElseThrow()
                        .value(dimension.range().firstEpochDay()))
                .isEqualTo(true);
        assertThat(dimension
                        .column("retail_part_year")
                        .orElseThrow()
                        .value(dimension.range().firstEpochDay()))
                .isEqualTo(false);
    }

    // by hand: the last day of the 53-week year, a half day, the first day after the as-of date
    @ParameterizedTest(name = "{0}: {1} is {2}")
    @CsvSource({
        "2024-02-03, retail_week, 53",
        "2024-02-03, retail_period_days, 35",
        "2024-02-03, retail_day_of_year, 371",
        "2024-02-03, retail_year_ago, ''",
        "2024-02-03, iso_week, 5",
        "2024-02-03, week_of_month, 1",
        "2024-02-05, week_of_month, 2",
        "2024-12-24, day_type, part",
        "2024-12-24, working_day_of_month, 19.5",
        "2024-12-24, is_working_day, true",
        "2024-03-11, days_from_as_of, 1",
        "2024-03-11, has_actuals, no",
        "2024-03-10, has_actuals, yes",
        "2024-04-01, fiscal_periods_from_as_of, 1",
        "2024-02-29, fiscal_year_ago, 2023-02-28",
        "2024-03-02, promotions, =1+2",
        "2024-05-01, day_type, holiday",
        "2024-02-29, date_key, 20240229",
        "2024-02-29, fiscal_day_of_period, 29"
    })
    void columnsHaveTheirValues(LocalDate date, String column, String value) {
        assertThat(DatesTable.text(dimension("en").column(column).orElseThrow().value((int) date.toEpochDay())))
                .isEqualTo(value);
    }

    @ParameterizedTest
    @CsvSource({"en, May, Monday", "de, Mai, Montag", "es, mayo, lunes", "ja, 5月, 月曜日"})
    void namesFollowTheLocaleWithSortKeysBesideThem(String locale, String month, String weekday) {
        DateDimension dimension = dimension(locale);
        int day = (int) LocalDate.parse("2023-05-01").toEpochDay();
        assertThat(dimension.column("month_name").orElseThrow().value(day)).isEqualTo(month);
        assertThat(dimension.column("weekday_name").orElseThrow().value(day)).isEqualTo(weekday);
        assertThat(dimension.column("weekday_name").orElseThrow().sortBy()).isEqualTo("weekday");
    }

    /** Years whose periods, some of a single day, are of other lengths than a year ago. */
    private static FiscalCalendar uneven() {
        int[][] lengths = {{40, 1, 90, 230}, {41, 2, 80, 240}, {39, 1, 95, 228}};
        LocalDate begins = LocalDate.parse("2023-01-01");
        List<PeriodEnd> ends = new ArrayList<>();
        LocalDate end = begins.minusDays(1);
        for (int year = 0; year < lengths.length; year++) {
            for (int period = 0; period < lengths[year].length; period++) {
                end = end.plusDays(lengths[year][period]);
                ends.add(PeriodEnd.of(end, 2023 + year, period + 1));
            }
        }
        return FiscalCalendar.listed(begins, ends);
    }

    private static DateDimension ofManyCalendars() {
        return DateDimension.over(DateRange.of(LocalDate.parse("2008-01-01"), LocalDate.parse("2030-12-31")))
                .calendar("civil", FiscalCalendar.civil())
                .calendar("tax", FiscalCalendar.startingOn(Month.APRIL, 6))
                .calendar("iso", FiscalCalendar.iso())
                .calendar(
                        "retail",
                        FiscalCalendar.weeks("4-5-4").endingNearest(DayOfWeek.SATURDAY, MonthDay.of(Month.JANUARY, 31)))
                .calendar("listed", uneven())
                .calendar("last", FiscalCalendar.weeks("4-4-5").endingOnLast(DayOfWeek.FRIDAY, Month.SEPTEMBER))
                .working(WEEK)
                .asOf(LocalDate.parse("2024-03-10"))
                .weekStarts(DayOfWeek.SUNDAY)
                .build();
    }

    @Test
    void columnsKeepTheirValueOrRiseAsLongAsTheySay() {
        DateDimension dimension = ofManyCalendars();
        for (DateColumn column : dimension.columns()) {
            int constantUntil = Integer.MIN_VALUE;
            int risesUntil = Integer.MIN_VALUE;
            Object value = null;
            for (int day = dimension.range().firstEpochDay();
                    day <= dimension.range().lastEpochDay();
                    day++) {
                Object before = value;
                value = column.value(day);
                if (day <= constantUntil) {
                    assertThat(value).as(column.name()).isEqualTo(before);
                }
                if (day <= risesUntil) {
                    assertThat(value)
                            .as(column.name())
                            .isEqualTo(
                                    before instanceof LocalDate date
                                            ? date.plusDays(1)
                                            : before instanceof BigDecimal number
                                                    ? number.add(BigDecimal.ONE)
                                                    : (Object) ((Integer) before + 1));
                }
                constantUntil = column.constantUntil(day);
                risesUntil = value == null ? day : column.risesUntil(day);
                assertThat(Math.min(constantUntil, risesUntil)).isGreaterThanOrEqualTo(day);
            }
        }
    }

    @Test
    void everyValueIsWrittenAsItIs(@TempDir Path folder) throws IOException {
        DatesTable table = DatesTable.all(ofManyCalendars());
        StringBuilder expected = new StringBuilder();
        Csv.line(expected, table.columns().stream().map(DateColumn::name).toList());
        for (int day = table.days().firstEpochDay(); day <= table.days().lastEpochDay(); day++) {
            int at = day;
            Csv.line(
                    expected,
                    table.columns().stream()
                            .map(column -> column.value(at))
                            .map(value -> value instanceof BigDecimal number
                                    ? number.toPlainString()
                                    : Objects.toString(value, ""))
                            .toList());
        }
        Path file = folder.resolve("dates.csv");
        DatesCsv.write(table, file);
        assertThat(Files.readString(file).equals(expected.toString())).isTrue();
        assertThat(csv(table).equals(expected.toString())).isTrue();
    }

    @Test
    void theSqlRunsOnPostgresAndOnDuckDbAndGivesTheSameRows() throws Exception {
        DatesTable table = DatesTable.all(dimension("en"));
        StringBuilder script = new StringBuilder();
        DatesSql.write(table, "dates", List.of("ordered", "dispatched"), script);
        assertThat(script.toString()).doesNotContain("DROP");
        try (EmbeddedPostgres postgres = EmbeddedPostgres.start();
                Connection server = postgres.getPostgresDatabase().getConnection();
                Connection embedded = DriverManager.getConnection("jdbc:duckdb:")) {
            List<String> expected = rows(table);
            for (Connection connection : List.of(server, embedded)) {
                try (Statement statement = connection.createStatement()) {
                    statement.execute(script.toString());
                    // a table that is there is left alone
                    assertThatThrownBy(() -> statement.execute(script.toString()))
                            .hasMessageContaining("already exists");
                }
                try (Statement statement = connection.createStatement()) {
                    statement.execute("ROLLBACK");
                }
                assertThat(query(
                                connection,
                                "SELECT * FROM dates ORDER BY date",
                                table.columns().size()))
                        .isEqualTo(expected);
                assertThat(query(
                                connection,
                                "SELECT ordered_retail_week, ordered_holiday FROM ordered_dates WHERE ordered_date = '2024-02-03'",
                                2))
                        .containsExactly("53|");
            }
            assertThat(query(server, "SELECT col_description('dates'::regclass, 1)", 1))
                    .containsExactly("The day");
        }
    }

    private static List<String> rows(DatesTable table) {
        List<String> rows = new ArrayList<>();
        for (int day = table.days().firstEpochDay(); day <= table.days().lastEpochDay(); day++) {
            List<String> values = new ArrayList<>();
            for (DateColumn column : table.columns()) {
                values.add(plain(DatesTable.text(column.value(day))));
            }
            rows.add(String.join("|", values));
        }
        return rows;
    }

    private static List<String> query(Connection connection, String sql, int columns) throws SQLException {
        List<String> rows = new ArrayList<>();
        try (Statement statement = connection.createStatement();
                ResultSet result = statement.executeQuery(sql)) {
            while (result.next()) {
                List<String> values = new ArrayList<>();
                for (int c = 1; c <= columns; c++) {
                    Object value = result.getObject(c);
                    values.add(value == null ? "" : plain(value.toString()));
                }
                rows.add(String.join("|", values));
            }
        }
        return rows;
    }

    /** Numbers without the zeros that a column's type adds. */
    private static String plain(String text) {
        return text.matches("-?\\d+\\.\\d+")
                ? new java.math.BigDecimal(text).stripTrailingZeros().toPlainString()
                : text;
    }

    @Test
    void theCloseCalendarReadsBack() throws IOException {
        DateDimension dimension = dimension("en");
        StringBuilder out = new StringBuilder();
        CloseCalendar.write(
                dimension,
                Map.of("retail", RETAIL),
                WEEK,
                DateRange.of(LocalDate.parse("2024-04-28"), LocalDate.parse("2024-05-31")),
                out);
        ICalendar calendar = Biweekly.parse(out.toString()).first();
        List<String> events = calendar.getEvents().stream()
                .map(e -> e.getDateStart().getValue().getRawComponents().toString(false, false) + " "
                        + e.getSummary().getValue())
                .toList();
        assertThat(events)
                .contains(
                        "20240505 FY2024 P04 (retail) begins",
                        "20240504 FY2024 P03 (retail) ends",
                        "20240504 Last working day of FY2024 P03 (retail)",
                        "20240501 O'Hara's \"day\"");
    }

    @Test
    void ownOutputHasNoFindingsAndChangesAreFound() throws IOException {
        DateDimension dimension = dimension("en");
        DatesTable table = DatesTable.all(dimension);
        List<List<String>> lines = lines(csv(table).replace("\"O'Hara's \"\"day\"\"\"", "O'Hara's \"day\""));
        List<String> header = lines.get(0);
        assertThat(DimensionCheck.check(dimension, header, lines.subList(1, lines.size())))
                .isEmpty();

        List<List<String>> wrong = new ArrayList<>();
        lines.subList(3, lines.size()).forEach(l -> wrong.add(new ArrayList<>(l)));
        wrong.remove(100);
        wrong.add(200, wrong.get(199));
        wrong.get(300).set(header.indexOf("retail_week"), "99");
        wrong.get(301).set(header.indexOf("date"), wrong.get(301).get(0) + " 08:30:00");
        wrong.get(302).set(header.indexOf("holiday"), "Surprise");
        wrong.get(400).set(header.indexOf("date"), "31.12.2024");
        assertThat(DimensionCheck.check(dimension, header, wrong).stream()
                        .map(DimensionCheck.DimensionDifference::text))
                .containsExactlyInAnyOrder(
                        "the date occurs twice",
                        "the column `retail_week` contradicts the date",
                        "the date has a time of day",
                        "the column `holiday` contradicts the date",
                        "the date cannot be read",
                        "a date is missing",
                        "the first year is a part of one in every calendar");
    }

    @Test
    void jsonSchemaAndCsvAreWrittenHarmlessly() throws IOException {
        DatesTable table = DatesTable.all(dimension("en"));
        StringWriter schema = new StringWriter();
        JsonWriter.tableSchema(table, schema);
        assertThat(schema.toString())
                .contains(
                        "\"name\" : \"fiscal_quarter_label\"",
                        "\"sortBy\" : \"fiscal_quarter_start\"",
                        "\"additive\" : false");
        assertThat(csv(table)).contains(",'=1+2").doesNotContain(",=1+2").doesNotContain("\r");
    }
}
