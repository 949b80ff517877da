package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Bands;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.measure.Measure;
import dev.mile.testkit.TestRows;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What names in measures and reports refer to, and what is said where they refer to nothing, or to two things. */
class NamesTest {
    private static RowExpression column(String name) {
        return new RowExpression.Value(new Operand.Name(name));
    }

    private static RowExpression elapsed(RowExpression.TimeUnit unit, String from, String to) {
        return RowExpression.Elapsed.of(unit, new Operand.Name(from), new Operand.Name(to));
    }

    private static Measure sum(RowExpression of) {
        return new Measure.Aggregate(Measure.Aggregation.SUM, "sales", Optional.of(of));
    }

    private static Project.Builder project() {
        List<BigDecimal> edges = List.of(BigDecimal.ONE, BigDecimal.TEN);
        return Project.named("p")
                .asOf(LocalDate.parse("2026-03-31"))
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(LocalDate.parse("2026-01-01")), DateBound.at(LocalDate.parse("2026-12-31")))
                .working(WorkingWeek.named("w").rest(DayOfWeek.SUNDAY).build())
                .fact(Fact.of("sales", "on", "on")
                        .withDate("paid", "paid")
                        .withLink("shop", "shops")
                        .withLink("to", "areas")
                        .withColumn(
                                "halved",
                                new RowExpression.Arithmetic(
                                        column("amount"),
                                        RowExpression.Sign.DIVIDED_BY,
                                        new RowExpression.Constant(new BigDecimal("2"))))
                        .withColumn("age", elapsed(RowExpression.TimeUnit.DAYS, "paid", "as_of"))
                        .withBands("size", column("amount"), new Bands(edges)))
                .fact(Fact.of("stock", "on", "day")
                        .withLink("shop", "shops")
                        .withBands("size", column("units"), new Bands(List.of(new BigDecimal(2)))))
                .lookup(new Lookup("shops", "shop", Map.of("area", "areas")))
                .lookup(new Lookup("areas", "area", Map.of()))
                .lookup(new Lookup("idle", "id", Map.of()))
                .measure("sales", Measure.sum("sales", "amount"))
                .measure("units", Measure.sum("stock", "units"));
    }

    private static MemoryEngine engine(Project project, String... more) {
        List<String> rows = new ArrayList<>(List.of("2026-01-05,2026-01-09,S1,A1,5", "2026-02-05,2026-03-01,S2,A2,20"));
        rows.addAll(List.of(more));
        return MemoryEngine.over(project)
                .rows(
                        "sales",
                        TestRows.of("on:date,paid:date,shop,to,amount:number", rows.toArray(String[]::new))
                                .table())
                .rows(
                        "stock",
                        TestRows.of("day:date,shop,units:number", "2026-01-05,S1,3")
                                .table())
                .rows(
                        "shops",
                        TestRows.of("shop,area,region", "S1,A1,North", "S2,A1,South")
                                .table())
                .rows("areas", TestRows.of("area,manager", "A1,Ann", "A2,Bob").table())
                .rows("idle", TestRows.of("id,x", "1,2").table());
    }

    private static Grid compute(Project project, Report report) {
        try (Session session = Session.open(project, engine(project))) {
            return session.report(report);
        }
    }

    private static String rows(Grid grid) {
        return grid.rows().stream()
                .filter(row -> row.kind() == Grid.RowKind.LEAF)
                .map(row -> String.join("/", row.labels()) + " " + row.values().get(0))
                .reduce((a, b) -> a + ", " + b)
                .orElse("");
    }

    static Stream<Arguments> measures() {
        Function<String, Measure> ofColumn = name -> sum(column(name));
        return Stream.of(
                Arguments.of(sum(elapsed(RowExpression.TimeUnit.DAYS, "on", "as_of")), "139"),
                Arguments.of(sum(elapsed(RowExpression.TimeUnit.WORKING_DAYS, "on", "paid")), "24.000000"),
                Arguments.of(ofColumn.apply("halved"), "12.5"),
                Arguments.of(ofColumn.apply("age"), "111"),
                Arguments.of(ofColumn.apply("sales.amount"), "25"),
                Arguments.of(ofColumn.apply("units"), "the fact 'sales' has no column or date role 'units'; known: "),
                Arguments.of(
                        ofColumn.apply("amuont"),
                        "the fact 'sales' has no column or date role 'amuont'; did you mean 'amount'?"),
                Arguments.of(
                        sum(column("amount").times(column("shops.regio"))),
                        "the lookup 'shops' has no column 'regio'; did you mean 'region'?"),
                Arguments.of(
                        sum(column("amount").times(column("areas.manager"))),
                        "the fact 'sales' reaches the lookup 'areas' in 2 ways (over shop then area, to); give"
                                + " one of them a lookup name of its own"),
                Arguments.of(
                        sum(column("amount").times(column("shops.region"))),
                        "`sum(sales.amount * shops.region)` needs numbers, but the column 'region' of the fact 'sales' holds"
                                + " values that are not numbers; correct the data, or count them with count() or distinct()"),
                Arguments.of(
                        sum(new RowExpression.OrElse(
                                new RowExpression.Arithmetic(column("amount"), RowExpression.Sign.PLUS, column("to")),
                                BigDecimal.ONE)),
                        "`sum((sales.amount + sales.to) or 1)` needs numbers, but the column 'to' of the fact 'sales' holds values that are not numbers;"
                                + " correct the data, or count them with count() or distinct()"),
                Arguments.of(
                        ofColumn.apply("paid"),
                        "`sum(sales.paid)` adds up dates; write days(first, second) for the time between two dates of a row"),
                Arguments.of(
                        sum(((RowExpression.Elapsed) elapsed(RowExpression.TimeUnit.WORKING_DAYS, "on", "paid"))
                                .withWeek("office")),
                        "unknown working week 'office'; known: w"),
                Arguments.of(Measure.named("sales").across("shop", "regin"), "unknown dimension 'regin'"),
                Arguments.of(
                        Measure.named("sales").each("weekday_name"),
                        "`each weekday_name` needs a dimension of a fact, such as a shop; it is an"
                                + " attribute of days"),
                Arguments.of(
                        Measure.named("sales").on("posted"),
                        "the fact 'sales' has no date role 'posted'; known: on, paid"));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("measures")
    void namesOfMeasures(Measure measure, String expected) {
        Project project = project().measure("m", measure).build();
        Report report = Report.of("r", List.of("year"), List.of("m"));
        if (expected.matches("[0-9.]+")) {
            assertThat(rows(compute(project, report))).isEqualTo("FY2026 " + expected);
        } else {
            assertThatThrownBy(() -> compute(project, report)).message().startsWith(expected);
        }
    }

    static Stream<Arguments> axes() {
        return Stream.of(
                Arguments.of("shops.region", "sales", "North 5, South 20"),
                Arguments.of("sales.shop", "sales", "S1 5, S2 20"),
                Arguments.of(
                        "size",
                        "sales",
                        "'size' has different bands in several facts; write it with its fact, such as sales.size"),
                Arguments.of("sales.size", "sales", "1 to under 10 5, 10 and over 20"),
                Arguments.of("age", "sales", "30 20, 81 5"),
                Arguments.of(
                        "halved",
                        "sales",
                        "'halved' is a number with decimals, computed as `amount / 2`; group by bands of it: Fact.withBands"),
                Arguments.of("stock.amount", "sales", "unknown level, dimension or date attribute 'stock.amount'"),
                Arguments.of("idle.x", "sales", ""),
                Arguments.of("to", "units", ""));
    }

    @ParameterizedTest(name = "{0} of {1}")
    @MethodSource("axes")
    void namesOfRows(String row, String measure, String expected) {
        Project project = project().build();
        Report report = Report.of("r", List.of(row), List.of(measure));
        if (expected.contains("'")) {
            assertThatThrownBy(() -> compute(project, report)).message().startsWith(expected);
        } else {
            assertThat(rows(compute(project, report))).isEqualTo(expected);
        }
    }

    /** A report reads the lookups that its groups, values and conditions name, and says what they lack; others are not looked at. */
    @Test
    void keysThatALookupLacksAreSaidWhereTheLookupIsRead() {
        Project project = project()
                .measure(
                        "north",
                        Measure.named("sales")
                                .where(Condition.column("shops.region").is("North")))
                .build();
        String note =
                "sales: 1 row with a shop that shops lacks, such as 'S9'; they count, but have none of its attributes, and meet no"
                        + " condition on one.";
        for (Report report : List.of(
                Report.of("r", List.of("shops.region"), List.of("sales")),
                Report.of("r", List.of("month"), List.of("north")),
                Report.of("r", List.of("month"), List.of("sales"))
                        .withWhere(Condition.column("shops.region").is("North")))) {
            try (Session session = Session.open(project, engine(project, "2026-01-07,2026-01-07,S9,A1,1"))) {
                assertThat(session.report(report).notes()).as(report.toString()).contains(note);
            }
            try (Session session = Session.open(project, engine(project))) {
                assertThat(session.report(report).notes()).noneMatch(said -> said.contains("lacks"));
            }
        }
        try (Session session = Session.open(project, engine(project, "2026-01-07,2026-01-07,S9,A1,1"))) {
            assertThat(session.report(Report.of("r", List.of("month"), List.of("sales")))
                            .notes())
                    .noneMatch(said -> said.contains("lacks"));
        }
    }
}
