package dev.mile.report.series;

import dev.mile.StoppedException;
import dev.mile.engine.DailyTotals;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;

/** Numbers texts, so that equal ones are found fast. Not for use by several threads. */
final class TextNumbers {
    private final Map<String, Integer> numbers = new HashMap<>();

    /** By a list of texts that groups share, the number of each. */
    private final Map<List<String>, int[]> ofLists = new IdentityHashMap<>();

    /** Returns the numbers of the different texts of each day. */
    int[][] of(DailyTotals texts) {
        if (texts instanceof DailyTotals.NumberedStrings numbered) {
            return of(numbered);
        }
        String[][] values = ((DailyTotals.StringSets) texts).values();
        int[][] encoded = new int[values.length][];
        for (int i = 0; i < encoded.length; i++) {
            // a group of all rows may have many texts
            StoppedException.throwIfInterrupted(Thread.currentThread());
            encoded[i] = new int[values[i] == null ? 0 : values[i].length];
            for (int v = 0; v < encoded[i].length; v++) {
                encoded[i][v] = of(values[i][v]);
            }
        }
        return encoded;
    }

    private int[][] of(DailyTotals.NumberedStrings texts) {
        int[] ofList = ofLists.computeIfAbsent(
                texts.texts(), list -> list.stream().mapToInt(this::of).toArray());
        int[][] encoded = new int[texts.numbers().length][];
        for (int i = 0; i < encoded.length; i++) {
            int[] places = texts.numbers()[i];
            encoded[i] = new int[places == null ? 0 : places.length];
            for (int v = 0; v < encoded[i].length; v++) {
                encoded[i][v] = ofList[places[v]];
            }
        }
        return encoded;
    }

    private int of(String text) {
        Integer number = numbers.putIfAbsent(text, numbers.size());
        return number == null ? numbers.size() - 1 : number;
    }
}
