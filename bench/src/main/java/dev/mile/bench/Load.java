package dev.mile.bench;

import dev.mile.model.Model;
import dev.mile.report.Session;
import dev.mile.sql.RoutingEngine;
import dev.mile.sql.files.FileLimits;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * What is large in other ways than rows: groups, measures, dimensions, columns, years, and reports in a loop; time and memory of a process of
 * its own for each, with a heap of 512 MiB, and what many reports leave open.
 *
 * <p>Arguments: a folder for the data.
 */
public final class Load {
    private static final int GROUPS = 2_000_000;
    private static final int MEASURES = 1_000;
    private static final int MEMBERS = 20_000;
    private static final int REPORTS = 300;

    private final Path folder;

    private Load(Path folder) {
        this.folder = folder;
    }

    /** Runs all. */
    public static void main(String[] args) throws IOException, InterruptedException {
        Load load = new Load(Files.createDirectories(Path.of(args.length > 0 ? args[0] : "bench-data/load"))
                .toAbsolutePath());
        System.out.println("| what | exit code | seconds | memory of the process |\n| --- | --- | --- | --- |");
        load.groups();
        load.measures();
        load.dimensions();
        load.columns();
        load.years();
        load.reports();
    }

    /** Returns the arguments of a report to a file. */
    private String[] report(String rows, String show, String file) {
        return new String[] {
            "report",
            "--no-store",
            "--rows",
            rows,
            "--show",
            show,
            "-o",
            folder.resolve(file).toString()
        };
    }

    private void run(String what, String model, String... arguments) throws IOException, InterruptedException {
        Path file = Files.writeString(folder.resolve("load.yaml"), model);
        List<String> all = Stream.concat(
                        Stream.of(arguments[0], "-f", file.toString()),
                        Stream.of(arguments).skip(1))
                .toList();
        Path said = folder.resolve("said.txt");
        WatchedProcess process =
                WatchedProcess.run(ProcessBuilder.Redirect.to(said.toFile()), List.of("-Xmx512m"), all);
        System.out.printf(
                Locale.ROOT,
                "| %s | %d%s | %.1f | %s |%n",
                what,
                process.code(),
                process.code() == 0 ? "" : ": " + Files.readString(said).strip(),
                process.seconds(),
                process.memory());
    }

    /** Writes rows: a customer, seven other dimensions, a day, an amount. */
    private Path rows(String name, int rows, int customers) throws IOException {
        Path file = folder.resolve(name);
        if (Files.exists(file)) {
            return file;
        }
        Random random = new Random(7);
        LocalDate first = LocalDate.of(2025, 1, 1);
        try (BufferedWriter out = Files.newBufferedWriter(file)) {
            out.write("day,customer,a,b,c,d,e,f,g,amount\n");
            for (int i = 0; i < rows; i++) {
                out.write(first.plusDays(random.nextInt(700)) + ",C" + i % customers);
                for (int d = 0; d < 7; d++) {
                    out.write("," + (char) ('p' + d) + random.nextInt(4));
                }
                out.write("," + random.nextInt(1_000) + "." + (10 + random.nextInt(90)) + "\n");
            }
        }
        return file;
    }

    private static String model(Path rows, String measures) {
        return """
                mile: 1
                calendars: {fiscal: {year_starts: april 1}}
                facts: {sales: {source: "%s", dates: {on: day}}}
                measures:
                  sales: sum(sales.amount)
                %s
                """
                .formatted(rows, measures);
    }

    private void groups() throws IOException, InterruptedException {
        Path rows = rows("groups.csv", 2 * GROUPS, GROUPS);
        run(
                "two million customers by year, to CSV",
                model(rows, "  ytd: sales over year to date"),
                report("customer,year", "sales,ytd", "groups-out.csv"));
    }

    private void measures() throws IOException, InterruptedException {
        Path rows = rows("rows.csv", 200_000, MEMBERS);
        String measures = IntStream.range(0, MEASURES)
                .mapToObj(m -> "  m" + m + ": sales over " + (m + 1) + " days back")
                .collect(Collectors.joining("\n"));
        String show = IntStream.range(0, MEASURES).mapToObj(m -> "m" + m).collect(Collectors.joining(","));
        run("1,000 measures by month", model(rows, measures), report("month", show, "measures-out.csv"));
    }

    private void dimensions() throws IOException, InterruptedException {
        run(
                "8 dimensions in the rows",
                model(rows("rows.csv", 200_000, MEMBERS), ""),
                report("a,b,c,d,e,f,g,year", "sales", "dimensions-out.csv"));
    }

    private void columns() throws IOException, InterruptedException {
        for (String ending : List.of("csv", "json", "html", "xlsx")) {
            run(
                    "20,000 members as columns, to ." + ending,
                    model(rows("rows.csv", 200_000, MEMBERS), ""),
                    "report",
                    "--no-store",
                    "--rows",
                    "quarter",
                    "--columns",
                    "customer",
                    "--show",
                    "sales",
                    "-o",
                    folder.resolve("columns-out." + ending).toString());
        }
    }

    private void years() throws IOException, InterruptedException {
        run(
                "200 years of 5 calendars",
                """
                mile: 1
                calendars:
                  fiscal: {year_starts: april 1}
                  civil: {year_starts: january 1}
                  retail: {weeks: 4-5-4, year_ends: saturday nearest january 31, named_for: start}
                  thirteen: {weeks: 13x4, year_ends: last saturday of june}
                  iso: {weeks: none, year_ends: sunday nearest december 31}
                working: {shops: {rest: [sunday], holidays: [{name: New Year, on: january 1, moved: next working day}]}}
                dates: {from: 1900-01-01, to: 2099-12-31}
                """,
                "dates",
                "-o",
                folder.resolve("dates-out.csv").toString());
    }

    /** One process, a session for each report: nothing may be left open. */
    private void reports() throws IOException {
        Path rows = rows("few.csv", 2_000, 50);
        String text = model(rows, "  ly: sales over 1 year back")
                + "reports: {r: {rows: [customer, month], show: [sales, ly]}}\n";
        long start = System.nanoTime();
        String before = "";
        for (int i = 0; i < REPORTS; i++) {
            Model model = Model.parse(text, folder.resolve("load.yaml"));
            try (Session session = Session.open(
                    model.project(), () -> RoutingEngine.over(model.schema(), model.warehouses(), FileLimits.NONE))) {
                session.report("r");
            }
            if (i == REPORTS / 10) {
                before = open();
            }
        }
        System.out.printf(
                Locale.ROOT,
                "| %d reports, a session each | after %d: %s; at the end: %s | %.1f | |%n",
                REPORTS,
                REPORTS / 10,
                before,
                open(),
                (System.nanoTime() - start) / 1e9);
    }

    /** Returns the files and threads that this process has open, and the memory that is in use. */
    private static String open() throws IOException {
        System.gc();
        Runtime java = Runtime.getRuntime();
        Path descriptors = Path.of("/proc/self/fd");
        long files = 0;
        if (Files.isDirectory(descriptors)) {
            try (Stream<Path> all = Files.list(descriptors)) {
                files = all.count();
            }
        }
        return String.format(
                Locale.ROOT,
                "%d files, %d threads, %d MiB",
                files,
                Thread.getAllStackTraces().size(),
                (java.totalMemory() - java.freeMemory()) >> 20);
    }
}
