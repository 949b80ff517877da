package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Lookup;
import dev.mile.fact.Spread;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import dev.mile.span.Span;
import dev.mile.testkit.TestRows;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.MonthDay;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;

/** Laws of sums that hold for any rows, calendars and days. */
class ReportLawsTest {
    private static final LocalDate FIRST = LocalDate.of(2024, 1, 1);
    private static final int DAYS = 600;
    private static final List<String> MEASURES = List.of("sales", "dispatched", "budget", "gap");

    /** How the members and the days of a report are cut into rows. */
    @Provide
    Arbitrary<List<String>> partitions() {
        return Arbitraries.of(
                        "shop",
                        "shops.region",
                        "channel",
                        "year",
                        "quarter",
                        "month",
                        "week",
                        "day",
                        "retail.week",
                        "weekday_name",
                        "day_type")
                .list()
                .uniqueElements()
                .ofMinSize(1)
                .ofMaxSize(3);
    }

    /** Sums and differences of the parts add up to those of the whole, wherever all parts are known. */
    @Property(tries = 150)
    void partsAddUpToTheWhole(
            @ForAll long seed,
            @ForAll("partitions") List<String> rows,
            @ForAll @IntRange(max = DAYS - 1) int from,
            @ForAll @IntRange(max = DAYS - 1) int to) {
        DateRange when = days(from, to);
        try (Session session = session(seed)) {
            for (String measure : MEASURES) {
                // a budget has no channel, and is unknown there
                if (!rows.contains("channel") || measure.equals("sales") || measure.equals("dispatched")) {
                    Value whole = only(session, List.of(), measure, when);
                    assertThat(sum(session, rows, measure, when))
                            .as("%s by %s, %s, seed %d", measure, rows, when, seed)
                            .isEqualByComparingTo(whole.orZero().decimal());
                }
            }
        }
    }

    /** A choice of days may be split anywhere. */
    @Property(tries = 150)
    void choicesOfDaysAddUp(
            @ForAll long seed,
            @ForAll @IntRange(max = DAYS - 1) int a,
            @ForAll @IntRange(max = DAYS - 1) int b,
            @ForAll @IntRange(max = DAYS - 1) int at) {
        DateRange when = days(a, b == a ? (a + 1) % DAYS : b);
        LocalDate split = when.first().plusDays(at % (when.length() - 1));
        try (Session session = session(seed)) {
            for (String measure : MEASURES) {
                Value before = only(session, List.of(), measure, DateRange.of(when.first(), split));
                Value after = only(session, List.of(), measure, DateRange.of(split.plusDays(1), when.last()));
                assertThat(before.orZero().plus(after.orZero()).decimal())
                        .as("%s, %s split after %s, seed %d", measure, when, split, seed)
                        .isEqualByComparingTo(
                                only(session, List.of(), measure, when).orZero().decimal());
            }
        }
    }

    /** To any day, what is spread of a plan is within half a cent of its share for each row, and whole at the end of the period. */
    @Property(tries = 60)
    void spreadsAreRightToAnyDay(@ForAll long seed, @ForAll @IntRange(min = 1, max = 12) int shops) {
        Random random = new Random(seed);
        TestRows budget = TestRows.of("year,shop,amount:number");
        BigDecimal[] amounts = new BigDecimal[shops];
        for (int i = 0; i < shops; i++) {
            amounts[i] = BigDecimal.valueOf(random.nextInt(2_000_000) - 500_000, 2);
            budget.add("FY2025", "S" + i, amounts[i].toPlainString());
        }
        Project project = project(new Random(seed), FiscalCalendar.startingIn(Month.JANUARY), Spread.DAYS)
                .measure("to_date", Measure.sum("budget", "amount").over(Span.toDate(Level.YEAR)))
                .build();
        MemoryEngine engine = MemoryEngine.over(project)
                .rows(
                        "sales",
                        TestRows.of("ordered:date,dispatched:date,shop,channel,amount:number")
                                .table())
                .rows("shops", TestRows.of("shop,region").table())
                .rows("budget", budget.table());
        BigDecimal half = new BigDecimal("0.005").multiply(BigDecimal.valueOf(shops));
        BigDecimal all = IntStream.range(0, shops).mapToObj(i -> amounts[i]).reduce(BigDecimal.ZERO, BigDecimal::add);
        try (Session session = Session.open(project, engine)) {
            Grid grid = session.report(Report.of("r", List.of("day"), List.of("to_date")));
            List<Grid.Row> year = grid.rows().stream()
                    .filter(row -> row.kind() == Grid.RowKind.LEAF
                            && row.days().first().getYear() == 2025)
                    .toList();
            assertThat(year).hasSize(365);
            for (Grid.Row row : year) {
                BigDecimal share =
                        all.multiply(BigDecimal.valueOf(row.days().first().getDayOfYear()));
                BigDecimal found = row.values().get(0).decimal().multiply(BigDecimal.valueOf(365));
                assertThat(found.subtract(share).abs())
                        .as("%s of seed %d", row.labels(), seed)
                        .isLessThanOrEqualTo(half.multiply(BigDecimal.valueOf(365)));
            }
            assertThat(year.get(364).values().get(0).decimal()).isEqualByComparingTo(all);
        }
    }

    // ---- what the laws are tried on

    private static DateRange days(int a, int b) {
        return DateRange.of(FIRST.plusDays(Math.min(a, b)), FIRST.plusDays(Math.max(a, b)));
    }

    private static Value only(Session session, List<String> rows, String measure, DateRange when) {
        Grid grid = session.report(Report.of("r", rows, List.of(measure)).withWhen(new When.Dates(when)));
        assertThat(grid.rows()).hasSize(1);
        return grid.rows().get(0).values().get(0);
    }

    private static BigDecimal sum(Session session, List<String> rows, String measure, DateRange when) {
        BigDecimal sum = BigDecimal.ZERO;
        Report report = Report.of("r", rows, List.of(measure)).withWhen(new When.Dates(when));
        for (Grid.Row row : session.report(report).rows()) {
            if (row.kind() == Grid.RowKind.LEAF) {
                Value value = row.values().get(0).orZero();
                assertThat(value.isBlank()).as("unknown at %s", row.labels()).isFalse();
                sum = sum.add(value.decimal());
            }
        }
        return sum;
    }

    private static Project.Builder project(Random random, FiscalCalendar calendar, Spread spread) {
        Measure sales = Measure.sum("sales", "amount");
        Measure budget = Measure.sum("budget", "amount");
        return Project.named("laws")
                .asOf(FIRST.plusDays(DAYS - 1))
                .calendar("fiscal", calendar)
                .calendar("retail", FiscalCalendar.weeks("4-5-4").endingNearest(DayOfWeek.SATURDAY, MonthDay.of(1, 31)))
                .working(WorkingWeek.named("w")
                        .rest(DayOfWeek.of(1 + random.nextInt(7)))
                        .build())
                .dates(DateBound.at(FIRST), DateBound.at(FIRST.plusDays(DAYS - 1)))
                .fact(Fact.of("sales", "ordered", "ordered")
                        .withDate("dispatched", "dispatched")
                        .withLink("shop", "shops"))
                .fact(Fact.of("budget", "for", "year")
                        .withLink("shop", "shops")
                        .withGrain(Grain.of(Level.YEAR), spread))
                .lookup(new Lookup("shops", "shop", Map.of()))
                .measure("sales", sales)
                .measure("dispatched", sales.on("dispatched"))
                .measure("budget", budget)
                .measure("gap", sales.minus(budget));
    }

    private static Session session(long seed) {
        Random random = new Random(seed);
        FiscalCalendar calendar = random.nextBoolean()
                ? FiscalCalendar.startingOn(Month.of(1 + random.nextInt(12)), 1 + random.nextInt(28))
                : FiscalCalendar.weeks("4-4-5").endingOnLast(DayOfWeek.SUNDAY, Month.of(1 + random.nextInt(12)));
        Project project = project(random, calendar, random.nextBoolean() ? Spread.DAYS : Spread.WORKING_DAYS)
                .build();
        TestRows sales = TestRows.of("ordered:date,dispatched:date,shop,channel,amount:number");
        // both roles are covered from the first day on
        sales.add(FIRST.toString(), FIRST.toString(), "S1", "web", "1");
        for (int i = 0; i < 80; i++) {
            LocalDate ordered = FIRST.plusDays(random.nextInt(DAYS));
            LocalDate dispatched = ordered.plusDays(random.nextInt(40));
            sales.add(
                    ordered.toString(),
                    random.nextInt(6) == 0 ? "" : dispatched.toString(),
                    List.of("S1", "S2", "S3", "S9", "").get(random.nextInt(5)),
                    List.of("web", "counter", "").get(random.nextInt(3)),
                    random.nextInt(9) == 0
                            ? ""
                            : BigDecimal.valueOf(random.nextInt(100_000) - 20_000, random.nextInt(3))
                                    .toPlainString());
        }
        TestRows budget = TestRows.of("year,shop,amount:number");
        for (int year = 2023; year <= 2026; year++) {
            for (String shop : List.of("S1", "S2", "S4")) {
                budget.add(
                        "FY" + year,
                        shop,
                        BigDecimal.valueOf(random.nextInt(1_000_000), 2).toPlainString());
            }
        }
        return Session.open(
                project,
                MemoryEngine.over(project)
                        .rows("sales", sales.table())
                        .rows(
                                "shops",
                                TestRows.of("shop,region", "S1,North", "S2,South", "S3,North")
                                        .table())
                        .rows("budget", budget.table()));
    }
}
