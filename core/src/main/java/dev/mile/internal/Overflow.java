package dev.mile.internal;

/** Returns whether arithmetic on longs ran over. */
public final class Overflow {
    private Overflow() {}

    /** Returns whether a + b is not the sum, but ran over: both addends have another sign than it. */
    public static boolean ofSum(long a, long b, long sum) {
        return ((a ^ sum) & (b ^ sum)) < 0;
    }

    /** Returns whether a - b is not the difference, but ran over. */
    public static boolean ofDifference(long a, long b, long difference) {
        return ((a ^ b) & (a ^ difference)) < 0;
    }
}
