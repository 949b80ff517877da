package dev.mile.engine.rows;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;
import static org.mockito.Mockito.withSettings;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.Comparisons;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DayContext;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SplittableRandom;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Totals of many rows, however they are numbered and by however many threads, are those of adding row by row. */
class TotalsComputationTest {
    private static final DateRange PLACED = DateRange.ofEpochDays(20_000, 20_400);

    private static final Fact FACT = Fact.of("t", "on", "day");

    private static Operand.Field field(String name, ValueType type) {
        return new Operand.Field(List.of(), name, type);
    }

    private static TotalColumn column(TotalColumn.Kind kind, String name) {
        return new TotalColumn(
                kind, Optional.of(new RowExpression.Value(field(name, ValueType.NUMBER))), Optional.empty());
    }

    private static DayContext knowledge() {
        DayContext days = mock(DayContext.class, withSettings().stubOnly());
        when(days.dimensionRange()).thenReturn(PLACED);
        return days;
    }

    @Test
    void accountsAreExactBeyond64Bits() {
        long[] amounts = {Long.MAX_VALUE, Long.MAX_VALUE, 5, Long.MIN_VALUE, Long.MIN_VALUE, Long.MIN_VALUE, -7};
        Table table = Table.ofRows(amounts.length)
                .days("day", new int[] {20_001, 20_001, 20_002, 20_003, 20_003, 20_003, Table.NO_DATE})
                .number("amount", amounts, 2);
        DayContext days = knowledge();
        when(days.lastDayThatCounts(FACT)).thenReturn(20_002);
        RoleAccounts accounts = engine(FACT, table)
                .accounts("t", List.of(field("amount", ValueType.NUMBER)), days)
                .roles()
                .get(0);
        BigDecimal most = BigDecimal.valueOf(Long.MAX_VALUE, 2);
        BigDecimal least = BigDecimal.valueOf(Long.MIN_VALUE, 2);
        assertThat(accounts.outcomes().get(RoleAccounts.RowOutcome.PLACED).amounts())
                .containsExactly(most.add(most).add(new BigDecimal("0.05")));
        assertThat(accounts.outcomes().get(RoleAccounts.RowOutcome.AFTER_AS_OF).amounts())
                .containsExactly(least.multiply(new BigDecimal(3)));
        assertThat(accounts.outcomes().get(RoleAccounts.RowOutcome.NO_DATE).amounts())
                .containsExactly(new BigDecimal("-0.07"));
    }

    /** Few groups are numbered by arithmetic and shared out to threads; many are numbered as they come. */
    @ParameterizedTest
    @CsvSource({"300000, 7, 5", "60000, 400, 900", "5000, 3000, 4000", "3, 2, 2", "0, 1, 1"})
    void totalsAreThoseOfRows(int size, int shops, int items) {
        SplittableRandom random = new SplittableRandom(size + shops);
        int[] days = new int[size];
        int[] shop = new int[size];
        int[] item = new int[size];
        long[] amounts = new long[size];
        // sums of some days run over 64 bits
        long large = shops == 7 ? Long.MAX_VALUE / 3 : 100_000;
        Map<List<String>, TreeMap<Integer, List<BigDecimal>>> expected = new TreeMap<>((a, b) -> {
            int c = Comparisons.BY_CODE_POINT.compare(a.get(0), b.get(0));
            return c != 0 ? c : Comparisons.BY_CODE_POINT.compare(a.get(1), b.get(1));
        });
        long outside = 0;
        long none = 0;
        for (int i = 0; i < size; i++) {
            days[i] = 19_990 + random.nextInt(420);
            days[i] = random.nextInt(50) == 0 ? Table.NO_DATE : days[i];
            shop[i] = random.nextInt(shops + 1) - 1;
            item[i] = random.nextInt(items + 1) - 1;
            amounts[i] = random.nextLong(large);
            none += days[i] == Table.NO_DATE ? 1 : 0;
            outside += days[i] != Table.NO_DATE && !PLACED.contains(days[i]) ? 1 : 0;
            if (PLACED.contains(days[i])) {
                List<String> group =
                        Arrays.asList(shop[i] < 0 ? null : "S" + shop[i], item[i] < 0 ? null : "I" + item[i]);
                expected.computeIfAbsent(group, g -> new TreeMap<>())
                        .computeIfAbsent(days[i], d -> new ArrayList<>())
                        .add(BigDecimal.valueOf(amounts[i], 2));
            }
        }
        Table table = Table.ofRows(size)
                .days("day", days)
                .coded("shop", shop, names("S", shops))
                .coded("item", item, names("I", items))
                .number("amount", amounts, 2);
        TotalsRequest request = TotalsRequest.daily(
                "t",
                "on",
                PLACED,
                List.of(field("shop", ValueType.TEXT), field("item", ValueType.TEXT)),
                List.of(
                        new TotalColumn(TotalColumn.Kind.ROWS, Optional.empty(), Optional.empty()),
                        column(TotalColumn.Kind.COUNT, "amount"),
                        column(TotalColumn.Kind.SUM, "amount"),
                        column(TotalColumn.Kind.MIN, "amount"),
                        column(TotalColumn.Kind.MAX, "amount")));
        try (TotalsCursor cursor = engine(FACT, table).totals(request, knowledge())) {
            expected.forEach((group, byDay) -> {
                GroupTotals totals = cursor.next();
                assertThat(totals.members()).containsExactly(group.toArray(String[]::new));
                assertThat(totals.days())
                        .containsExactly(
                                byDay.keySet().stream().mapToInt(d -> d).toArray());
                int place = 0;
                for (List<BigDecimal> values : byDay.values()) {
                    BigDecimal count = BigDecimal.valueOf(values.size());
                    assertThat(amount(totals, 0, place)).isEqualByComparingTo(count);
                    assertThat(amount(totals, 1, place)).isEqualByComparingTo(count);
                    assertThat(amount(totals, 2, place))
                            .isEqualByComparingTo(
                                    values.stream().reduce(BigDecimal::add).orElseThrow());
                    assertThat(amount(totals, 3, place))
                            .isEqualByComparingTo(
                                    values.stream().reduce(BigDecimal::min).orElseThrow());
                    assertThat(amount(totals, 4, place))
                            .isEqualByComparingTo(
                                    values.stream().reduce(BigDecimal::max).orElseThrow());
                    place++;
                }
            });
            assertThat(cursor.next()).isNull();
            assertThat(cursor.rowOutcomes().getOrDefault(RoleAccounts.RowOutcome.NO_DATE, 0L))
                    .isEqualTo(none);
            assertThat(cursor.rowOutcomes().getOrDefault(RoleAccounts.RowOutcome.OUTSIDE, 0L))
                    .isEqualTo(outside);
            assertThat(cursor.rowOutcomes().values().stream().mapToLong(n -> n).sum())
                    .isEqualTo(size);
        }
    }

    private static BigDecimal amount(GroupTotals totals, int column, int place) {
        return (BigDecimal) totals.values()[column].amount(place);
    }

    private static String[] names(String letter, int count) {
        String[] names = new String[count];
        Arrays.setAll(names, i -> letter + i);
        return names;
    }

    /** Threads that meet at a lookup which none has joined before find the same rows. */
    private static MemoryEngine engine(Fact fact, Table table) {
        return MemoryEngine.over(DataSchema.of(Map.of(fact.name(), fact), Map.of()))
                .rows(fact.name(), table);
    }

    @Test
    void conditionsOverLookupsHoldForAllThreads() {
        int size = 900_000;
        int[] days = new int[size];
        int[] shop = new int[size];
        long[] amounts = new long[size];
        Arrays.fill(days, 20_100);
        Arrays.setAll(shop, i -> i % 3);
        Arrays.fill(amounts, 1);
        Table shops = Table.ofRows(2).text("shop", List.of("S0", "S1")).text("region", List.of("North", "South"));
        Condition north = new Condition.Compare(
                new Operand.Field(List.of("shop"), "region", ValueType.TEXT),
                Condition.Comparison.EQUAL,
                new Operand.Text("North"));
        TotalsRequest request = TotalsRequest.daily(
                "t",
                "on",
                PLACED,
                List.of(),
                List.of(
                        new TotalColumn(TotalColumn.Kind.ROWS, Optional.empty(), Optional.of(north)),
                        new TotalColumn(
                                TotalColumn.Kind.SUM,
                                Optional.of(new RowExpression.Value(field("amount", ValueType.NUMBER))),
                                Optional.of(new Condition.Not(north)))));
        for (int run = 0; run < 10; run++) {
            MemoryEngine engine = MemoryEngine.over(DataSchema.of(
                            Map.of("t", FACT.withLink("shop", "shops")),
                            Map.of("shops", new Lookup("shops", "shop", Map.of()))))
                    .rows(
                            "t",
                            Table.ofRows(size)
                                    .days("day", days)
                                    .coded("shop", shop, names("S", 3))
                                    .number("amount", amounts, 0))
                    .rows("shops", shops);
            GroupTotals all = engine.totals(request, knowledge()).all().get(0);
            assertThat(amount(all, 0, 0)).isEqualByComparingTo("300000");
            // a key that the lookup lacks has no region, so neither condition holds for it
            assertThat(amount(all, 1, 0)).isEqualByComparingTo("300000");
        }
    }

    @Test
    void aDictionaryNamesEachTextOnce() {
        assertThatThrownBy(() -> Table.ofRows(2).coded("shop", new int[] {0, 1}, new String[] {"S1", "S1"}))
                .isInstanceOf(MileException.class)
                .hasMessage(
                        "the dictionary of the column 'shop' holds 'S1' twice; each text may occur once, and a blank is the code"
                                + " -1");
        assertThatThrownBy(() -> Table.ofRows(1).coded("shop", new int[] {0}, new String[] {""}))
                .hasMessageContaining("holds an empty text");
    }

    @Test
    void longKeysAreNumberedAsTheyCome() {
        LongIndexer ids = new LongIndexer();
        SplittableRandom random = new SplittableRandom(5);
        TreeMap<Long, Integer> known = new TreeMap<>();
        for (int i = 0; i < 20_000; i++) {
            // small keys, keys that differ in high bits alone, and any
            long key = i % 3 == 0 ? random.nextInt(500) : i % 3 == 1 ? random.nextLong(400) << 48 : random.nextLong();
            Integer before = known.putIfAbsent(key, known.size());
            assertThat(ids.of(key)).isEqualTo(before == null ? known.size() - 1 : before);
        }
        assertThat(ids.size()).isEqualTo(known.size());
        known.forEach((key, id) -> assertThat(ids.key(id)).isEqualTo(key));
    }

    /** Sums of floating numbers are compensated, and taken in the order of the rows. */
    @Test
    void floatingTotalsLoseNoDigits() {
        int day = PLACED.firstEpochDay();
        double[] values = {1e16, 1, -1e16, 0.1, Double.NaN, -7};
        Table table = Table.ofRows(6)
                .days("day", new int[] {day, day, day, day, day, day + 1})
                .floating("amount", values)
                .text("shop", Arrays.asList("S1", "S1", "S1", "S1", "S1", "S1"));
        RowExpression amount = new RowExpression.Value(field("amount", ValueType.FLOATING));
        List<TotalColumn> columns = new ArrayList<>();
        for (TotalColumn.Kind kind :
                List.of(TotalColumn.Kind.SUM, TotalColumn.Kind.MIN, TotalColumn.Kind.MAX, TotalColumn.Kind.COUNT)) {
            columns.add(new TotalColumn(kind, Optional.of(amount), Optional.empty()));
        }
        TotalsRequest request = TotalsRequest.daily("t", "on", PLACED, List.of(field("shop", ValueType.TEXT)), columns);
        try (TotalsCursor cursor = engine(FACT, table).totals(request, knowledge())) {
            GroupTotals totals = cursor.next();
            assertThat(totals.values()[0].amount(0)).isEqualTo(1.1);
            assertThat(totals.values()[1].amount(0)).isEqualTo(-1e16);
            assertThat(totals.values()[2].amount(0)).isEqualTo(1e16);
            assertThat(totals.values()[3].amount(0).longValue()).isEqualTo(4);
            assertThat(totals.values()[0].amount(1)).isEqualTo(-7.0);
            assertThat(totals.values()[0].compare(0, 1)).isPositive();
        }
    }

    /** Dates may be days or texts; the first and the last that are placed, and kept, are those that a fact covers. */
    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void factsKnowTheirDates(boolean asTexts) {
        int first = PLACED.firstEpochDay();
        int last = PLACED.lastEpochDay();
        int[] days = {first + 5, Table.NO_DATE, first + 3, last, last + 1, first + 3, first + 9, first - 1};
        Table table = Table.ofRows(days.length).text("kind", List.of("a", "a", "a", "b", "a", "a", "a", "a"));
        List<String> texts = new ArrayList<>();
        for (int day : days) {
            texts.add(day == Table.NO_DATE ? null : LocalDate.ofEpochDay(day).toString());
        }
        if (asTexts) {
            texts.set(6, "soon");
            table.text("day", texts);
        } else {
            days[6] = Table.UNREADABLE;
            table.days("day", days);
        }
        DayContext known = knowledge();
        MemoryEngine all = engine(FACT, table);
        assertThat(all.coverage("t", "on", known)).isEqualTo(DateRange.ofEpochDays(first + 3, last));
        assertThat(all.dates("t"))
                .extracting(date -> date.day() + " " + date.rows())
                .containsExactly(first - 1 + " 1", first + 3 + " 2", first + 5 + " 1", last + " 1", last + 1 + " 1");
        assertThat(all.example("t", "on", first + 3)).contains("row 3");
        assertThat(all.example("t", "on", first + 4)).isEmpty();
        MemoryEngine some = engine(
                FACT.withFilter(new Condition.Compare(
                        new Operand.Name("kind"), Condition.Comparison.EQUAL, new Operand.Text("a"))),
                table);
        assertThat(some.coverage("t", "on", known)).isEqualTo(DateRange.ofEpochDays(first + 3, first + 5));
        assertThat(some.dates("t")).extracting(date -> (int) date.day()).doesNotContain(last);
    }
}
