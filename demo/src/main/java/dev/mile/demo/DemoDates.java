package dev.mile.demo;

import java.time.LocalDate;

/** The days over which the shops sell. */
final class DemoDates {
    /** The first day with orders. */
    static final LocalDate FIRST = LocalDate.of(2022, 2, 1);

    /** The last day with actuals. */
    static final LocalDate AS_OF = LocalDate.of(2026, 8, 14);

    private DemoDates() {}
}
