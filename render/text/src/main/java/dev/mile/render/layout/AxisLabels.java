package dev.mile.render.layout;

import dev.mile.internal.EpochDays;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * The labels along an axis of periods in two lines: what differs from one to the next, and below it what several have in common,
 * once: the months of 2026, then 2026.
 *
 * @param ticks a label for each category
 * @param groups what the category has in common with its neighbours; empty texts where labels have nothing in common
 */
public record AxisLabels(List<String> ticks, List<String> groups) {
    /** Returns the labels of some categories, in order. */
    public static AxisLabels of(List<String> categories) {
        List<List<String>> words = categories.stream().map(AxisLabels::words).toList();
        int length = words.isEmpty() ? 0 : words.get(0).size();
        boolean alike = length > 1 && words.size() > 1 && words.stream().allMatch(label -> label.size() == length);
        for (int at : alike ? new int[] {0, length - 1} : new int[0]) {
            if (isShared(words, at)) {
                return new AxisLabels(
                        words.stream().map(label -> without(label, at)).toList(),
                        words.stream().map(label -> label.get(at)).toList());
            }
        }
        return new AxisLabels(categories, categories.stream().map(label -> "").toList());
    }

    /** Returns the words of a label; a date of ISO 8601 is its year and the rest. */
    private static List<String> words(String label) {
        return EpochDays.parse(label).isPresent()
                ? List.of(label.substring(0, label.indexOf('-', 1)), label.substring(label.indexOf('-', 1) + 1))
                : Arrays.asList(label.split(" "));
    }

    /** Returns whether the word is the same for runs of labels, and no run comes twice. */
    private static boolean isShared(List<List<String>> words, int at) {
        Set<String> runs = new HashSet<>();
        String last = "";
        int begun = 0;
        for (List<String> label : words) {
            String word = label.get(at);
            if (!word.equals(last)) {
                begun++;
                last = word;
                if (!runs.add(word)) {
                    return false;
                }
            }
        }
        return begun * 2 <= words.size();
    }

    private static String without(List<String> words, int at) {
        List<String> rest = new ArrayList<>(words);
        rest.remove(at);
        return String.join(" ", rest);
    }
}
