package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Lookup;
import dev.mile.fact.Spread;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.measure.Target;
import dev.mile.measure.TargetBands;
import dev.mile.span.Span;
import dev.mile.testkit.TestRows;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a check finds in a model and its data: each fault of a project that has one of every kind. */
class CheckTest {
    private static final TargetBands BANDS =
            new TargetBands(TargetBands.Aim.HIGH, BigDecimal.ONE, new BigDecimal("0.9"));

    private static Project.Builder project() {
        return Project.named("p")
                .asOf(LocalDate.parse("2026-05-31"))
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(LocalDate.parse("2026-01-01")), DateBound.at(LocalDate.parse("2026-12-31")))
                .working(WorkingWeek.named("w").rest(DayOfWeek.SUNDAY).build())
                .fact(Fact.of("sales", "on", "on")
                        .withDate("paid", "paid")
                        .withLink("shop", "shops")
                        .withFilter(Condition.column("state").is("done")))
                .fact(Fact.of("plan", "for", "for").withGrain(Grain.of(Level.YEAR), Spread.DAYS))
                .lookup(new Lookup("shops", "shop", Map.of()))
                .measure("sales", Measure.sum("sales", "amount"))
                .measure("planned", Measure.sum("plan", "amount"));
    }

    private static List<String> findings(Project project, boolean hasLateRow) {
        TestRows sales = TestRows.of("on:date,paid:date,shop,state,amount:number");
        // every day of January, then nothing for two weeks, then every day but the last of the month
        for (LocalDate day = LocalDate.parse("2026-01-02"); day.getMonthValue() < 4; day = day.plusDays(1)) {
            boolean gap = day.getMonthValue() == 2 && day.getDayOfMonth() < 15;
            if (!gap) {
                sales.add(day.toString(), "", "S1", "done", day.getMonthValue() == 3 ? "0" : "2");
            }
        }
        sales.add("", "2026-01-09", "S1", "done", "5");
        if (hasLateRow) {
            sales.add("2026-06-02", "2026-06-03", "S1", "done", "7");
        }
        sales.add("2027-03-01", "", "S1", "done", "11");
        sales.add("2026-03-02", "", "S9", "done", "0");
        sales.add("2026-03-02", "", "S1", "", "13");
        sales.add("2026-03-02", "", "S1", "open", "17");
        Table plan = Table.ofRows(2).text("for", List.of("FY2026", "FY20X")).floating("amount", new double[] {1.5, 2});
        MemoryEngine engine = MemoryEngine.over(project)
                .rows("sales", sales.table())
                .rows("plan", plan)
                .rows("shops", TestRows.of("shop,region", "S1,North").table());
        try (Session session = Session.open(project, engine)) {
            return session.check().stream()
                    .map(f -> f.severity() + " " + f.subject() + ": " + f.text()
                            + f.remedy().map(remedy -> " | " + remedy).orElse(""))
                    .toList();
        }
    }

    private static final List<String> OF_DATA = List.of(
            "NOTE sales: 1 row that the filter of the fact leaves out because a value that it compares is blank | say in the filter of the fact what becomes of"
                    + " blanks: add `or \u2026 is blank` to count them",
            "NOTE sales by on: 1 row of 79 rows after the as-of date (amount 7) | they never count; a later as-of date takes them in",
            "WARNING sales by on: 1 row of 79 rows without a date (amount 5) | they are in no period of this role",
            "WARNING sales by on: 1 row of 79 rows outside the date dimension (amount 11) | they are in no period of this role",
            "NOTE sales by paid: 1 row of 79 rows after the as-of date (amount 7) | they never count; a later as-of date takes them in",
            "NOTE sales by paid: 77 rows of 79 rows without a date (amount 99) | they are in no period of this role",
            "WARNING sales.shop: 1 row with a key that the lookup 'shops' lacks, such as 'S9' | add the key to the lookup, or correct it"
                    + " in the fact; the rows count, without attributes",
            "WARNING plan.amount: the column holds binary floating numbers, which are not exact decimals | store amounts as DECIMAL;"
                    + " sums of this column are compensated, not exact",
            "ERROR plan by for: 1 row of 2 rows with a date that can't be read, such as 'FY20X' | write dates as 2026-04-01, periods"
                    + " of plans by their labels");

    private static List<String> onlyOfTheModel(List<String> findings) {
        return findings.stream().filter(finding -> !OF_DATA.contains(finding)).toList();
    }

    @Test
    void faultsOfDataAreFound() {
        Project sound = project()
                .report(Report.of("r", List.of("month"), List.of("sales", "planned")))
                .build();
        assertThat(findings(sound, true)).isEqualTo(OF_DATA);
        // without the late row the fact is covered to the end of March, and has rows on most of its days
        assertThat(findings(sound, false))
                .contains(
                        "WARNING sales: no rows on 12 working days in a row, 2026-02-01..2026-02-14 | check that the export is"
                                + " complete, or list the days as holidays")
                .doesNotContain(OF_DATA.get(1));
    }

    @Test
    void faultsOfTheModelAreFound() {
        Measure sales = Measure.named("sales");
        Project project = project()
                .measure("ratio", Measure.named("planned").dividedBy(sales))
                .measure("rate", sales.dividedBy(Measure.named("planned")).over(Span.toDate(Level.YEAR)))
                .measure(
                        "by_region",
                        Measure.named("planned")
                                .where(Condition.column("shops.region").is("North")))
                .measure("shown", sales.minus(Measure.named("hidden_part")))
                .measure("hidden_part", Measure.count("sales"))
                .measure("sorted", Measure.count("sales"))
                .measure("topped", Measure.count("sales"))
                .measure("goal", Measure.count("sales"))
                .measure("unused", Measure.count("sales"))
                .target(new Target("used", "sales", Measure.named("goal"), BANDS))
                .target(new Target("idle", "sales", Measure.named("planned"), BANDS))
                .report(Report.of("r", List.of("month"), List.of("shown", "used", "ratio", "rate", "by_region"))
                        .withSort(new Report.Sort("sorted", true)))
                .report(Report.of("s", List.of("shop"), List.of("planned")).withTop(new Report.Top(3, "topped")))
                .build();
        assertThat(onlyOfTheModel(findings(project, true)))
                .containsExactly(
                        "WARNING ratio: the measure 'ratio' divides by `sales`, which is zero in 1 of 3 months | a division by zero is"
                                + " blank; divide by something that is not, or say what blank means with `or`",
                        "WARNING by_region: the measure 'by_region' can only be blank: sum(plan.amount) is blank: the fact 'plan' has no"
                                + " 'shops.region' | name a column that the fact has",
                        "NOTE r: the report 'r': sum(plan.amount) is blank: the fact 'plan' has no 'shops.region'. | use `across` to show"
                                + " the whole there, or another report",
                        "NOTE s: the report 's': sum(plan.amount) is blank by shop: the fact 'plan' has no 'shop'. | use `across` to show"
                                + " the whole there, or another report",
                        "NOTE unused: no report and no measure uses 'unused' | show it, or remove it",
                        "NOTE idle: no report shows the target 'idle' | show it, or remove it");
    }

    @ParameterizedTest
    @CsvSource({
        "12, 2, true",
        "13, 2, false",
        "12, 1, false",
    })
    void datesNoneOfWhichFallsAfterThe12thAreDoubted(int lastDay, int months, boolean doubted) {
        Project project = Project.named("p")
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .fact(Fact.of("sales", "on", "on"))
                .measure("sales", Measure.sum("sales", "amount"))
                .report(Report.of("r", List.of("month"), List.of("sales")))
                .build();
        TestRows sales = TestRows.of("on:date,amount:number");
        for (int month = 1; month <= months; month++) {
            for (int day = 1; day <= lastDay; day++) {
                sales.add(LocalDate.of(2026, month, day).toString(), "1");
            }
        }
        try (Session session = Session.open(project, MemoryEngine.over(project).rows("sales", sales.table()))) {
            List<String> found = session.check().stream().map(Finding::text).toList();
            assertThat(found.contains("none of 24 different dates falls after the 12th of its month"))
                    .isEqualTo(doubted);
        }
    }

    @Test
    void unknownNamesAreFound() {
        Project project = project()
                .label("shops.regoin", "Region")
                .label("shops.region", "Region")
                .label("stat", "State")
                .label("state", "State")
                .measure(
                        "lost",
                        Measure.named("sales").where(Condition.column("regoin").is("North")))
                .target(new Target("t", "sales", Measure.named("nowhere"), BANDS))
                .report(Report.of("r", List.of("month"), List.of("sales", "planned", "lost")))
                .report(Report.of("s", List.of("mnth"), List.of("sales")))
                .build();
        List<String> found = onlyOfTheModel(findings(project, true));
        assertThat(found).hasSize(7);
        assertThat(found.subList(0, 2))
                .containsExactly(
                        "WARNING shops.regoin: `labels` names the column 'regoin', which is not there; did you mean 'region'? | name a"
                                + " column of the fact or lookup",
                        "WARNING stat: `labels` names the column 'stat', which is not there; did you mean 'state'? | name a column of"
                                + " the fact or lookup");
        assertThat(found.get(2)).startsWith("ERROR lost: unknown name 'regoin'; known: amount, ");
        assertThat(found.get(4)).startsWith("ERROR r: unknown name 'regoin'; known: amount, ");
        assertThat(found)
                .contains(
                        "ERROR t: unknown measure 'nowhere'; known: sales, planned, lost",
                        "ERROR s: unknown level, dimension or date attribute 'mnth'; did you mean 'month'?",
                        "NOTE t: no report shows the target 't' | show it, or remove it");
    }
}
