package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.ToDoubleFunction;
import java.util.function.ToLongFunction;
import org.jspecify.annotations.Nullable;

/**
 * Says which columns a table of objects has, and what each object has in them: {@code Table.of(sales, c -> c.date(…).number(…))}.
 *
 * @param <R> the class of the objects, a row each
 */
public final class RowColumns<R> {
    private final TableBuilder table = new TableBuilder();
    private final List<Consumer<R>> columns = new ArrayList<>();

    RowColumns() {}

    private RowColumns<R> column(Consumer<R> adding) {
        columns.add(adding);
        return this;
    }

    /**
     * Adds a column of dates.
     *
     * @param name the name
     * @param date the date of a row; null for a blank
     * @return these columns
     */
    public RowColumns<R> date(String name, Function<? super R, ? extends @Nullable LocalDate> date) {
        requireNonNull(date, "date is null");
        TableBuilder.Dates column = table.date(name);
        return column(row -> column.add(date.apply(row)));
    }

    /**
     * Adds a column with the days of times.
     *
     * @param name the name
     * @param time the time of a row; null for a blank
     * @return these columns
     */
    public RowColumns<R> dayOf(String name, Function<? super R, ? extends @Nullable LocalDateTime> time) {
        requireNonNull(time, "time is null");
        TableBuilder.Dates column = table.date(name);
        return column(row -> {
            LocalDateTime at = time.apply(row);
            column.add(at == null ? null : at.toLocalDate());
        });
    }

    /**
     * Adds a column with the days of moments.
     *
     * @param name the name
     * @param moment the moment of a row; null for a blank
     * @param zone the zone whose day it is
     * @return these columns
     */
    public RowColumns<R> dayOf(String name, Function<? super R, ? extends @Nullable Instant> moment, ZoneId zone) {
        requireNonNull(moment, "moment is null");
        requireNonNull(zone, "zone is null");
        TableBuilder.Dates column = table.date(name);
        return column(row -> {
            Instant at = moment.apply(row);
            column.add(at == null ? null : LocalDate.ofInstant(at, zone));
        });
    }

    /**
     * Adds a column of exact decimals.
     *
     * @param name the name
     * @param number the number of a row; null for a blank
     * @return these columns
     */
    public RowColumns<R> number(String name, Function<? super R, ? extends @Nullable BigDecimal> number) {
        requireNonNull(number, "number is null");
        TableBuilder.Numbers column = table.number(name);
        return column(row -> column.add(number.apply(row)));
    }

    /**
     * Adds a column of whole numbers.
     *
     * @param name the name
     * @param number the number of a row
     * @return these columns
     */
    public RowColumns<R> whole(String name, ToLongFunction<? super R> number) {
        requireNonNull(number, "number is null");
        TableBuilder.Numbers column = table.number(name, 0);
        return column(row -> column.addWhole(number.applyAsLong(row)));
    }

    /**
     * Adds a column of binary floating numbers.
     *
     * @param name the name
     * @param number the number of a row; NaN for a blank
     * @return these columns
     */
    public RowColumns<R> floating(String name, ToDoubleFunction<? super R> number) {
        requireNonNull(number, "number is null");
        TableBuilder.Doubles column = table.floating(name);
        return column(row -> column.add(number.applyAsDouble(row)));
    }

    /**
     * Adds a column of texts.
     *
     * @param name the name
     * @param text what a row has: a text, a constant of an enum, a truth value; null for a blank, what it prints as otherwise
     * @return these columns
     */
    public RowColumns<R> text(String name, Function<? super R, ? extends @Nullable Object> text) {
        requireNonNull(text, "text is null");
        TableBuilder.Texts column = table.text(name);
        return column(row -> {
            Object value = text.apply(row);
            column.add(value == null ? null : value.toString());
        });
    }

    /** Reads the rows. */
    TableBuilder read(Iterable<? extends R> rows) {
        for (R row : rows) {
            for (Consumer<R> column : columns) {
                column.accept(row);
            }
        }
        return table;
    }
}
