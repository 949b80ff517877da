package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.DateCount;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.CoveredDays;
import dev.mile.fact.Fact;
import dev.mile.fact.ValueType;
import dev.mile.internal.PrivateFolder;
import dev.mile.measure.Measure;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.run.ExternalRowSorter;
import dev.mile.span.Span;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.Month;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Groups are evaluated as they arrive, so that no more than one member's are held. */
class GroupStreamTest {
    private static final int CUSTOMERS = 3_000;

    private int read;
    private int closed;

    /** Customers that are made when they are asked for: number i sold i in 2025 and 2 i in 2026. */
    private final class Made implements TotalsCursor {
        private final boolean grouped;
        private int next;

        Made(TotalsRequest request) {
            grouped = !request.groups().isEmpty();
        }

        @Override
        public GroupTotals next() {
            if (next == (grouped ? CUSTOMERS : 1)) {
                return null;
            }
            int i = next++;
            read += grouped ? 1 : 0;
            long amount = grouped ? i : CUSTOMERS * (CUSTOMERS - 1L) / 2;
            DailyTotals rows = DailyTotals.counts(new long[] {1, 1});
            return new GroupTotals(
                    grouped ? new String[] {String.format(Locale.ROOT, "K%05d", i)} : new String[0],
                    new int[] {day("2025-05-01"), day("2026-05-01")},
                    new DailyTotals[] {rows, rows, new DailyTotals.Longs(new long[] {amount, 2 * amount}, 0, null)});
        }

        @Override
        public Map<RoleAccounts.RowOutcome, Long> rowOutcomes() {
            return Map.of(RoleAccounts.RowOutcome.PLACED, 2L * CUSTOMERS);
        }

        @Override
        public void close() {
            closed++;
        }
    }

    private static int day(String date) {
        return (int) LocalDate.parse(date).toEpochDay();
    }

    private Engine engine() {
        Engine engine = mock(Engine.class);
        when(engine.schema()).thenReturn(project().schema());
        when(engine.columns("sales"))
                .thenReturn(Map.of("day", ValueType.DATE, "customer", ValueType.TEXT, "amount", ValueType.NUMBER));
        when(engine.rejected(any())).thenReturn(FactAccounts.Rejected.NONE);
        when(engine.dates("sales"))
                .thenReturn(
                        List.of(new DateCount("on", day("2024-01-01"), 1), new DateCount("on", day("2026-12-31"), 1)));
        when(engine.coverage(any(), any(), any())).thenCallRealMethod();
        when(engine.totals(any(), any())).thenAnswer(asked -> new Made(asked.getArgument(0)));
        return engine;
    }

    private static Project project() {
        return Project.named("customers")
                .asOf(LocalDate.parse("2026-12-31"))
                .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(LocalDate.parse("2025-01-01")), DateBound.at(LocalDate.parse("2026-12-31")))
                .fact(Fact.of("sales", "on", "day").withCoveredDays(CoveredDays.from(LocalDate.parse("2024-01-01"))))
                .measure("sales", Measure.sum("sales", "amount"))
                .measure("last_year", Measure.named("sales").over(Span.back(1, Level.YEAR)))
                .build();
    }

    private static Report report(String... parts) {
        return Report.of("r", List.of(parts), List.of("sales", "last_year"));
    }

    @Test
    void noMoreThanOneMemberIsReadAhead() {
        Engine engine = engine();
        List<Grid.Row> leaves = new ArrayList<>();
        List<Grid.Row> others = new ArrayList<>();
        try (Session session = Session.open(project(), engine)) {
            session.report(report("customer", "year"), new GridSink() {
                @Override
                public void header(Grid.Header head) {
                    assertThat(read).as("read before the head").isLessThan(2);
                }

                @Override
                public void row(Grid.Row row) {
                    (row.kind() == Grid.RowKind.LEAF ? leaves : others).add(row);
                    // two rows a customer, and one customer ahead
                    assertThat(read).isLessThanOrEqualTo(leaves.size() / 2 + 3);
                }

                @Override
                public void notes(List<String> notes) {
                    assertThat(read).isEqualTo(CUSTOMERS);
                    assertThat(notes).noneMatch(note -> note.contains("Not in any period"));
                }
            });
        }
        assertThat(leaves).hasSize(2 * CUSTOMERS);
        for (int i = 0; i < CUSTOMERS; i++) {
            assertThat(leaves.get(2 * i).values()).containsExactly(Value.of(i), Value.NOTHING);
            assertThat(leaves.get(2 * i + 1).values()).containsExactly(Value.of(2L * i), Value.of(i));
        }
        // the total stands first, and is asked for by itself
        assertThat(others.get(0).kind()).isEqualTo(Grid.RowKind.TOTAL);
        assertThat(others.get(0).values().get(0).decimal())
                .isEqualTo(BigDecimal.valueOf(3L * CUSTOMERS * (CUSTOMERS - 1) / 2));
        assertThat(others).hasSize(1 + CUSTOMERS);
        verify(engine, times(2)).totals(any(), any());
        assertThat(closed).isEqualTo(2);
    }

    /** Rows in another order need all groups; they are read once, and the figures are the same. */
    @ParameterizedTest
    @CsvSource({"year;customer, 1", "year, 1"})
    void otherOrdersReadAllOnce(String parts, int passes) {
        Engine engine = engine();
        try (Session session = Session.open(project(), engine)) {
            Grid grid = session.report(report(parts.split(";")).withTotals(false));
            Grid.Row last = grid.rows().get(grid.rows().size() - 1);
            boolean byCustomer = parts.contains("customer");
            long of = byCustomer ? CUSTOMERS - 1 : CUSTOMERS * (CUSTOMERS - 1L) / 2;
            assertThat(last.values()).containsExactly(Value.of(2 * of), Value.of(of));
        }
        verify(engine, times(passes)).totals(any(), any());
        assertThat(closed).isEqualTo(passes);
    }

    /** Where all groups would take too much memory, they are begun again one at a time, and their rows put in order. */
    @ParameterizedTest
    @CsvSource({
        "year;customer, true, '', 0",
        "year;customer, false, '', 0",
        "year;quarter;customer;month, true, '', 0",
        "customer, true, last_year, 0",
        "customer;year, false, sales, 0",
        "year;customer, true, sales, 0",
        "customer;month, true, sales, 1"
    })
    void whatDoesNotFitIsReadOneMemberAtATime(String parts, boolean totals, String sort, int top) {
        Engine engine = engine();
        try (Session session = Session.open(project(), engine)) {
            Report report = report(parts.split(";")).withTotals(totals);
            if (!sort.isEmpty()) {
                report = report.withSort(new Report.Sort(sort, !sort.equals("last_year")));
            }
            if (top > 0) {
                report = report.withTop(new Report.Top(top, "sales"));
            }
            Grid expected = session.report(report);
            session.limitHeldBytes(100_000);
            Grid grid = session.report(report);
            assertThat(grid.rows()).isEqualTo(expected.rows()).hasSizeGreaterThanOrEqualTo(CUSTOMERS);
            assertThat(grid.notes()).isEqualTo(expected.notes());
        }
        // all at once, once in vain, once as they come, and once for all customers together where that is shown
        verify(engine, times(totals ? 4 : 3)).totals(any(), any());
        assertThat(closed).isEqualTo(totals ? 4 : 3);
    }

    @Test
    void rowsComeBackFromTheFileSorted() throws IOException {
        Random random = new Random(11);
        Map<List<Object>, List<Grid.Row>> added = new LinkedHashMap<>();
        Map<Grid.Row, BigDecimal> sortedBy = new HashMap<>();
        List<Path> before = sorterFiles();
        try (ExternalRowSorter sorter = new ExternalRowSorter(7, Comparator.comparing(Value::decimal))) {
            for (int i = 0; i < 100; i++) {
                List<Object> place = List.of("Y" + random.nextInt(2), "M" + random.nextInt(4));
                Value large = Value.of(new BigDecimal(new BigInteger(200, random), 3));
                Grid.Row row = new Grid.Row(
                        Grid.RowKind.values()[random.nextInt(4)],
                        List.of("é" + i, "", "\uD83C\uDF31"),
                        DateRange.ofEpochDays(-i, i),
                        List.of(DateRange.ofEpochDays(i, i), DateRange.EMPTY),
                        List.of(Value.of(random.nextLong(), 2), Value.UNKNOWN, Value.of(1.0 / (i + 3)), large),
                        i % 3 == 0 ? Map.of(1, TargetStatus.NEAR, 3, TargetStatus.MET) : Map.of(),
                        List.of());
                Value by = Value.of(random.nextInt(9));
                sorter.add(place, by, List.of(row));
                added.computeIfAbsent(place, p -> new ArrayList<>()).add(row);
                sortedBy.put(row, by.decimal());
            }
            assertThat(sorterFiles()).hasSize(before.size() + 1);
            added.forEach((place, rows) -> {
                // equal ones as they came
                rows.sort(Comparator.comparing(sortedBy::get));
                List<Grid.Row> back = new ArrayList<>();
                sorter.replay(place, back::add);
                assertThat(back).isEqualTo(rows);
            });
            assertThat(sorter.hasRows(List.of("Y1"))).isTrue();
            assertThat(sorter.hasRows(List.of("Y2"))).isFalse();
        }
        assertThat(sorterFiles()).isEqualTo(before);
    }

    private static List<Path> sorterFiles() throws IOException {
        try (Stream<Path> files = Files.list(PrivateFolder.ofProcess())) {
            return files.filter(file -> file.getFileName().toString().endsWith(".rows"))
                    .toList();
        }
    }

    /** An error in the middle closes what is open. */
    @Test
    void whatIsOpenIsClosedWhenTheSinkFails() {
        Engine engine = engine();
        try (Session session = Session.open(project(), engine)) {
            org.assertj.core.api.Assertions.assertThatThrownBy(
                            () -> session.report(report("customer").withTotals(false), new GridSink() {
                                @Override
                                public void header(Grid.Header head) {}

                                @Override
                                public void row(Grid.Row row) {
                                    throw new IllegalStateException("the disk is full");
                                }

                                @Override
                                public void notes(List<String> notes) {}
                            }))
                    .hasMessage("the disk is full");
        }
        assertThat(closed).isEqualTo(1);
    }
}
