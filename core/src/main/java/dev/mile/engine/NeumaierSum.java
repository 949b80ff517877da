package dev.mile.engine;

/**
 * What keeps sums of doubles from depending on the order of their addends, nearly always: the digits that an addition loses are
 * added up by themselves (the method of Kahan, as improved by Babuška and Neumaier).
 */
public final class NeumaierSum {
    private NeumaierSum() {}

    /**
     * {@return what is missing from the rounded sum of the two}
     *
     * @param sum the sum so far, and what rounding lost of it
     * @param addend what is added
     */
    public static double roundingError(double sum, double addend) {
        double next = sum + addend;
        return Math.abs(sum) >= Math.abs(addend) ? (sum - next) + addend : (addend - next) + sum;
    }
}
