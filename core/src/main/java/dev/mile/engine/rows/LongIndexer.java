package dev.mile.engine.rows;

import java.util.Arrays;

/** Numbers long keys from zero in the order in which they come: a hash table in two arrays. */
final class LongIndexer {
    private static final int NONE = -1;

    private int[] table = new int[1024];
    private long[] keys = new long[512];
    private int size;

    LongIndexer() {
        Arrays.fill(table, NONE);
    }

    int size() {
        return size;
    }

    /** Returns the key of a number. */
    long key(int id) {
        return keys[id];
    }

    /** Returns the number of the key, a new one if it is new. */
    int of(long key) {
        int at = place(key);
        if (table[at] != NONE) {
            return table[at];
        }
        if (size == keys.length) {
            grow();
            at = place(key);
        }
        keys[size] = key;
        table[at] = size;
        return size++;
    }

    private int place(long key) {
        // Fibonacci hashing: the upper bits of the product depend on all bits of the key
        int at = (int) ((key * 0x9E3779B97F4A7C15L) >>> 33) & (table.length - 1);
        while (table[at] != NONE && keys[table[at]] != key) {
            at = (at + 1) & (table.length - 1);
        }
        return at;
    }

    private void grow() {
        keys = Arrays.copyOf(keys, keys.length * 2);
        table = new int[keys.length * 2];
        Arrays.fill(table, NONE);
        for (int id = 0; id < size; id++) {
            table[place(keys[id])] = id;
        }
    }
}
