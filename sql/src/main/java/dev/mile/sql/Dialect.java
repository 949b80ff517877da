package dev.mile.sql;

import dev.mile.fact.Operand;
import dev.mile.fact.ValueType;

/** What databases say differently. */
enum Dialect {
    /** The embedded database; it compares texts by code point. */
    DUCKDB("DOUBLE") {
        @Override
        String byCodePoint(String text) {
            return text;
        }

        @Override
        String like(String value, String pattern) {
            return value + " LIKE " + pattern;
        }

        @Override
        String distinct(String value) {
            return "list(DISTINCT CAST(" + value + " AS VARCHAR))";
        }

        @Override
        String floatingSum(String value) {
            // compensated, as the core adds floating numbers
            return "fsum(" + value + ")";
        }

        @Override
        String dayOf(Operand.Field field, String value) {
            return "CAST(try_cast(" + value + " AS DATE) - DATE '1970-01-01' AS INTEGER)";
        }
    },

    /** PostgreSQL; texts are compared by code point only where they are told to. */
    POSTGRES("DOUBLE PRECISION") {
        @Override
        String byCodePoint(String text) {
            return "(" + text + " COLLATE \"C\")";
        }

        @Override
        String like(String value, String pattern) {
            // no sign of the pattern but % and _ means anything
            return value + " LIKE " + pattern + " ESCAPE ''";
        }

        @Override
        String distinct(String value) {
            return "array_agg(DISTINCT CAST(" + value + " AS TEXT))";
        }

        @Override
        String floatingSum(String value) {
            // sum() is not compensated there, so the values themselves are asked for
            return "array_agg(" + value + ")";
        }

        @Override
        String dayOf(Operand.Field field, String value) {
            return field.type() == ValueType.DATE
                    ? "(" + value + " - DATE '1970-01-01')"
                    : "nullif(" + WarehouseTables.dayOfText(value) + ", " + SourceLoader.UNREADABLE + ")";
        }
    };

    private final String floating;

    Dialect(String floating) {
        this.floating = floating;
    }

    /** Returns the type of doubles. */
    String floating() {
        return floating;
    }

    /** Returns the text so that it is compared and sorted by code point. */
    abstract String byCodePoint(String text);

    /** Returns the comparison with a pattern, in which only % and _ have a meaning. */
    abstract String like(String value, String pattern);

    /** Returns the aggregate of the different values as texts, an array. */
    abstract String distinct(String value);

    /** Returns the aggregate of floating numbers: their compensated sum, or an array of all. */
    abstract String floatingSum(String value);

    /** Returns the epoch day of a column of dates or texts; null where it holds none. */
    abstract String dayOf(Operand.Field field, String value);
}
