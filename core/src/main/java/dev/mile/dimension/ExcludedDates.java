package dev.mile.dimension;

import java.time.LocalDate;

/**
 * Dates of facts that do not belong to the range of the date dimension: they mean no date, or lie far from all others.
 *
 * @param fact the fact
 * @param role the date role
 * @param sentinel whether it is a date that systems write for "none"
 * @param first the first such date
 * @param last the last such date
 * @param rows how many rows
 */
public record ExcludedDates(String fact, String role, boolean sentinel, LocalDate first, LocalDate last, long rows) {
    /** {@return the fact and role: {@code sales.ordered}} */
    public String source() {
        return fact + "." + role;
    }
}
