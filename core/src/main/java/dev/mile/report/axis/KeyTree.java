package dev.mile.report.axis;

import java.io.Serializable;
import java.util.Arrays;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.IntUnaryOperator;

/**
 * The keys of some axes that follow each other, in order: below each key the keys that occur with it. Immutable.
 *
 * <p>Nodes are numbered, so that what belongs to a node can be kept in an array.
 */
public final class KeyTree implements Serializable {
    private static final long serialVersionUID = 1L;

    private final int number;
    private final Map<Object, KeyTree> children;

    private KeyTree(int number, Map<Object, KeyTree> children) {
        this.number = number;
        this.children = Collections.unmodifiableMap(children);
    }

    /** A node under construction. */
    private static final class Builder {
        private final TreeMap<Object, Builder> children;

        Builder(List<Axis> axes, int depth) {
            children = depth == axes.size()
                    ? new TreeMap<>()
                    : new TreeMap<>(axes.get(depth).totalOrder());
        }

        KeyTree build(IntUnaryOperator numbers) {
            int number = numbers.applyAsInt(1);
            Map<Object, KeyTree> built = new LinkedHashMap<>();
            children.forEach((key, child) -> built.put(key, child.build(numbers)));
            return new KeyTree(number, built);
        }
    }

    /**
     * Returns the tree of the keys.
     *
     * @param axes the axes, outermost first
     * @param keys the keys that occur together, each with an entry for each axis
     */
    static KeyTree of(List<Axis> axes, Collection<List<Object>> keys) {
        Builder root = new Builder(axes, 0);
        for (List<Object> key : keys) {
            Builder at = root;
            for (int i = 0; i < axes.size(); i++) {
                int depth = i + 1;
                at = at.children.computeIfAbsent(key.get(i), k -> new Builder(axes, depth));
            }
        }
        int[] next = {0};
        return root.build(count -> {
            next[0] += count;
            return next[0] - count;
        });
    }

    /** Returns the number of the node in its tree, from 0 for the root. */
    public int number() {
        return number;
    }

    /** Returns the nodes below by their keys, in order. */
    public Map<Object, KeyTree> children() {
        return children;
    }

    /** Returns how many nodes there are, this one included. */
    public int size() {
        return 1 + children.values().stream().mapToInt(KeyTree::size).sum();
    }

    /** Returns the keys with one more. */
    public static List<Object> append(List<Object> keys, Object key) {
        Object[] longer = keys.toArray(new Object[keys.size() + 1]);
        longer[keys.size()] = key;
        return Arrays.asList(longer);
    }
}
