package dev.mile.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Times of several ways to one result, and the ratios that are made of them: of medians, since absolute times vary from machine to machine
 * and from minute to minute. Not for use by several threads.
 */
final class Figures {
    private final Map<String, List<Double>> milliseconds = new LinkedHashMap<>();
    private final Map<String, Double> ratios = new LinkedHashMap<>();

    /** Something that is timed. */
    interface Way {
        void run() throws Exception;
    }

    /** Times a way once. */
    void time(String way, Way run) throws Exception {
        long start = System.nanoTime();
        run.run();
        milliseconds.computeIfAbsent(way, name -> new ArrayList<>()).add((System.nanoTime() - start) / 1e6);
    }

    /** Forgets the times, which were for the compiler or of another file. */
    void forgetTimes() {
        milliseconds.clear();
    }

    /** Returns the median time of a way, in milliseconds. */
    private double median(String way) {
        return median(milliseconds.get(way));
    }

    /** Returns the median of the ratios of each round, so that what else the machine does for a while falls on both ways. */
    private double ratio(String way, String other) {
        List<Double> some = milliseconds.get(way);
        List<Double> others = milliseconds.get(other);
        if (some.size() != others.size()) {
            return median(some) / median(others);
        }
        List<Double> ratios = new ArrayList<>();
        for (int round = 0; round < some.size(); round++) {
            ratios.add(some.get(round) / others.get(round));
        }
        return median(ratios);
    }

    private static double median(List<Double> values) {
        List<Double> sorted = values.stream().sorted().toList();
        int n = sorted.size();
        return n % 2 == 1 ? sorted.get(n / 2) : (sorted.get(n / 2 - 1) + sorted.get(n / 2)) / 2;
    }

    /** Prints a way beside another, and keeps the ratio under a name. */
    void compare(String name, String way, String other, double aim) {
        double ratio = ratio(way, other);
        keep(name, ratio);
        System.out.printf(
                Locale.ROOT,
                "%-52s %8.0f ms to %8.0f ms: %6.3f (asked: %s)%n",
                name,
                median(way),
                median(other),
                ratio,
                aim);
    }

    /** Keeps a ratio under a name. */
    void keep(String name, double ratio) {
        ratios.put(name, ratio);
    }

    /** Writes the ratios, one a line: name, comma, ratio. */
    void write(Path file) throws IOException {
        List<String> lines = new ArrayList<>();
        ratios.forEach((name, ratio) -> lines.add(String.format(Locale.ROOT, "%s,%.3f", name, ratio)));
        Files.write(file, lines);
    }

    /**
     * Returns the ratios that are larger than those of a file by more than a part.
     *
     * @param part such as 0.1
     */
    List<String> slowerThan(Path file, double part) throws IOException {
        List<String> slower = new ArrayList<>();
        for (String line : Files.readAllLines(file)) {
            String name = line.substring(0, line.lastIndexOf(','));
            double before = Double.parseDouble(line.substring(line.lastIndexOf(',') + 1));
            Double now = ratios.get(name);
            if (now == null || now > before * (1 + part)) {
                slower.add(String.format(Locale.ROOT, "%s: %.3f, and was %.3f", name, now, before));
            }
        }
        return slower;
    }

    /** Takes the ratios that are smaller in another measurement, in which something else may have run beside. */
    void takeSmaller(Figures again) {
        again.ratios.forEach((name, ratio) -> ratios.merge(name, ratio, Math::min));
    }

    /** Takes the ratios that are larger in another measurement: what a machine that does other things too may show. */
    void takeLarger(Figures again) {
        again.ratios.forEach((name, ratio) -> ratios.merge(name, ratio, Math::max));
    }
}
