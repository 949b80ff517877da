package dev.mile.bench;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;

/**
 * The figures of docs/performance.md in one run: reports beside SQL by hand and the bare scan, whole processes, different values, and the
 * date dimension. {@code check} compares them with those of a file, and fails where one is more than a tenth larger, also when it was
 * measured twice; {@code save} writes the file, with the larger of two measurements.
 *
 * <p>Arguments: the launcher of Mile, a file of figures, {@code print}, {@code check} or {@code save}, rows (50 million; 10 million for a
 * check), rounds (5), a folder for the data.
 */
public final class SpeedTable {
    private static final double TENTH = 0.1;

    private SpeedTable() {}

    /** Measures, and prints, compares or saves. */
    public static void main(String[] args) throws Exception {
        Path mile = Path.of(args[0]).toAbsolutePath();
        Path known = Path.of(args[1]);
        boolean prints = args[2].equals("print");
        long rows = args.length > 3 ? Long.parseLong(args[3]) : prints ? 50_000_000 : 10_000_000;
        int rounds = args.length > 4 ? Integer.parseInt(args[4]) : 5;
        Path folder = Path.of(args.length > 5 ? args[5] : "bench-data").toAbsolutePath();
        Figures figures = measured(mile, rows, rounds, folder);
        if (args[2].equals("save")) {
            figures.takeLarger(measured(mile, rows, rounds, folder));
            figures.write(known);
        }
        if (!args[2].equals("check")) {
            return;
        }
        List<String> slower = figures.slowerThan(known, TENTH);
        if (!slower.isEmpty()) {
            System.out.printf(Locale.ROOT, "%n%d larger than before; measured again%n", slower.size());
            figures.takeSmaller(measured(mile, rows, rounds, folder));
            slower = figures.slowerThan(known, TENTH);
        }
        slower.forEach(System.err::println);
        System.exit(slower.isEmpty() ? 0 : 1);
    }

    private static Figures measured(Path mile, long rows, int rounds, Path folder) throws Exception {
        Figures figures = new Figures();
        System.out.printf(Locale.ROOT, "%n%,d rows, medians of %d%n", rows, rounds);
        new EngineComparison(figures).run(rows, rounds, folder);
        new ProcessComparison(figures, mile, folder).run(rows, rounds);
        figures.forgetTimes();
        DistinctComparison.run(figures, Math.min(rows, 2_000_000), rounds, folder);
        figures.forgetTimes();
        DatesCsvBenchmark.run(figures, rounds);
        return figures;
    }
}
