package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;

/** One side of a comparison. */
public sealed interface Operand {
    /** The name of the as-of date among the dates between which time is counted. */
    Operand AS_OF = new Name("as_of");

    /**
     * A name as people write it, not yet looked up: {@code shops.region}, {@code channel}, {@code weekday_name}.
     *
     * @param text the name
     */
    record Name(String text) implements Operand {
        @Override
        public String toString() {
            int dot = text.indexOf('.');
            return dot < 0 ? quoted(text) : quoted(text.substring(0, dot)) + "." + quoted(text.substring(dot + 1));
        }

        /** Names with other characters than letters, digits and _ are written in double quotes. */
        private static String quoted(String part) {
            return part.matches("[A-Za-z_][A-Za-z0-9_]*") ? part : '"' + part.replace("\"", "\"\"") + '"';
        }
    }

    /**
     * A column of the fact, or of a lookup reached over links.
     *
     * @param path the columns that are followed from the fact to the lookup; empty for a column of the fact itself
     * @param column the column
     * @param type what it holds
     */
    record Field(List<String> path, String column, ValueType type) implements Operand {
        public Field {
            path = List.copyOf(path);
        }

        @Override
        public String toString() {
            return path.isEmpty() ? column : String.join(".", path) + "." + column;
        }
    }

    /**
     * The date of a row in a role.
     *
     * @param role the role
     */
    record RowDate(String role) implements Operand {
        @Override
        public String toString() {
            return role;
        }
    }

    /**
     * A day that is the same for all rows, such as the as-of date.
     *
     * @param date the day
     */
    record Date(LocalDate date) implements Operand {
        public Date {
            requireNonNull(date, "date is null");
        }

        @Override
        public String toString() {
            return "'" + date + "'";
        }
    }

    /**
     * An attribute of the day on which the row is placed.
     *
     * @param column the column of the date dimension
     */
    record DayAttribute(String column) implements Operand {
        @Override
        public String toString() {
            return column;
        }
    }

    /**
     * A text in quotes.
     *
     * @param value the text
     */
    record Text(String value) implements Operand {
        @Override
        public String toString() {
            return "'" + value.replace("'", "''") + "'";
        }
    }

    /**
     * A number.
     *
     * @param value the number
     */
    record Number(BigDecimal value) implements Operand {
        public Number {
            // 1E+3 is written 1000, and has as many decimals
            value = value.scale() < 0 ? value.setScale(0) : value;
        }

        @Override
        public String toString() {
            return value.toPlainString();
        }
    }
}
