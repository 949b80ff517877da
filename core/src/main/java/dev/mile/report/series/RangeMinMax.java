package dev.mile.report.series;

import dev.mile.engine.DailyTotals;

/** The smallest or largest value of any range of indexes, in steps that grow with the logarithm of its length: a segment tree. */
final class RangeMinMax {
    private static final int NONE = -1;

    private final DailyTotals values;
    private final boolean smallest;
    private final int size;

    /** The index of the best value below each node; leaves from {@code size} on, the parent of node i is i / 2. */
    private final int[] tree;

    RangeMinMax(DailyTotals values, int size, boolean smallest) {
        this.values = values;
        this.smallest = smallest;
        this.size = size;
        this.tree = new int[Math.max(2 * size, 2)];
        for (int i = 0; i < size; i++) {
            tree[size + i] = values.isBlank(i) ? NONE : i;
        }
        for (int node = size - 1; node > 0; node--) {
            tree[node] = better(tree[2 * node], tree[2 * node + 1]);
        }
    }

    private int better(int a, int b) {
        if (a == NONE || b == NONE) {
            return a == NONE ? b : a;
        }
        int c = values.compare(a, b);
        return (smallest ? c <= 0 : c >= 0) ? a : b;
    }

    /** Returns the best value from an index up to before another; null where all are blank. */
    Number between(int from, int to) {
        int found = NONE;
        int left = from + size;
        int right = to + size;
        while (left < right) {
            if ((left & 1) == 1) {
                found = better(found, tree[left++]);
            }
            if ((right & 1) == 1) {
                found = better(found, tree[--right]);
            }
            left >>= 1;
            right >>= 1;
        }
        return found == NONE ? null : values.amount(found);
    }
}
