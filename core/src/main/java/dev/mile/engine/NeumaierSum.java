package dev.mile.engine;

/**
 * What keeps sums of doubles from depending on the order of their addends, nearly always: the digits that an addition loses are
 * added up by themselves (the method of Kahan, as improved by Babuška and Neumaier).
 */
public final class NeumaierSum {
    private NeumaierSum() {}

    /** Returns what is missing from the rounded sum of the two. */
    public static double roundingError(double sum, double addend) {
        double next = sum + addend;
        return Math.abs(sum) >= Math.abs(addend) ? (sum - next) + addend : (addend - next) + sum;
    }
}
