package dev.mile.dimension;

/** What a column of the date dimension holds. */
public enum ColumnType {
    /** A {@link java.time.LocalDate}. */
    DATE,
    /** An {@link Integer}. */
    INTEGER,
    /** A {@link java.math.BigDecimal}, for counts of working days with part days. */
    NUMBER,
    /** A {@link String}. */
    TEXT,
    /** A {@link Boolean}. */
    BOOLEAN
}
