package dev.mile.engine.rows;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.CoveredDays;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Spread;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.Month;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.BigRange;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Scale;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SpreadTest {
    private static BigDecimal[] numbers(String text) {
        return Arrays.stream(text.split(" ")).map(BigDecimal::new).toArray(BigDecimal[]::new);
    }

    // by hand: the running sum rounded half away from zero, each part what it adds
    @ParameterizedTest(name = "{0} by {1} is {2}")
    @CsvSource({
        "10, 1 1 1, 3.33 3.34 3.33",
        "-10, 1 1 1, -3.33 -3.34 -3.33",
        "0.05, 1 1 1 1 1 1, 0.01 0.01 0.01 0.00 0.01 0.01",
        "100, 1 2 0.5, 28.57 57.14 14.29",
        "0.001, 1 1, 0.001 0.000",
        "1000.100, 3 1, 750.08 250.02",
        "7, 0.25 0 0.75, 1.75 0.00 5.25",
        "0, 1 1, 0.00 0.00"
    })
    void amountsAreSpreadToTheLastUnit(BigDecimal amount, String weights, String parts) {
        assertThat(Apportionment.parts(amount, numbers(weights))).containsExactly(numbers(parts));
    }

    @Property(tries = 1_000, seed = "20260814")
    void partsAddUpAndNoneIsFurtherThanAUnitFromItsShare(
            @ForAll @BigRange(min = "-99999999", max = "99999999") @Scale(3) BigDecimal amount,
            @ForAll @Size(min = 1, max = 60) List<@IntRange(min = 1, max = 1_000_000) Integer> weights) {
        BigDecimal[] parts = Apportionment.parts(
                amount, weights.stream().map(BigDecimal::valueOf).toArray(BigDecimal[]::new));
        assertThat(Arrays.stream(parts).reduce(BigDecimal.ZERO, BigDecimal::add))
                .isEqualByComparingTo(amount);
        BigDecimal sum = BigDecimal.valueOf(
                weights.stream().mapToLong(Integer::longValue).sum());
        for (int i = 0; i < parts.length; i++) {
            BigDecimal off = parts[i].multiply(sum)
                    .subtract(amount.multiply(BigDecimal.valueOf(weights.get(i))))
                    .abs();
            assertThat(off).isLessThan(sum.movePointLeft(parts[i].scale()));
        }
    }

    /** A forecast of two months, spread like the sales of a year before: by channel, returns weighing nothing. */
    @Test
    void plansAreSpreadLikeAnotherFactsYearBefore() {
        Fact sales = Fact.of("sales", "ordered", "day").withDate("paid", "paid");
        Fact forecast = new Fact(
                "forecast",
                Map.of("for", "month"),
                Map.of(),
                Optional.empty(),
                LocalTime.MIDNIGHT,
                Optional.of(Grain.of(Level.PERIOD)),
                Spread.like("sales", "amount"),
                true,
                CoveredDays.OF_ROWS,
                Map.of());
        Table rows = Table.ofRows(7)
                .date(
                        "day",
                        days(
                                "2025-03-01",
                                "2025-03-03",
                                "2025-03-03",
                                "2025-03-05",
                                "2025-03-09",
                                "2026-03-20",
                                "2024-02-29"))
                .date(
                        "paid",
                        days(
                                "2025-04-01",
                                "2025-04-01",
                                "2025-04-01",
                                "2025-04-01",
                                "2025-04-01",
                                "2025-04-01",
                                "2025-04-01"))
                .text("channel", List.of("web", "web", "shop", "web", "web", "web", "web"))
                .number("amount", List.of(numbers("10 20 999 -5 10 777 50")));
        Table plan = Table.ofRows(4)
                .text("month", List.of("FY2026 P03", "2026-03-15", "FY2025 P02", "soon"))
                .text("channel", Arrays.asList("web", "phone", "web", "web"))
                .number("amount", List.of(numbers("100 31 28 1")));
        Project project = Project.named("p")
                .asOf(LocalDate.parse("2026-03-10"))
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(LocalDate.parse("2024-01-01")), DateBound.at(LocalDate.parse("2026-12-31")))
                .fact(sales)
                .fact(forecast)
                .measure("plan", Measure.sum("forecast", "amount"))
                .measure("rows", Measure.count("forecast"))
                .build();
        try (Session session = Session.open(
                project, MemoryEngine.over(project).rows("sales", rows).rows("forecast", plan))) {
            Grid grid = session.report(Report.of("r", List.of("day", "channel"), List.of("plan", "rows")));
            List<String> days = grid.rows().stream()
                    .filter(r -> r.kind() == Grid.RowKind.LEAF)
                    .map(r -> r.labels().get(0) + " " + r.labels().get(1) + " "
                            + r.values().get(0) + " " + r.values().get(1))
                    .toList();
            // web: 10, 20 and 10 on three days; the return weighs nothing; phone sold nothing, so evenly
            assertThat(days)
                    .contains(
                            "2026-03-01 web 25.00 1",
                            "2026-03-03 web 50.00 1",
                            "2026-03-09 web 25.00 1",
                            "2026-03-05 phone 1.00 1")
                    .doesNotContain("2026-03-05 web 0.00 1")
                    // February 28, 2025 looks at February 28, 2024, which sold nothing: the 29th has no day a year
                    // later
                    .contains("2025-02-01 web 1.00 1", "2025-02-28 web 1.00 1");
            assertThat(days).hasSize(3 + 31 + 28);
            RoleAccounts accounts = session.accounts("forecast").roles().get(0);
            assertThat(accounts.outcomes()
                            .get(RoleAccounts.RowOutcome.UNREADABLE)
                            .rows())
                    .isEqualTo(1);
            assertThat(accounts.unreadable()).isEqualTo("'soon'");
        }
    }

    private static List<LocalDate> days(String... dates) {
        return Arrays.stream(dates).map(LocalDate::parse).toList();
    }
}
