package dev.mile.bench;

import dev.mile.bench.Figures.Way;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Whole processes of {@code mile}, as its users start it, beside a Java program that opens the same database: reports that read a large
 * file, the demo's report, a page, a workbook and a chart.
 */
final class ProcessComparison {
    private static final String BY_HAND = "a program that runs the SQL by hand";
    private static final String DATABASE = "a program that opens the database";

    private final Figures figures;
    private final Path mile;
    private final Path folder;

    ProcessComparison(Figures figures, Path mile, Path folder) {
        this.figures = figures;
        this.mile = mile;
        this.folder = folder;
    }

    /** Runs all ways in each round. */
    void run(long rows, int rounds) throws Exception {
        for (boolean shuffled : new boolean[] {false, true}) {
            figures.forgetTimes();
            Path file = SalesData.parquet(folder, rows, 200, shuffled);
            Path model = model(file, List.of("sales", "ytd", "ly", "lytd", "r12", "growth"));
            for (int round = 0; round < rounds; round++) {
                figures.time(BY_HAND, java(file.toString()));
                figures.time("report", mile(model, "r", "--no-store"));
            }
            figures.compare(
                    "whole process, cold, " + (shuffled ? "shuffled" : "ordered") + ", to SQL by hand",
                    "report",
                    BY_HAND,
                    0.7);
        }
        figures.forgetTimes();
        Path demo = folder.resolve("demo");
        if (!Files.exists(demo)) {
            start(List.of(mile.toString(), "demo", demo.toString()));
        }
        Path trading = demo.resolve("mile.yaml");
        Path page = model(SalesData.parquet(folder, 1_000_000, 70, true), List.of("sales", "ytd", "ly", "lytd", "r12"));
        List<String> twelve = new ArrayList<>(List.of("sales", "ytd", "ly", "lytd", "r12", "growth"));
        for (int months = 2; months <= 7; months++) {
            twelve.add("m" + months);
        }
        Path sheet = model(SalesData.parquet(folder, 3_000_000, 1_400, true), twelve);
        // what a first run keeps, and shares with later ones
        for (Way first : List.of(mile(trading, "trading"), mile(trading, "trading", "-o", folder + "/c.png"))) {
            first.run();
        }
        for (int round = 0; round < rounds; round++) {
            figures.time(DATABASE, java());
            figures.time("mile report trading, kept totals", mile(trading, "trading"));
            figures.time("mile report trading --no-store", mile(trading, "trading", "--no-store"));
            figures.time("chart", mile(trading, "trading", "-o", folder + "/c.png"));
            figures.time("page of 5,040 rows", mile(page, "r", "--no-store", "-o", folder + "/r.html"));
            figures.time("workbook of 100,800 rows x 12", mile(sheet, "r", "--no-store", "-o", folder + "/r.xlsx"));
        }
        figures.compare("mile report trading, kept, to a database", "mile report trading, kept totals", DATABASE, 1);
        figures.compare("mile report trading --no-store, to a database", "mile report trading --no-store", DATABASE, 3);
        figures.compare("chart, to a database", "chart", DATABASE, 4);
        figures.compare("page of 5,040 rows, to a database", "page of 5,040 rows", DATABASE, 5);
        figures.compare("workbook of 100,800 rows x 12, to a database", "workbook of 100,800 rows x 12", DATABASE, 13);
    }

    private Path model(Path data, List<String> shown) throws IOException {
        StringBuilder measures = new StringBuilder();
        for (int months = 2; months <= 7; months++) {
            measures.append(String.format(Locale.ROOT, "  m%1$d: sales over trailing %1$d months%n", months));
        }
        Path file = folder.resolve(data.getFileName() + ".yaml");
        return Files.writeString(
                file,
                """
                mile: 1
                name: bench
                as_of: 2025-12-31
                calendars: {c: {year_starts: january 1}}
                dates: {from: 2020-01-01, to: 2025-12-31}
                facts: {sales: {source: "%s", dates: {ordered: day}}}
                measures:
                  sales: sum(sales.amount)
                  ytd: sales over year to date
                  ly: sales over 1 year back
                  lytd: ytd over 1 year back
                  r12: sales over trailing 12 months
                  growth: (sales - ly) / ly
                %sreports: {r: {rows: [month, shop], show: [%s], totals: false}}
                """
                        .formatted(data, measures, String.join(", ", shown)));
    }

    private Way mile(Path model, String... more) {
        List<String> command = new ArrayList<>(List.of(mile.toString(), "report", "-f", model.toString()));
        command.addAll(List.of("--store", folder.resolve("process-store").toString()));
        command.addAll(List.of(more));
        if (command.contains("--no-store")) {
            command.subList(4, 6).clear();
        }
        return () -> start(command);
    }

    private static Way java(String... arguments) {
        List<String> command = new ArrayList<>(
                List.of(Path.of(System.getProperty("java.home"), "bin", "java").toString()));
        command.addAll(List.of("-XX:+UseSerialGC", "-XX:TieredStopAtLevel=1"));
        command.addAll(List.of("-cp", System.getProperty("java.class.path"), HandSql.class.getName()));
        command.addAll(List.of(arguments));
        return () -> start(command);
    }

    private static void start(List<String> command) throws IOException, InterruptedException {
        Process process = new ProcessBuilder(command)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        if (process.waitFor() != 0) {
            throw new IllegalStateException(command + " ended with " + process.exitValue());
        }
    }
}
