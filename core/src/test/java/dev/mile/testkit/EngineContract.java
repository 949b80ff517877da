package dev.mile.testkit;

import static java.time.Month.APRIL;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.MileException;
import dev.mile.StoppedException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.BucketingCursor;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.DayBuckets;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Bands;
import dev.mile.fact.Condition;
import dev.mile.fact.CoveredDays;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Spread;
import dev.mile.fact.TextFunction;
import dev.mile.fact.ValueType;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.ReportOptions;
import dev.mile.report.Session;
import dev.mile.report.When;
import dev.mile.span.Span;
import dev.mile.workday.HolidayDate;
import dev.mile.workday.HolidayRule;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeSet;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * What every engine must answer alike: the test of an engine extends this class and says how its engine gets rows. Rows outside all windows
 * hold 999,999,937, so that one of them in a sum is seen.
 *
 * <pre>{@code
 * class MyEngineTest extends EngineContract {
 *     @Override
 *     protected Engine engine(Project project, Map<String, TestRows> rows) {
 *         return MyEngine.over(project.schema(), …);
 *     }
 * }
 * }</pre>
 *
 * <p>The system properties {@code mile.random.rows}, {@code mile.random.projects}, {@code mile.stress.threads} and {@code
 * mile.stress.reports} make the random and the parallel cases deeper.
 */
public abstract class EngineContract {
    /** Begins the tests of an engine. */
    protected EngineContract() {}

    /**
     * {@return the engine under test; the test closes it}
     *
     * @param project the project, whose schema the engine answers for
     * @param rows the rows of its facts and lookups by name; tables of other names may be passed over
     */
    protected abstract Engine engine(Project project, Map<String, TestRows> rows);

    static final LocalDate AS_OF = LocalDate.parse("2026-08-14");

    private final TestRows sales = TestRows.of(
            "id,ordered:date,dispatched:date,shop,channel,units:number,price:number,amount:number",
            "A1,2025-08-03,2025-08-05,S1,web,2,10.00,20.00",
            "A2,2025-08-20,2025-08-21,S1,counter,1,30.00,30.00",
            "A3,2026-07-30,2026-08-03,S1,web,3,10.10,30.30",
            "A3,2026-07-30,2026-08-03,S1,web,1,0.01,0.01",
            "A4,2026-08-03,2026-08-04,S1,web,5,10.00,50.00",
            "A5,2026-08-03,,S2,counter,-1,10.00,-10.00",
            "A6,2026-08-10,2026-08-12,S2,web,4,2.50,",
            "A7,2026-08-14,,S9,,1,7.00,7.00",
            "A8,2026-08-15,,S1,web,1,999999937,999999937",
            "A9,1899-12-30,2026-08-01,S1,web,1,5.00,5.00",
            "A10,,2026-08-01,S2,web,1,6.00,6.00");

    private final TestRows shops = TestRows.of("shop,region,area", "S1,North,A", "S2,South,B");
    private final TestRows areas = TestRows.of("area,manager", "A,Ash", "B,Birch");
    private final TestRows budget = TestRows.of(
            "year,shop,amount:number", "FY2027,S1,1000.01", "FY2027,S2,-0.05", "FY2026,S1,365", "FY20X,S1,999999937");

    private final Fact salesFact = Fact.of("sales", "ordered", "ordered")
            .withDate("dispatched", "dispatched")
            .withLink("shop", "shops");

    private Project.Builder project(Fact fact) {
        return Project.named("contract")
                .asOf(AS_OF)
                .calendar("fiscal", FiscalCalendar.startingIn(APRIL))
                .working(WorkingWeek.named("shops")
                        .rest(DayOfWeek.SUNDAY)
                        .holiday(HolidayRule.of("Fair", HolidayDate.parse("2026-08-04")))
                        .build())
                .dates(DateBound.at(LocalDate.parse("2025-04-01")), DateBound.at(LocalDate.parse("2027-03-31")))
                .fact(fact)
                .lookup(new Lookup("shops", "shop", Map.of("area", "areas")))
                .lookup(new Lookup("areas", "area", Map.of()));
    }

    private Map<String, TestRows> rows() {
        Map<String, TestRows> rows = new LinkedHashMap<>();
        rows.put("sales", sales);
        rows.put("shops", shops);
        rows.put("areas", areas);
        rows.put("budget", budget);
        return rows;
    }

    private final Fact budgetFact = new Fact(
            "budget",
            Map.of("for", "year"),
            Map.of("shop", "shops"),
            Optional.empty(),
            java.time.LocalTime.MIDNIGHT,
            Optional.of(Grain.of(Level.YEAR)),
            Spread.WORKING_DAYS,
            true,
            CoveredDays.OF_ROWS,
            Map.of());

    /** Returns the leaf rows of a report as texts: labels and values separated by bars. */
    private List<String> report(Project project, Map<String, TestRows> rows, Report report) {
        try (Session session = Session.open(project, () -> engine(project, rows))) {
            List<String> lines = new ArrayList<>();
            for (Grid.Row row : session.report(report).rows()) {
                if (row.kind() == Grid.RowKind.LEAF) {
                    List<String> fields = new ArrayList<>(row.labels());
                    row.values()
                            .forEach(v -> fields.add(
                                    v.isExact()
                                            ? v.decimal().stripTrailingZeros().toPlainString()
                                            : v.toString()));
                    lines.add(String.join("|", fields));
                }
            }
            return lines;
        }
    }

    /** Returns the values of measures by month. */
    private List<String> months(Measure... measures) {
        return by(List.of("month"), measures);
    }

    private List<String> by(List<String> parts, Measure... measures) {
        Project.Builder project = project(salesFact).fact(budgetFact);
        List<String> names = new ArrayList<>();
        for (int i = 0; i < measures.length; i++) {
            names.add("m" + i);
            project.measure("m" + i, measures[i]);
        }
        return report(project.build(), rows(), Report.of("r", parts, names));
    }

    private static final Measure SALES = Measure.sum("sales", "amount");

    @Test
    void sumsByEitherRoleAreCutAtTheAsOfDate() {
        assertThat(months(SALES, SALES.on("dispatched"), Measure.count("sales")))
                .containsExactly("FY2026 P05|50|50|2", "FY2027 P04|30.31||2", "FY2027 P05|47|91.31|4");
    }

    @Test
    void lastYearComparesTheSameDaysUnlessInFull() {
        Measure lastYear = SALES.over(Span.back(1, Level.YEAR));
        // the first two days of August 2025 are not covered, so the comparison is not whole
        assertThat(months(SALES, lastYear, lastYear.inFull())).contains("FY2027 P05|47||");
        assertThat(months(lastYear.ifAny(), lastYear.ifAny().inFull())).containsExactly("FY2027 P05|20|50");
    }

    @Test
    void everyAggregateKnowsBlanksFromZero() {
        Measure.Aggregate lead = new Measure.Aggregate(
                Measure.Aggregation.AVG,
                "sales",
                Optional.of(RowExpression.Elapsed.of(
                        RowExpression.TimeUnit.WORKING_DAYS,
                        new Operand.Name("sales.ordered"),
                        new Operand.Name("sales.dispatched"))));
        assertThat(by(
                        List.of("channel"),
                        Measure.avg("sales", "amount"),
                        Measure.min("sales", "amount"),
                        Measure.max("sales", "amount"),
                        Measure.first("sales", "amount"),
                        Measure.last("sales", "amount"),
                        Measure.distinct("sales", "id"),
                        lead))
                // web: 20, 30.30, 0.01, 50 and a blank; working days to dispatch 2, 3, 3, 0 (the fair), 2
                .containsExactly("counter|10|-10|30|30|-10|2|1", "web|25.0775|0.01|50|20|50|4|2", "|7|7|7|7|7|1|");
    }

    @Test
    void expressionsOfRowsAreExact() {
        Measure value = new Measure.Aggregate(
                Measure.Aggregation.SUM,
                "sales",
                Optional.of(new RowExpression.Arithmetic(
                        new RowExpression.Value(new Operand.Name("sales.units")),
                        RowExpression.Sign.TIMES,
                        new RowExpression.Arithmetic(
                                new RowExpression.Value(new Operand.Name("sales.price")),
                                RowExpression.Sign.MINUS,
                                new RowExpression.Constant(new BigDecimal("0.001"))))));
        assertThat(months(value)).containsExactly("FY2026 P05|49.997", "FY2027 P04|30.306", "FY2027 P05|56.991");
    }

    private static Measure elapsed(Measure.Aggregation how, RowExpression.TimeUnit unit, String from, String to) {
        return new Measure.Aggregate(
                how,
                "t",
                Optional.of(
                        RowExpression.Elapsed.of(unit, new Operand.Name("t." + from), new Operand.Name("t." + to))));
    }

    // by hand, in civil months: complete units, negative and counted from the later day backwards
    @ParameterizedTest(name = "{0} to {1}: {2} days, {3} working days, {4} weeks, {5} months, {6} years")
    @CsvSource({
        "2026-01-31, 2026-02-28, 28, 24, 4, 1, 0", "2026-01-30, 2026-02-27, 28, 24, 4, 0, 0",
                "2025-08-14, 2026-08-13, 364, 312, 52, 11, 0",
        "2025-08-14, 2026-08-14, 365, 313, 52, 12, 1", "2026-08-14, 2025-08-14, -365, -313, -52, -12, -1",
                "2026-03-31, 2026-04-01, 1, 1, 0, 0, 0",
        "2026-05-10, 2026-05-10, 0, 0, 0, 0, 0", "2024-02-29, 2026-02-28, 730, 626, 104, 24, 2"
    })
    void timeBetweenDatesOfARow(String from, String to, int days, int working, int weeks, int months, int years) {
        TestRows rows =
                TestRows.of("a:date,b:date,k", from + "," + to + ",x", "2026-05-05,,x", "2026-05-05,9999-12-31,x");
        Fact fact = Fact.of("t", "a", "a").withDate("b", "b");
        Project.Builder project = Project.named("elapsed")
                .asOf(LocalDate.parse("2026-12-31"))
                .calendar("fiscal", FiscalCalendar.startingIn(APRIL))
                .working(WorkingWeek.named("w").rest(DayOfWeek.SUNDAY).build())
                .dates(DateBound.at(LocalDate.parse("2023-04-01")), DateBound.at(LocalDate.parse("2027-03-31")))
                .fact(fact);
        List<String> names = new ArrayList<>();
        for (RowExpression.TimeUnit unit : RowExpression.TimeUnit.values()) {
            names.add(unit.word() + "_between");
            project.measure(unit.word() + "_between", elapsed(Measure.Aggregation.SUM, unit, "a", "b"));
        }
        assertThat(report(project.build(), Map.of("t", rows), Report.of("r", List.of("k"), names)))
                .containsExactly("x|" + days + "|" + working + "|" + weeks + "|" + months + "|" + years);
    }

    /** Two people joined before 2023, one in 2025, one this year, one on no known day. */
    private final TestRows staff = TestRows.of(
            "day:date,joined:date,left:date,name,pay:number",
            "2026-08-03,2020-02-29,2026-08-01,Ash,30.00",
            "2026-08-03,2022-08-14,,Birch,20.00",
            "2026-08-04,2025-08-14,2026-08-14,Cedar,10.00",
            "2026-08-04,2026-08-01,,Dill,5.00",
            "2026-08-04,,,Elm,1.00");

    private List<String> staffReport(List<String> rows, Measure... measures) {
        RowExpression service = RowExpression.Elapsed.of(
                RowExpression.TimeUnit.YEARS, new Operand.Name("staff.joined"), Operand.Name.AS_OF);
        Bands bands = new Bands(List.of(BigDecimal.ONE, new BigDecimal("3.5"), BigDecimal.TEN));
        Fact fact = Fact.of("staff", "day", "day")
                .withColumn("service", service)
                .withColumn(
                        "twice",
                        new RowExpression.Arithmetic(
                                new RowExpression.Value(new Operand.Name("staff.service")),
                                RowExpression.Sign.TIMES,
                                new RowExpression.Constant(new BigDecimal("2"))))
                .withBands("service_band", new RowExpression.Value(new Operand.Name("staff.service")), bands);
        Project.Builder project = Project.named("staff")
                .asOf(AS_OF)
                .calendar("fiscal", FiscalCalendar.startingIn(APRIL))
                .dates(DateBound.at(LocalDate.parse("2026-04-01")), DateBound.at(LocalDate.parse("2027-03-31")))
                .fact(fact);
        List<String> names = new ArrayList<>();
        for (Measure measure : measures) {
            names.add("m" + names.size());
            project.measure("m" + (names.size() - 1), measure);
        }
        return report(project.build(), Map.of("staff", staff), Report.of("r", rows, names));
    }

    @Test
    void namedColumnsAndBandsAreUsedLikeColumns() {
        Measure people = Measure.count("staff");
        assertThat(staffReport(List.of("service_band"), people, Measure.sum("staff", "pay")))
                .containsExactly("under 1|1|5", "1 to under 3.5|1|10", "3.5 to under 10|2|50", "|1|1");
        assertThat(staffReport(List.of("service"), people)).containsExactly("0|1", "1|1", "4|1", "6|1", "|1");
        assertThat(staffReport(
                        List.of("day"),
                        Measure.sum("staff", "service"),
                        Measure.sum("staff", "twice"),
                        new Measure.Aggregate(
                                Measure.Aggregation.DISTINCT,
                                "staff",
                                Optional.of(new RowExpression.Value(new Operand.Name("staff.service_band")))),
                        people.where(Condition.column("service_band").is("3.5 to under 10")),
                        people.where(new Condition.Compare(
                                new Operand.Name("staff.service"),
                                Condition.Comparison.LESS,
                                new Operand.Number(new BigDecimal("4")))),
                        people.where(new Condition.IsBlank(new Operand.Name("staff.service_band")))))
                .containsExactly("2026-08-03|10|20|1|2|0|0", "2026-08-04|1|2|2|0|2|1");
    }

    @Test
    void conditionsMayCountTime() {
        Operand.Computed stayed = new Operand.Computed(RowExpression.Elapsed.of(
                RowExpression.TimeUnit.MONTHS, new Operand.Name("staff.joined"), new Operand.Name("staff.left")));
        Condition.Compare year =
                new Condition.Compare(stayed, Condition.Comparison.AT_LEAST, new Operand.Number(new BigDecimal("12")));
        assertThat(staffReport(
                        List.of("name"),
                        Measure.count("staff").where(year),
                        Measure.count("staff").where(new Condition.Not(year)),
                        Measure.count("staff").where(new Condition.IsBlank(stayed))))
                .containsExactly("Ash|1|0|0", "Birch|0|0|1", "Cedar|1|0|0", "Dill|0|0|1", "Elm|0|0|1");
    }

    @Test
    void textsAreChangedLetterByLetter() {
        TestRows rows = TestRows.of(
                "day:date,k,name,code,n:number",
                "2026-05-01,a,K\u00d6LN,x,1",
                "2026-05-01,b,\u00a0k\u00f6ln ,x,1",
                "2026-05-01,c,\u0130zmir\u03a3,x,1",
                "2026-05-01,d,\u00a0\u202f,x,1",
                "2026-05-01,e,,x,1");
        Operand name = new Operand.Name("name");
        Operand trimmed = new Operand.Changed(TextFunction.TRIM, name);
        Operand small = new Operand.Changed(TextFunction.LOWER, trimmed);
        assertThat(byKey(
                        rows,
                        Measure.count("t")
                                .where(new Condition.Compare(
                                        small, Condition.Comparison.EQUAL, new Operand.Text("k\u00f6ln"))),
                        Measure.count("t").where(new Condition.Like(small, "izmir\u03c3")),
                        Measure.count("t").where(new Condition.IsBlank(trimmed)),
                        Measure.count("t").where(new Condition.IsBlank(name)),
                        Measure.count("t").where(new Condition.In(small, List.of(new Operand.Text("x"))))))
                .containsExactly("a|1|0|0|0|0", "b|1|0|0|0|0", "c|0|1|0|0|0", "d|0|0|1|0|0", "e|0|0|1|1|0");
        assertThatThrownBy(() -> byKey(
                        rows,
                        Measure.count("t")
                                .where(new Condition.IsBlank(
                                        new Operand.Changed(TextFunction.LOWER, new Operand.Name("t.n"))))))
                .hasMessageContaining("`lower(n)` takes a text, and n holds numbers");
    }

    @Test
    void aValueInAListIsFoundBehindABlank() {
        TestRows rows = TestRows.of(
                "day:date,k,status,other", "2026-05-01,x,paid,", "2026-05-01,x,paid,paid", "2026-05-01,x,open,");
        Condition paid = new Condition.In(
                new Operand.Name("status"), List.of(new Operand.Name("other"), new Operand.Text("paid")));
        assertThat(byKey(
                        rows, Measure.count("t").where(paid), Measure.count("t").where(new Condition.Not(paid))))
                .containsExactly("x|2|0");
    }

    // 1.2 million with six decimals squared has 13 digits before the point and 12 behind it: no long holds it, and it
    // is exact
    @Test
    void productsAreExactBeyondTheDigitsOfALong() {
        TestRows rows = TestRows.of(
                "day:date,k,x:number,y:number",
                "2026-05-01,x,1200000.000001,1200000.000001",
                "2026-05-02,x,-1200000.000001,1200000.000001",
                "2026-05-02,x,2.000000,1.500000",
                "2026-05-03,x,1200000.000001,1200000.000001");
        RowExpression product = times(column("t.x"), column("t.y"));
        assertThat(byKey(
                        rows,
                        aggregate(Measure.Aggregation.SUM, product),
                        aggregate(Measure.Aggregation.MIN, product),
                        aggregate(Measure.Aggregation.MAX, product)))
                .containsExactly("x|1440000000005.400000000001|-1440000000002.400000000001|1440000000002.400000000001");
    }

    @Test
    void constantsMayHaveAnyScale() {
        TestRows rows = TestRows.of("day:date,k,x:number", "2026-05-01,x,2", "2026-05-01,x,0.5");
        assertThat(byKey(
                        rows,
                        aggregate(Measure.Aggregation.SUM, times(column("t.x"), constant("1E+3"))),
                        aggregate(Measure.Aggregation.SUM, times(column("t.x"), constant("12345678901234567890")))))
                .containsExactly("x|2500|30864197253086419725");
    }

    private List<String> byKey(TestRows rows, Measure... measures) {
        Project.Builder project = Project.named("expressions")
                .asOf(AS_OF)
                .calendar("fiscal", FiscalCalendar.startingIn(APRIL))
                .dates(DateBound.at(LocalDate.parse("2026-04-01")), DateBound.at(LocalDate.parse("2027-03-31")))
                .fact(Fact.of("t", "on", "day"));
        List<String> names = new ArrayList<>();
        for (int i = 0; i < measures.length; i++) {
            names.add("m" + i);
            project.measure("m" + i, measures[i]);
        }
        return report(project.build(), Map.of("t", rows), Report.of("r", List.of("k"), names));
    }

    private static Measure aggregate(Measure.Aggregation aggregation, RowExpression of) {
        return new Measure.Aggregate(aggregation, "t", Optional.of(of));
    }

    private static RowExpression column(String name) {
        return new RowExpression.Value(new Operand.Name(name));
    }

    private static RowExpression constant(String number) {
        return new RowExpression.Constant(new BigDecimal(number));
    }

    private static RowExpression times(RowExpression left, RowExpression right) {
        return new RowExpression.Arithmetic(left, RowExpression.Sign.TIMES, right);
    }

    @Test
    void aColumnOfBlanksStaysInASpreadPlan() {
        TestRows plan = TestRows.of("year,note,amount:number", "FY2027,,365", "FY2026,,1");
        Fact fact = Fact.of("plan", "for", "year").withGrain(Grain.of(Level.YEAR), Spread.DAYS);
        Project project = Project.named("spread")
                .asOf(AS_OF)
                .calendar("fiscal", FiscalCalendar.startingIn(APRIL))
                .dates(DateBound.at(LocalDate.parse("2026-04-01")), DateBound.at(LocalDate.parse("2027-03-31")))
                .fact(fact)
                .measure("sum", Measure.sum("plan", "amount"))
                .measure(
                        "noted",
                        Measure.sum("plan", "amount")
                                .where(Condition.column("note").is("x")))
                .build();
        assertThat(report(project, Map.of("plan", plan), Report.of("r", List.of("note"), List.of("sum", "noted"))))
                .containsExactly("|365|");
    }

    @Test
    void rowExpressionsMayDivide() {
        Measure unitPrice = new Measure.Aggregate(
                Measure.Aggregation.AVG,
                "sales",
                Optional.of(new RowExpression.Arithmetic(
                        new RowExpression.Value(new Operand.Name("sales.amount")),
                        RowExpression.Sign.DIVIDED_BY,
                        new RowExpression.Arithmetic(
                                new RowExpression.Value(new Operand.Name("sales.units")),
                                RowExpression.Sign.MINUS,
                                new RowExpression.Constant(BigDecimal.ONE)))));
        // counter: 30 / 0 is blank, -10 / -2 = 5
        assertThat(by(List.of("channel"), unitPrice)).contains("counter|5");
    }

    @Test
    void firstAndLastAreTheTotalsOfADay() {
        Measure opening = Measure.last("sales", "amount").over(Span.before());
        Measure closing = Measure.last("sales", "amount");
        // July 30 holds 30.30 and 0.01; before August 2026 that is the last day with an amount
        assertThat(months(closing, opening)).contains("FY2027 P04|30.31|30", "FY2027 P05|7|30.31");
    }

    @Test
    void windowsPastTheAsOfDateFindNoActuals() {
        Measure next = SALES.over(Span.next(1, Level.PERIOD));
        Measure whole = SALES.over(Span.whole(Level.PERIOD));
        assertThat(months(next, whole)).contains("FY2027 P04|47|30.31", "FY2027 P05||47");
    }

    @Test
    void membersOfLoopsAreAdded() {
        Measure best = Measure.max("sales", "amount").each("shop");
        Measure own = SALES.each("channel");
        assertThat(by(List.of("shops.region"), best, own))
                // all shops of the region's rows; amounts without a channel count too
                .containsExactly("North|50|130.31", "South|-10|-10", "|7|7");
    }

    @Test
    void lookupsOfLookupsAndUnknownKeys() {
        assertThat(by(List.of("shops.region", "areas.manager"), SALES, SALES.across("shops.region", "areas.manager")))
                .containsExactly("North|Ash|130.31|127.31", "South|Birch|-10|127.31", "||7|127.31");
    }

    @Test
    void conditionsFollowTheLogicOfBlanks() {
        Condition web = Condition.column("channel").is("web");
        Condition many = new Condition.Compare(
                new Operand.Name("sales.units"),
                Condition.Comparison.AT_LEAST,
                new Operand.Number(new BigDecimal("3")));
        Measure count = Measure.count("sales");
        assertThat(by(
                        List.of("year"),
                        count.where(web),
                        count.where(new Condition.Not(web)),
                        count.where(new Condition.IsBlank(new Operand.Name("channel"))),
                        count.where(new Condition.Not(new Condition.And(List.of(web, many)))),
                        count.where(new Condition.Or(
                                List.of(many, Condition.column("shops.region").is("South")))),
                        count.where(new Condition.In(
                                new Operand.Name("shop"), List.of(new Operand.Text("S1"), new Operand.Text("S9")))),
                        count.where(new Condition.Like(new Operand.Name("shops.region"), "_o%h")),
                        count.where(new Condition.Between(
                                new Operand.Name("sales.units"),
                                new Operand.Number(BigDecimal.ONE),
                                new Operand.Number(new BigDecimal("3"))))))
                .containsExactly("FY2026|1|1|0|2|0|2|2|2", "FY2027|4|1|1|3|4|4|5|3");
    }

    @Test
    void conditionsOnDaysAndDates() {
        Measure count = Measure.count("sales");
        assertThat(by(
                        List.of("year"),
                        count.where(Condition.column("weekday_name").is("Monday")),
                        count.where(Condition.column("holiday").is("Fair")).on("dispatched"),
                        count.where(new Condition.Compare(
                                new Operand.Name("sales.dispatched"),
                                Condition.Comparison.MORE,
                                new Operand.Text("2026-08-03")))))
                // the year in which no row was found for any of them is left out
                .containsExactly("FY2027|3|1|2");
    }

    @Test
    void comparingATextWithANumberIsRefused() {
        Measure wrong = Measure.count("sales")
                .where(new Condition.Compare(
                        new Operand.Name("channel"), Condition.Comparison.EQUAL, new Operand.Number(BigDecimal.TEN)));
        assertThatThrownBy(() -> months(wrong))
                .isInstanceOf(MileException.class)
                .hasMessage("`channel = 10` compares a text (channel) with a number (10); write numbers"
                        + " without quotes and texts in single quotes");
    }

    @Test
    void plansAreSpreadToTheLastCent() {
        Measure plan = Measure.sum("budget", "amount");
        Measure working = Measure.workingDays().inFull();
        assertThat(by(List.of("year", "shop"), plan, plan.over(Span.toDate(Level.YEAR))))
                .containsExactly("FY2026|S1|365|365", "FY2027|S1|1000.01|1000.01", "FY2027|S2|-0.05|-0.05");
        List<String> months =
                by(List.of("month"), plan.where(Condition.column("shop").is("S1")), working);
        BigDecimal sum = months.stream()
                .filter(line -> line.startsWith("FY2027"))
                .map(line -> new BigDecimal(line.split("\\|")[1]))
                .reduce(BigDecimal.ZERO, BigDecimal::add);
        assertThat(sum).isEqualByComparingTo("1000.01");
        // 1000.01 over 312 working days, of which 105 lie before August and 130 before September: 416.67 - 336.54
        assertThat(months).contains("FY2027 P05|80.13|25");
    }

    @Test
    void actualThenPlanCountsEachDayOnce() {
        Measure outlook = SALES.then(
                Measure.sum("budget", "amount").where(Condition.column("shop").is("S1")));
        // 14 working days of August lie after the 14th
        assertThat(by(List.of("month"), outlook)).contains("FY2027 P05|91.87", "FY2027 P06|83.34", "FY2027 P04|30.31");
    }

    @Test
    void everyRowIsAccountedFor() {
        Project project =
                project(salesFact).fact(budgetFact).measure("sales", SALES).build();
        try (Session session = Session.open(project, () -> engine(project, rows()))) {
            FactAccounts accounts = session.accounts("sales");
            assertThat(accounts.read()).isEqualTo(11);
            RoleAccounts ordered = accounts.roles().get(0);
            assertThat(ordered.outcomes().get(RoleAccounts.RowOutcome.PLACED).rows())
                    .isEqualTo(8);
            RoleAccounts.Account after = ordered.outcomes().get(RoleAccounts.RowOutcome.AFTER_AS_OF);
            assertThat(after.rows()).isEqualTo(1);
            assertThat(after.amounts()[0]).isEqualByComparingTo("999999937");
            assertThat(ordered.outcomes().get(RoleAccounts.RowOutcome.NO_DATE).amounts()[0])
                    .isEqualByComparingTo("6");
            assertThat(ordered.outcomes().get(RoleAccounts.RowOutcome.OUTSIDE).rows())
                    .isEqualTo(1);
            RoleAccounts dispatched = accounts.roles().get(1);
            assertThat(dispatched.outcomes().get(RoleAccounts.RowOutcome.PLACED).rows())
                    .isEqualTo(8);
            assertThat(dispatched.outcomes().get(RoleAccounts.RowOutcome.PLACED).amounts()[0])
                    .isEqualByComparingTo("141.31");
            assertThat(dispatched
                            .outcomes()
                            .get(RoleAccounts.RowOutcome.NO_DATE)
                            .amounts()[0])
                    .isEqualByComparingTo("999999934");
            assertThat(accounts.unknownKeys().get("shop").example()).isEqualTo("S9");
            assertThat(session.accounts("budget").roles().get(0).unreadable()).isEqualTo("'FY20X'");
            assertThat(session.report(Report.of("r", List.of("year"), List.of("sales")))
                            .notes())
                    .anyMatch(note -> note.startsWith(
                            "Not counted, sales by ordered: 1 row after the as-of date (amount 999999937"))
                    .contains(
                            "Not in any period, sales by ordered: 1 row without a date (amount 6.00); 1 row outside the date"
                                    + " dimension (amount 5.00).");
        }
    }

    /** What one thread computes is what each of many computes over the same engine, in sessions of their own and in one together. */
    @Test
    void manyThreadsShareAnEngine() throws Exception {
        int threads = Integer.getInteger("mile.stress.threads", 3);
        int each = Integer.getInteger("mile.stress.reports", shallowReportsOfAThread());
        Project project = project(salesFact)
                .fact(budgetFact)
                .measure("sales", SALES)
                .measure("budget", Measure.sum("budget", "amount"))
                .measure("ly", SALES.over(Span.back(1, Level.YEAR)))
                .measure("shops", Measure.distinct("sales", "shop"))
                .measure("north", SALES.where(Condition.column("shops.region").is("North")))
                .measure(
                        "lead",
                        new Measure.Aggregate(
                                Measure.Aggregation.SUM,
                                "sales",
                                Optional.of(RowExpression.Elapsed.of(
                                        RowExpression.TimeUnit.WORKING_DAYS,
                                        new Operand.Name("ordered"),
                                        new Operand.Name("dispatched")))))
                .build();
        List<Report> reports = List.of(
                Report.of("a", List.of("month"), List.of("sales", "budget", "ly")),
                Report.of("b", List.of("shop", "month"), List.of("sales", "shops")),
                Report.of("c", List.of("shops.region"), List.of("budget", "north")),
                Report.of("d", List.of("year"), List.of("lead", "sales")),
                Report.of("e", List.of("weekday_name"), List.of("sales")).withSort(new Report.Sort("sales", true)),
                Report.of("f", List.of("areas.manager", "quarter"), List.of("sales", "ly")));
        List<Grid> expected = new ArrayList<>();
        try (Session alone = Session.open(project, () -> engine(project, rows()))) {
            reports.stream().limit(threads + each - 1).forEach(report -> expected.add(alone.report(report)));
        }
        ExecutorService pool = Executors.newFixedThreadPool(threads);
        try (Engine engine = engine(project, rows());
                Session shared = Session.open(project, engine)) {
            List<Future<?>> results = new ArrayList<>();
            for (int t = 0; t < threads; t++) {
                int first = t;
                results.add(pool.submit(() -> {
                    for (int i = 0; i < each; i++) {
                        int at = (first + i) % expected.size();
                        if (i % 4 == 1) {
                            try (Session own = Session.open(project, engine)) {
                                assertThat(own.report(reports.get(at))).isEqualTo(expected.get(at));
                            }
                        } else {
                            assertThat(shared.report(reports.get(at))).isEqualTo(expected.get(at));
                        }
                    }
                }));
            }
            for (Future<?> result : results) {
                result.get();
            }
            assertThat(shared.check()).isNotEmpty();
        } finally {
            pool.shutdownNow();
        }
    }

    /** Reports are interrupted sooner and later; each ends or is right, and so are those after it. */
    @Test
    void anInterruptedReportLeavesNothingBehind() {
        Project project = project(salesFact)
                .fact(budgetFact)
                .measure("sales", SALES)
                .measure("budget", Measure.sum("budget", "amount"))
                .measure("shops", Measure.distinct("sales", "shop"))
                .build();
        Report report = Report.of("r", List.of("shop", "month"), List.of("sales", "budget", "shops"));
        Engine engine = engine(project, rows());
        try (Session session = Session.open(project, () -> engine)) {
            Thread.currentThread().interrupt();
            assertThatThrownBy(() -> session.report(report)).isInstanceOf(StoppedException.class);
            assertThat(Thread.interrupted()).isTrue();
            Grid expected = session.report(report);
            for (int i = 0; i < 8; i++) {
                ReportOptions options = ReportOptions.DEFAULT.withTimeout(Duration.ofNanos(500_000L << i));
                try {
                    assertThat(session.report(report, options)).isEqualTo(expected);
                } catch (StoppedException e) {
                    assertThat(e).hasMessageStartingWith("stopped after 0.0");
                }
                assertThat(Thread.currentThread().isInterrupted()).isFalse();
            }
            try (Session another = Session.open(project, engine)) {
                assertThat(another.report(report)).isEqualTo(expected);
            }
        }
    }

    /** S2 was not counted in the last week of June, and its count of July lies before that of S1. */
    @Test
    void balancesSayWhichMembersTheyLeaveOut() {
        TestRows stock = TestRows.of(
                "day:date,shop,units:number",
                "2026-06-06,S1,10",
                "2026-06-06,S2,20",
                "2026-06-27,S1,11",
                "2026-07-04,S2,21",
                "2026-07-18,S1,12",
                "2026-07-25,S1,13");
        Measure last = new Measure.Aggregate(Measure.Aggregation.LAST, "stock", Optional.of(column("stock.units")));
        Project project = Project.named("balances")
                .asOf(AS_OF)
                .calendar("fiscal", FiscalCalendar.startingIn(APRIL))
                .dates(DateBound.at(LocalDate.parse("2026-04-01")), DateBound.at(LocalDate.parse("2027-03-31")))
                .fact(Fact.of("stock", "day", "day").withLink("shop", "shops"))
                .lookup(new Lookup("shops", "shop", Map.of("area", "areas")))
                .lookup(new Lookup("areas", "area", Map.of()))
                .measure("closing", last)
                .measure("of_each", last.each("shops.shop"))
                .build();
        Map<String, TestRows> rows = Map.of("stock", stock, "shops", shops, "areas", areas);
        try (Session session = Session.open(project, () -> engine(project, rows))) {
            String note =
                    "last(stock.units) is of one day: from 2026-07-01 to 2026-07-31 of 2026-07-25, which leaves out 1 of 2 members"
                            + " of shop, whose last rows are earlier, such as 'S2'; `each shop` takes the last of each.";
            Report byMonth =
                    Report.of("r", List.of("month"), List.of("closing")).withTotals(false);
            assertThat(session.report(byMonth).notes()).contains(note);
            assertThat(session.report(Report.of("r", List.of("month"), List.of("of_each")))
                            .notes())
                    .noneMatch(any -> any.contains("leaves out"));
            assertThat(session.report(Report.of("r", List.of("shops.region", "month"), List.of("closing"))
                                    .withTotals(false))
                            .notes())
                    .as("each region has one shop")
                    .noneMatch(any -> any.contains("leaves out"));
            assertThat(session.explain("closing", Measure.named("closing"), "FY2027 P04")
                            .notes())
                    .containsExactly(note);
        }
    }

    /** A6 and A10 are of a shop whose area is unknown; A7 has no channel, so `keep` cannot decide. */
    @Test
    void keysMissingInLookupsOfLookupsAreAccountedFor() {
        Map<String, TestRows> rows = rows();
        rows.put("areas", TestRows.of("area,manager", "A,Ash"));
        Project project = project(salesFact.withFilter(
                        new Condition.Not(Condition.column("channel").is("counter"))))
                .measure("n", Measure.count("sales"))
                .build();
        try (Session session = Session.open(project, () -> engine(project, rows))) {
            FactAccounts accounts = session.accounts("sales");
            assertThat(accounts.kept()).isEqualTo(8);
            assertThat(accounts.undecided()).isEqualTo(1);
            assertThat(accounts.unknownKeys())
                    .isEqualTo(Map.of("shop.area", new FactAccounts.UnknownKeys("areas", 2, "B")));
            assertThat(session.report(Report.of("r", List.of("areas.manager"), List.of("n")))
                            .notes())
                    .contains(
                            "sales: `keep` leaves 3 rows out, 1 row because a value that it compares is blank.",
                            "sales: 2 rows with a shop.area that areas lacks, such as 'B'; they count, but have none of its"
                                    + " attributes, and meet no condition on one.");
        }
    }

    /** A shop that opened in the middle of May 2025 has no May 2025 to compare with; like for like leaves it out. */
    @Test
    void membersAreComparedOnlyOnDaysOnWhichTheyCouldHaveRows() {
        Map<String, TestRows> tables = Map.of(
                "sales",
                TestRows.of(
                        "day:date,shop,amount:number",
                        "2025-05-05,S1,10",
                        "2025-05-20,S2,4",
                        "2026-05-05,S1,20",
                        "2026-05-20,S2,8"),
                "shops",
                TestRows.of("shop,region,opened:date", "S1,North,", "S2,South,2025-05-15", "S3,South,"));
        Measure sales = Measure.sum("sales", "amount");
        Measure lastYear = sales.over(Span.back(1, Level.YEAR));
        Project project = Project.named("p")
                .asOf(LocalDate.parse("2026-12-31"))
                .calendar("c", FiscalCalendar.civil())
                .dates(DateBound.at(LocalDate.parse("2025-01-01")), DateBound.at(LocalDate.parse("2026-12-31")))
                .fact(Fact.of("sales", "on", "day")
                        .withLink("shop", "shops")
                        .withCoveredDays(CoveredDays.from(LocalDate.parse("2025-01-01"))))
                .lookup(new Lookup("shops", "shop", Map.of())
                        .withMemberDays(new Lookup.MemberDays(Optional.of("opened"), Optional.empty())))
                .measure("sales", sales)
                .measure("ly", lastYear)
                .measure("like_for_like", sales.eachWith("shop", lastYear))
                .build();
        When may = new When.Labelled("FY2026 P05");
        List<String> shown = List.of("sales", "ly", "like_for_like");
        assertThat(report(
                        project, tables, Report.of("r", List.of("shop"), shown).withWhen(may)))
                .containsExactly("S1|20|10|20", "S2|8||");
        assertThat(report(
                        project, tables, Report.of("r", List.of("month"), shown).withWhen(may)))
                .containsExactly("FY2026 P05|28|14|20");
        // the region South has two shops, so it is not one of them
        assertThat(report(
                        project,
                        tables,
                        Report.of("r", List.of("shops.region"), shown).withWhen(may)))
                .containsExactly("North|20|10|20", "South|8|4|");
    }

    @ParameterizedTest
    @CsvSource({
        ", ordered, 2025-08-03, 2026-08-15",
        ", dispatched, 2025-08-05, 2026-08-12",
        "S2, ordered, 2026-08-03, 2026-08-10",
        "S2, dispatched, 2026-08-01, 2026-08-12",
        "S3, ordered, ,"
    })
    void coverageRunsFromTheFirstToTheLastPlacedRow(String shop, String role, LocalDate first, LocalDate last) {
        Project project = project(
                        shop == null
                                ? salesFact
                                : salesFact.withFilter(Condition.column("shop").is(shop)))
                .measure("n", Measure.count("sales"))
                .build();
        try (Engine engine = engine(project, rows());
                Session session = Session.open(project, engine)) {
            assertThat(engine.coverage("sales", role, session.dayContext()))
                    .isEqualTo(first == null ? DateRange.EMPTY : DateRange.of(first, last));
        }
    }

    @Test
    void rowsThatAreNotKeptAreNoRows() {
        Project project = project(
                        salesFact.withFilter(Condition.column("channel").is("web")))
                .measure("n", Measure.count("sales"))
                .build();
        assertThat(report(project, rows(), Report.of("r", List.of("year"), List.of("n"))))
                .containsExactly("FY2026|1", "FY2027|4");
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void sumsAreExactWhateverTheOrder(long seed) {
        TestRows many = TestRows.of("ordered:date,amount:number");
        BigDecimal expected = BigDecimal.ZERO;
        for (int i = 0; i < 2_000; i++) {
            BigDecimal amount = BigDecimal.valueOf(((i * 7_919L) % 10_007) - 5_000, 2)
                    .multiply(BigDecimal.valueOf(i % 3 == 0 ? 100_000_003 : 1));
            expected = expected.add(amount);
            many.add("2026-0" + (4 + i % 4) + "-01", amount.toPlainString());
        }
        many.shuffle(seed);
        Project project = project(Fact.of("sales", "ordered", "ordered"))
                .measure("sales", SALES)
                .build();
        assertThat(report(project, Map.of("sales", many), Report.of("r", List.of("year"), List.of("sales"))))
                .containsExactly("FY2027|" + expected.stripTrailingZeros().toPlainString());
    }

    /** However days are put together, what is found is what they say one by one, and every row is counted. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4})
    void stretchesHoldWhatTheirDaysHold(long seed) {
        Random random = new Random(seed);
        TestRows many = TestRows.of("ordered:date,shop,channel,amount:number");
        for (int i = 0; i < 400; i++) {
            int day = random.nextInt(1_000) - 150;
            many.add(
                    random.nextInt(20) == 0
                            ? ""
                            : LocalDate.parse("2025-04-01").plusDays(day).toString(),
                    random.nextInt(9) == 0 ? "" : "S" + random.nextInt(3),
                    random.nextInt(9) == 0 ? "" : "C" + random.nextInt(5),
                    random.nextInt(9) == 0
                            ? ""
                            : BigDecimal.valueOf(random.nextInt(), 2).toPlainString());
        }
        Fact fact = Fact.of("sales", "ordered", "ordered").withLink("shop", "shops");
        Operand.Field amount = new Operand.Field(List.of(), "amount", ValueType.NUMBER);
        Operand.Field channel = new Operand.Field(List.of(), "channel", ValueType.TEXT);
        Condition some = new Condition.Compare(channel, Condition.Comparison.EQUAL, new Operand.Text("C1"));
        Optional<RowExpression> of = Optional.of(new RowExpression.Value(amount));
        List<TotalColumn> columns = List.of(
                new TotalColumn(TotalColumn.Kind.ROWS, Optional.empty(), Optional.empty()),
                new TotalColumn(TotalColumn.Kind.COUNT, of, Optional.empty()),
                new TotalColumn(TotalColumn.Kind.SUM, of, Optional.empty()),
                new TotalColumn(TotalColumn.Kind.SUM, of, Optional.of(some)),
                new TotalColumn(TotalColumn.Kind.MIN, of, Optional.empty()),
                new TotalColumn(TotalColumn.Kind.MAX, of, Optional.empty()),
                new TotalColumn(
                        TotalColumn.Kind.DISTINCT, Optional.of(new RowExpression.Value(channel)), Optional.empty()));
        Project project = project(seed % 2 == 0 ? fact : fact.withFilter(new Condition.Not(some)))
                .measure("sales", SALES)
                .build();
        Map<String, TestRows> rows = new LinkedHashMap<>(rows());
        rows.put("sales", many);
        Engine engine = engine(project, rows);
        try (Session session = Session.open(project, engine)) {
            DateRange placed = session.dayContext().dimensionRange();
            DateRange asked = seed < 3 ? placed : placed.notAfter(placed.lastEpochDay() - 100);
            List<Integer> begins = IntStream.range(0, 1 + random.nextInt(30))
                    .mapToObj(i -> asked.firstEpochDay() - 10 + random.nextInt(asked.length() + 20))
                    .toList();
            List<Operand.Field> groups = List.of(
                    new Operand.Field(List.of(), "shop", ValueType.TEXT),
                    new Operand.Field(List.of("shop"), "region", ValueType.TEXT));
            TotalsRequest daily = TotalsRequest.daily("sales", "ordered", asked, groups, columns);
            TotalsRequest request =
                    new TotalsRequest("sales", "ordered", asked, DayBuckets.of(asked, begins), groups, columns);
            TotalsCursor found = engine.totals(request, session.dayContext());
            TotalsCursor expected = new BucketingCursor(engine.totals(daily, session.dayContext()), request);
            assertThat(totals(found)).isEqualTo(totals(expected)).hasSizeGreaterThan(4);
            assertThat(found.rowOutcomes()).isEqualTo(expected.rowOutcomes()).hasSize(3);
        }
    }

    /**
     * {@return totals as lines to compare: the members, the day, and a number for each column}
     *
     * @param cursor the totals; read to the end, and closed
     */
    public static List<String> totals(TotalsCursor cursor) {
        List<String> lines = new ArrayList<>();
        for (GroupTotals group : cursor.all()) {
            for (int i = 0; i < group.days().length; i++) {
                StringBuilder line = new StringBuilder(Arrays.toString(group.members()) + " " + group.days()[i]);
                for (DailyTotals values : group.values()) {
                    Number number = values.amount(i);
                    line.append(' ')
                            .append(
                                    number == null
                                            ? "-"
                                            : new BigDecimal(number.toString())
                                                    .stripTrailingZeros()
                                                    .toPlainString());
                    // no texts may be none, or an empty list
                    if (values instanceof DailyTotals.StringSets texts && texts.values()[i] != null) {
                        line.append(String.join(",", new TreeSet<>(List.of(texts.values()[i]))));
                    }
                }
                lines.add(line.toString());
            }
        }
        return lines;
    }

    @Test
    void differentValuesAreDifferentInWhatTheyAre() {
        TestRows rows = TestRows.of(
                "day:date,price:number,code",
                "2026-05-04,2.5,a",
                "2026-05-04,2.50,A",
                "2026-05-05,2.500,a\u001fb",
                "2026-05-05,-0,a\u001eb",
                "2026-05-06,0.00,a\u001e\u001fm",
                "2026-05-06,,a",
                "2026-05-06,,");
        Measure prices = Measure.distinct("sales", "price");
        Measure codes = Measure.distinct("sales", "code");
        Project project = project(Fact.of("sales", "on", "day"))
                .measure("prices", prices)
                .measure("prices_2", prices.over(Span.last(2, Level.DAY)))
                .measure("codes", codes)
                .measure("codes_3", codes.over(Span.last(3, Level.DAY)))
                .build();
        assertThat(report(
                        project,
                        Map.of("sales", rows),
                        Report.of("r", List.of("day"), List.of("prices", "prices_2", "codes", "codes_3"))))
                .containsExactly(
                        "2026-05-04|1|1|2|2",
                        "2026-05-05|2|2|2|4",
                        "2026-05-06|1|2|2|5",
                        "2026-05-07|0|1|0|4",
                        "2026-05-08|0|0|0|2");
    }

    @Test
    void oddNamesAndTextsComeThrough() {
        TestRows odd = TestRows.of(
                "date:date,Net \"Amount\":number,say 'so'",
                "2026-05-04,1.10,=1+2",
                "2026-05-04,2,O'Hara",
                "2026-05-05,3,ß");
        Fact fact = Fact.of("sales", "on", "date");
        Measure sum = new Measure.Aggregate(
                Measure.Aggregation.SUM,
                "sales",
                Optional.of(new RowExpression.Value(new Operand.Name("sales.Net \"Amount\""))));
        Project project = project(fact)
                .measure("m", sum)
                .measure("o", sum.where(Condition.column("say 'so'").is("O'Hara")))
                .build();
        assertThat(report(project, Map.of("sales", odd), Report.of("r", List.of("say 'so'"), List.of("m", "o"))))
                .containsExactly("=1+2|1.1|", "O'Hara|2|2", "ß|3|");
    }

    @Test
    void columnsOfNothingButBlanksFitAnywhere() {
        TestRows rows = TestRows.of("day:date,promo,bonus:number,amount:number", "2026-05-04,,,5", "2026-05-05,,,7");
        Measure bonus = Measure.sum("sales", "bonus");
        Measure scaled = new Measure.Aggregate(
                Measure.Aggregation.SUM,
                "sales",
                Optional.of(new RowExpression.Arithmetic(
                        new RowExpression.Value(new Operand.Name("sales.bonus")),
                        RowExpression.Sign.TIMES,
                        new RowExpression.Value(new Operand.Name("sales.amount")))));
        Project project = project(Fact.of("sales", "on", "day"))
                .measure(
                        "n",
                        Measure.count("sales").where(Condition.column("promo").is("SPRING")))
                .measure(
                        "other",
                        Measure.count("sales")
                                .where(new Condition.Not(
                                        Condition.column("promo").is("SPRING"))))
                .measure("blank", Measure.count("sales").where(new Condition.IsBlank(new Operand.Name("promo"))))
                .measure("bonus", bonus)
                .measure("scaled", scaled)
                .measure(
                        "values",
                        new Measure.Aggregate(
                                Measure.Aggregation.COUNT,
                                "sales",
                                Optional.of(new RowExpression.Value(new Operand.Name("sales.bonus")))))
                .build();
        assertThat(report(
                        project,
                        Map.of("sales", rows),
                        Report.of("r", List.of("promo"), List.of("n", "other", "blank", "bonus", "scaled", "values"))))
                .containsExactly("|0|0|2|||0");
    }

    @Test
    void emptyFactsGiveBlanksAndNoRows() {
        Project project = project(Fact.of("sales", "ordered", "ordered"))
                .measure("sales", SALES)
                .build();
        assertThat(report(
                        project,
                        Map.of("sales", TestRows.of("ordered:date,amount:number")),
                        Report.of("r", List.of("year"), List.of("sales"))))
                .isEmpty();
    }

    /** What a table lacks, or cannot be compared, every engine says in the same words. */
    @Test
    void refusalsHaveTheSameWords() {
        Measure sales = Measure.sum("sales", "amount");
        refuses(
                Fact.of("sales", "ordered", "orderd"),
                sales,
                "the date role 'ordered' of 'sales' is the column 'orderd', which ",
                " lacks; did you mean 'ordered'?");
        refuses(
                salesFact.withLink("shp", "shops"),
                sales,
                "the fact 'sales' links the column 'shp', which it lacks; did you mean 'shop'?");
        refuses(
                salesFact.withFilter(Condition.column("chanel").is("web")),
                sales,
                "the filter of the fact 'sales' names 'chanel', which is not one of its columns; did you mean 'channel'?");
        refuses(
                salesFact,
                Measure.sum("sales", "channel"),
                "`sum(sales.channel)` needs numbers, but the column 'channel' of the fact 'sales' holds values that are not numbers");
        refuses(
                salesFact,
                sales.where(new Condition.Compare(
                        new Operand.Name("weekday_name"), Condition.Comparison.EQUAL, new Operand.Name("channel"))),
                "`weekday_name = channel` compares an attribute of the day with a column of the row; compare each with a constant");
        refuses(
                salesFact,
                sales.where(Condition.column("sales.units").is("three")),
                "`units = 'three'` compares a number (units) with a text ('three'); write numbers without quotes and texts in single"
                        + " quotes");
    }

    private void refuses(Fact fact, Measure measure, String... parts) {
        Project project = project(fact).measure("m", measure).build();
        assertThatThrownBy(() -> report(project, rows(), Report.of("r", List.of("year"), List.of("m"))))
                .isInstanceOf(MileException.class)
                .satisfies(error -> assertThat(error.getMessage()).contains(parts));
    }

    @Test
    void keysThatStandTwiceAreRefused() {
        Map<String, TestRows> rows = rows();
        rows.put("shops", TestRows.of("shop,region,area", "S1,North,A", "S1,South,B"));
        Project project = project(salesFact).measure("sales", SALES).build();
        assertThatThrownBy(() -> report(project, rows, Report.of("r", List.of("shops.region"), List.of("sales"))))
                .hasMessageContaining("the lookup 'shops' has the key 'S1' twice; each key needs one row");
    }

    @Test
    void subtotalsAreComputedOnTheirOwnDaysAndMembers() {
        Project project = project(salesFact)
                .measure("orders", Measure.distinct("sales", "id"))
                .measure("closing", Measure.last("sales", "amount"))
                .measure("rate", SALES.per(Per.workingDay()))
                .build();
        try (Session session = Session.open(project, () -> engine(project, rows()))) {
            Grid grid = session.report(Report.of("r", List.of("year", "shop"), List.of("orders", "closing", "rate")));
            Grid.Row year = grid.rows().stream()
                    .filter(r -> r.kind() == Grid.RowKind.SUBTOTAL && r.labels().equals(List.of("FY2027")))
                    .findFirst()
                    .orElseThrow();
            // five orders of three shops; the last day with an amount; 77.31 over the 116 working days so far,
            // correctly rounded
            assertThat(year.values().get(0).decimal()).isEqualByComparingTo("5");
            assertThat(year.values().get(1).decimal()).isEqualByComparingTo("7");
            assertThat(year.values().get(2).toDouble()).isEqualTo(0.6664655172413793);
        }
    }

    @TestFactory
    Stream<DynamicTest> randomReportsAgreeWithTheReferenceEvaluator() {
        return LongStream.rangeClosed(1, Integer.getInteger("mile.random.rows", shallowRandomRows()))
                .mapToObj(seed -> DynamicTest.dynamicTest("rows " + seed, () -> new RandomReports(seed)
                        .check(Integer.getInteger("mile.random.projects", shallowRandomProjects()), this::engine)));
    }

    /** {@return how many reports each of several threads asks for, unless {@code mile.stress.reports} says otherwise} */
    protected int shallowReportsOfAThread() {
        return 6;
    }

    /** {@return over how many tables of random rows random projects are tried, unless {@code mile.random.rows} says otherwise} */
    protected int shallowRandomRows() {
        return 8;
    }

    /** {@return how many random projects are tried over each of them, unless {@code mile.random.projects} says otherwise} */
    protected int shallowRandomProjects() {
        return 25;
    }
}
