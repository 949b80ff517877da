package dev.mile.report;

import static java.util.Objects.requireNonNull;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Collections;
import java.util.List;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * What a fact has on each day: enough to say later on which days rows came, went or changed.
 *
 * @param fact the fact
 * @param role the date role that places its rows
 * @param amounts what is added up of its rows, in the language
 * @param days the days that have rows
 */
public record FactDays(String fact, String role, List<String> amounts, SortedMap<LocalDate, Total> days) {
    /**
     * The rows of a day.
     *
     * @param rows how many there are
     * @param sums the sum of each amount; 0 where no row has it
     */
    public record Total(long rows, List<BigDecimal> sums) {
        public Total {
            sums = List.copyOf(sums);
        }
    }

    public FactDays {
        requireNonNull(fact, "fact is null");
        requireNonNull(role, "role is null");
        amounts = List.copyOf(amounts);
        days = Collections.unmodifiableSortedMap(new TreeMap<>(days));
    }
}
