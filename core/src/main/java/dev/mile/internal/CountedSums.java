package dev.mile.internal;

import java.util.Arrays;

/**
 * Sums and counts by slot, both in one long: adding a number touches eight bytes, so twice as many slots stay in the cache of the
 * processor. Before either could run over into the other, the largest are looked for, and if they are large indeed, all are moved to
 * arrays of their own, where they have 64 bits each.
 *
 * <p>Not for use by several threads.
 */
public final class CountedSums {
    private static final int SUM_BITS = 40;
    private static final long ONE = 1L << SUM_BITS;
    private static final long LARGEST_SUM = (1L << SUM_BITS - 1) - 1;
    private static final long LARGEST_COUNT = (1L << Long.SIZE - SUM_BITS) - 1;

    /** By slot, the count times {@link #ONE}, plus the sum. */
    private long[] both;

    /** What was moved; null until anything is. */
    private long[] sums;

    private long[] counts;

    private int slots;
    /** What no count and no sum in {@link #both} lies beyond. */
    private long mostCount;

    private long mostSum;
    /** How often anything was added since the largest were looked for. */
    private long added;

    private boolean isWide;

    /**
     * Returns sums of no number yet.
     *
     * @param slots how many
     */
    public CountedSums(int slots) {
        this.both = new long[slots];
        this.slots = slots;
    }

    /** Returns how many slots there are. */
    public int slots() {
        return slots;
    }

    /** Makes room for at least as many slots. */
    public void ensureSlots(int least) {
        if (least > both.length) {
            int length = (int) Math.min(Integer.MAX_VALUE - 8L, least + (long) (least >> 1));
            both = Arrays.copyOf(both, length);
            sums = sums == null ? null : Arrays.copyOf(sums, length);
            counts = counts == null ? null : Arrays.copyOf(counts, length);
        }
        slots = Math.max(slots, least);
    }

    /**
     * Adds numbers, each to its slot.
     *
     * @param slotOf the slots
     * @param numbers the numbers
     * @param n how many of them
     * @param largest what none of them lies farther from zero than
     * @throws ArithmeticException if a sum does not fit into a long
     */
    public void add(int[] slotOf, long[] numbers, int n, long largest) {
        if (!reserve(largest, n)) {
            for (int i = 0; i < n; i++) {
                addWide(slotOf[i], numbers[i], 1);
            }
            return;
        }
        // not a field: Java's first compiler would load it for each number
        long[] into = both;
        for (int i = 0; i < n; i++) {
            into[slotOf[i]] += ONE + numbers[i];
        }
    }

    /**
     * Adds numbers that are ints, as {@link #add(int[], long[], int, long)} does.
     *
     * @throws ArithmeticException if a sum does not fit into a long
     */
    public void add(int[] slotOf, int[] numbers, int n, long largest) {
        if (!reserve(largest, n)) {
            for (int i = 0; i < n; i++) {
                addWide(slotOf[i], numbers[i], 1);
            }
            return;
        }
        long[] into = both;
        for (int i = 0; i < n; i++) {
            into[slotOf[i]] += ONE + numbers[i];
        }
    }

    /**
     * Adds numbers, as {@link #add(int[], long[], int, long)} does.
     *
     * @param slotOf the slots, as longs
     * @param same what is added to each of them
     * @throws ArithmeticException if a sum does not fit into a long
     */
    public void add(long[] slotOf, int same, long[] numbers, int n, long largest) {
        if (!reserve(largest, n)) {
            for (int i = 0; i < n; i++) {
                addWide((int) slotOf[i] + same, numbers[i], 1);
            }
            return;
        }
        long[] into = both;
        for (int i = 0; i < n; i++) {
            into[(int) slotOf[i] + same] += ONE + numbers[i];
        }
    }

    /**
     * Counts, each in its slot, what has no number.
     *
     * @param slotOf the slots
     * @param n how many of them
     */
    public void count(int[] slotOf, int n) {
        if (!reserve(1, n)) {
            for (int i = 0; i < n; i++) {
                addWide(slotOf[i], 0, 1);
            }
            return;
        }
        long[] into = both;
        for (int i = 0; i < n; i++) {
            into[slotOf[i]] += ONE;
        }
    }

    /** Returns whether that many numbers can be added where sum and count are one; moves what is there if need be. */
    private boolean reserve(long largest, int n) {
        if (isWide || n > LARGEST_COUNT || largest > LARGEST_SUM / Math.max(n, 1)) {
            return false;
        }
        if (mostCount + n > LARGEST_COUNT || mostSum + largest * n > LARGEST_SUM) {
            // numbers so large that looking for the largest sums would take longer than adding
            isWide = added < 2L * slots;
            findLargest();
            if (isWide || 2 * mostCount > LARGEST_COUNT || 2 * mostSum > LARGEST_SUM) {
                move();
            }
        }
        added += n;
        mostCount += n;
        mostSum += largest * n;
        return !isWide;
    }

    private void findLargest() {
        long count = 0;
        long sum = 0;
        for (int slot = 0; slot < slots; slot++) {
            long here = both[slot];
            count = Math.max(count, countOf(here));
            sum = Math.max(sum, Math.abs(sumOf(here)));
        }
        mostCount = count;
        mostSum = sum;
        added = 0;
    }

    private void move() {
        for (int slot = 0; slot < slots; slot++) {
            long here = both[slot];
            if (here != 0) {
                both[slot] = 0;
                addWide(slot, sumOf(here), countOf(here));
            }
        }
        mostCount = 0;
        mostSum = 0;
    }

    private void addWide(int slot, long sum, long count) {
        if (sums == null) {
            sums = new long[both.length];
            counts = new long[both.length];
        }
        sums[slot] = Math.addExact(sums[slot], sum);
        counts[slot] += count;
    }

    private static long sumOf(long both) {
        int above = Long.SIZE - SUM_BITS;
        return both << above >> above;
    }

    private static long countOf(long both) {
        return both - sumOf(both) >>> SUM_BITS;
    }

    /**
     * Adds what others have found of the same slots.
     *
     * @throws ArithmeticException if a sum does not fit into a long
     */
    public void add(CountedSums others) {
        ensureSlots(others.slots);
        if (!fitsWith(others)) {
            findLargest();
            others.findLargest();
        }
        if (sums == null && others.sums == null && fitsWith(others)) {
            for (int slot = 0; slot < others.slots; slot++) {
                both[slot] += others.both[slot];
            }
            mostCount += others.mostCount;
            mostSum += others.mostSum;
            return;
        }
        // what does not fit into a long is found here, not where it is read
        move();
        others.move();
        for (int slot = 0; slot < others.slots && others.sums != null; slot++) {
            addWide(slot, others.sums[slot], others.counts[slot]);
        }
    }

    private boolean fitsWith(CountedSums others) {
        return mostCount + others.mostCount <= LARGEST_COUNT && mostSum + others.mostSum <= LARGEST_SUM;
    }

    /**
     * Returns the sums of some slots; 0 where nothing was added.
     *
     * @throws ArithmeticException if one does not fit into a long
     */
    public long[] sums(int[] of) {
        long[] found = new long[of.length];
        for (int i = 0; i < of.length; i++) {
            found[i] = sum(of[i]);
        }
        return found;
    }

    /** Returns how many numbers were added to each of some slots, and counted there. */
    public long[] counts(int[] of) {
        long[] found = new long[of.length];
        for (int i = 0; i < of.length; i++) {
            found[i] = count(of[i]);
        }
        return found;
    }

    /**
     * Returns the sum of a slot; 0 where nothing was added.
     *
     * @throws ArithmeticException if it does not fit into a long
     */
    public long sum(int slot) {
        return slot >= slots ? 0 : Math.addExact(sums == null ? 0 : sums[slot], sumOf(both[slot]));
    }

    /** Returns how many numbers were added to a slot, and counted there. */
    public long count(int slot) {
        return slot >= slots ? 0 : (counts == null ? 0 : counts[slot]) + countOf(both[slot]);
    }
}
