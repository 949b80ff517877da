package dev.mile.fact;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.DataException;
import dev.mile.ModelException;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.BigRange;
import net.jqwik.api.constraints.Scale;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

/** Tables made of objects, one after the other. */
class TableBuilderTest {
    private record Sale(
            LocalDate ordered,
            LocalDateTime packed,
            Instant sent,
            BigDecimal net,
            long units,
            double weight,
            String shop,
            DayOfWeek day,
            Boolean paid) {}

    private static final Sale FULL = new Sale(
            LocalDate.parse("2026-03-02"),
            LocalDateTime.parse("2026-03-02T23:59"),
            Instant.parse("2026-03-02T23:30:00Z"),
            new BigDecimal("12.50"),
            3,
            0.25,
            "S1",
            DayOfWeek.MONDAY,
            true);
    private static final Sale BLANK = new Sale(null, null, null, null, -1, Double.NaN, "", null, null);

    private static Table table(Stream<Sale> sales) {
        return Table.of(sales, c -> c.date("ordered", Sale::ordered)
                .dayOf("packed", Sale::packed)
                .dayOf("sent", Sale::sent, ZoneId.of("Europe/Vienna"))
                .number("net", Sale::net)
                .whole("units", Sale::units)
                .floating("weight", Sale::weight)
                .text("shop", Sale::shop)
                .text("day", Sale::day)
                .text("paid", Sale::paid));
    }

    private static List<String> row(Table table, int row) {
        return table.types().keySet().stream()
                .map(column -> table.textAt(column, row))
                .toList();
    }

    @Test
    void eachObjectIsARow() {
        Table table = table(Stream.of(FULL, BLANK));
        assertThat(table.types().values())
                .containsExactly(
                        ValueType.DATE,
                        ValueType.DATE,
                        ValueType.DATE,
                        ValueType.NUMBER,
                        ValueType.NUMBER,
                        ValueType.FLOATING,
                        ValueType.TEXT,
                        ValueType.TEXT,
                        ValueType.TEXT);
        // half past eleven in the evening of the meridian is the next day further east
        assertThat(row(table, 0))
                .containsExactly(
                        "2026-03-02", "2026-03-02", "2026-03-03", "12.50", "3", "0.25", "S1", "MONDAY", "true");
        assertThat(row(table, 1)).containsExactly(null, null, null, null, "-1", null, null, null, null);
        assertThat(table(Stream.empty()).rows()).isZero();
    }

    /** Blanks and scales come in any order, and arrays grow on the way. */
    @Property(tries = 60)
    void numbersComeBackAsTheyWereGiven(
            @ForAll @Size(max = 40) List<@BigRange(min = "-99999999", max = "99999999") @Scale(6) BigDecimal> numbers,
            @ForAll @Size(max = 5) List<Integer> blanks) {
        List<BigDecimal> all = new ArrayList<>();
        for (int i = 0; i < 80; i++) {
            all.addAll(numbers);
            blanks.forEach(blank -> all.add(null));
        }
        Table table = Table.of(all, c -> c.number("n", n -> n).text("t", n -> n));
        assertThat(table.rows()).isEqualTo(all.size());
        for (int row = 0; row < all.size(); row++) {
            if (all.get(row) == null) {
                assertThat(row(table, row)).isEqualTo(Arrays.asList(null, null));
            } else {
                assertThat(new BigDecimal(table.textAt("n", row))).isEqualByComparingTo(all.get(row));
                assertThat(table.textAt("t", row)).isEqualTo(all.get(row).toString());
            }
        }
    }

    @Test
    void whatDoesNotFitIsSaid() {
        TableBuilder rows = new TableBuilder();
        TableBuilder.Numbers net = rows.number("net", 2);
        net.add(new BigDecimal("1.100"));
        assertThatThrownBy(() -> net.add(new BigDecimal("1.005")))
                .isInstanceOf(DataException.class)
                .hasMessage(
                        "the column 'net' holds 1.005 in row 2; it has 2 digits after the decimal point: round the value, or give it more");
        TableBuilder.Numbers any = rows.number("any");
        any.addWhole(Long.MAX_VALUE);
        assertThatThrownBy(() -> any.add(new BigDecimal("0.5")))
                .hasMessage(
                        "the column 'any' holds 9223372036854775807 in row 1, which with 1 digit after the decimal point has"
                                + " more than 18 in all; round the column");
        TableBuilder.Texts shop = rows.text("shop");
        assertThatThrownBy(() -> rows.text("shop"))
                .isInstanceOf(ModelException.class)
                .hasMessage("the table has two columns 'shop'; names must differ");
        assertThatThrownBy(() -> Table.of(rows))
                .hasMessage(
                        "the column 'net' has 1 value, but 'shop' has 0; add one to each column for each row, or a blank");
        shop.add("S1");
        assertThat(Table.of(rows).textAt("net", 0)).isEqualTo("1.10");
        assertThatThrownBy(() -> Table.of(rows))
                .hasMessage("a table was made of these rows before; collect others with another builder");
        assertThatThrownBy(() -> new TableBuilder().number("n", 19))
                .hasMessage("a column cannot have 19 digits after the decimal point; expected 0 to 18");
    }
}
