package dev.mile.demo;

import java.math.BigDecimal;

/** Amounts in cents, as text. */
final class Cents {
    private Cents() {}

    static String text(long cents) {
        return BigDecimal.valueOf(cents, 2).toPlainString();
    }
}
