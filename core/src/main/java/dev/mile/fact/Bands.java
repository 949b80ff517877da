package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import java.io.Serializable;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;

/**
 * Bands of numbers: below the first edge, from each edge to below the next, and from the last edge on. A band has a label for people
 * ({@code under 1}, {@code 1 to under 3}, {@code 3 and over}) and a key of two digits, whose order is that of the edges.
 *
 * @param edges the edges, rising
 */
public record Bands(List<BigDecimal> edges) implements Serializable {
    /** The most edges, so that two digits hold a key. */
    public static final int MAX_EDGES = 99;

    public Bands {
        edges = List.copyOf(requireNonNull(edges, "edges is null"));
        if (edges.isEmpty() || edges.size() > MAX_EDGES) {
            throw ModelException.of(
                    "bands have %d edges; expected 1 to %d, such as edges: [1, 3, 5]", edges.size(), MAX_EDGES);
        }
        for (int i = 1; i < edges.size(); i++) {
            if (edges.get(i).compareTo(edges.get(i - 1)) <= 0) {
                throw ModelException.of(
                        "the edge %s of the bands comes after %s; write edges in rising order",
                        edges.get(i).toPlainString(), edges.get(i - 1).toPlainString());
            }
        }
    }

    /** {@return the labels of the bands in order} */
    public List<String> labels() {
        List<String> labels = new ArrayList<>();
        labels.add("under " + text(0));
        for (int i = 1; i < edges.size(); i++) {
            labels.add(text(i - 1) + " to under " + text(i));
        }
        labels.add(text(edges.size() - 1) + " and over");
        return List.copyOf(labels);
    }

    private String text(int edge) {
        return edges.get(edge).toPlainString();
    }

    /**
     * {@return the number of the band that holds the value, from 0 on}
     *
     * @param value the value
     */
    public int number(BigDecimal value) {
        requireNonNull(value, "value is null");
        int number = 0;
        while (number < edges.size() && value.compareTo(edges.get(number)) >= 0) {
            number++;
        }
        return number;
    }

    /**
     * {@return the key of a band, by its number}
     *
     * @param number the number of the band, from 0
     */
    public static String key(int number) {
        return String.format(Locale.ROOT, "%02d", number);
    }

    /** {@return the keys of the bands in order} */
    public List<String> keys() {
        return IntStream.rangeClosed(0, edges.size()).mapToObj(Bands::key).toList();
    }

    /**
     * {@return the label of a band, by its key}
     *
     * @param key the key
     */
    public String label(String key) {
        return labels().get(Integer.parseInt(key));
    }
}
