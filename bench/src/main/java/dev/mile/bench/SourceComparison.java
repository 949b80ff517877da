package dev.mile.bench;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.FileFormat;
import dev.mile.engine.Source;
import dev.mile.fact.Fact;
import dev.mile.measure.Measure;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.sources.RowSink;
import dev.mile.sources.SourceFile;
import dev.mile.sources.SourceRow;
import dev.mile.sql.files.DuckDbEngine;
import java.io.IOException;
import java.io.OutputStream;
import java.io.Writer;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.Month;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.xssf.streaming.SXSSFSheet;
import org.apache.poi.xssf.streaming.SXSSFWorkbook;

/**
 * A report from the same rows as plain text, and as offices write them: numbers and dates by example, in another encoding. Then the rows
 * a second of a workbook. All find the same sum.
 *
 * <p>Arguments: rows (10 million), rounds (5), a folder for the data.
 */
public final class SourceComparison {
    private static final LocalDate FIRST = LocalDate.of(2021, 1, 1);
    private static final int DAYS = 1_800;
    private static final int SHOPS = 200;
    private static final int ITEMS = 5_000;
    private static final int MOST_CENTS = 2_000_000;
    private static final int WORKBOOK_ROWS = 1_000_000;

    private SourceComparison() {}

    /** Runs the comparison. */
    public static void main(String[] args) throws IOException {
        int rows = args.length > 0 ? Integer.parseInt(args[0]) : 10_000_000;
        int rounds = args.length > 1 ? Integer.parseInt(args[1]) : 5;
        Path folder = Files.createDirectories(
                Path.of(args.length > 2 ? args[2] : "bench-data").toAbsolutePath());
        Path plain = folder.resolve("plain-" + rows + ".csv");
        Path written = folder.resolve("written-" + rows + ".csv");
        text(plain, rows, StandardCharsets.UTF_8, ',', DateTimeFormatter.ISO_LOCAL_DATE, "%d.%02d");
        Charset windows = Charset.forName("windows-1252");
        text(written, rows, windows, ';', DateTimeFormatter.ofPattern("dd.MM.yyyy", Locale.ROOT), "%,d|%02d");
        FileFormat german = FileFormat.PLAIN
                .withNumbers("1.234,56")
                .withDates(Map.of("", "31.12.2025"))
                .withEncoding(windows.name());
        Map<String, Source> sources = new LinkedHashMap<>();
        sources.put("plain", Source.files(plain.toString()));
        sources.put("numbers, dates and encoding", Source.files(written.toString(), german));
        Map<String, List<Double>> times = new LinkedHashMap<>();
        sources.keySet().forEach(way -> times.put(way, new ArrayList<>()));
        for (int round = 0; round < rounds; round++) {
            String first = "";
            for (Map.Entry<String, Source> way : sources.entrySet()) {
                long start = System.nanoTime();
                String total = total(way.getValue());
                times.get(way.getKey()).add((System.nanoTime() - start) / 1e6);
                if (!first.isEmpty() && !first.equals(total)) {
                    throw new IllegalStateException(
                            "the plain text adds up to " + first + ", " + way.getKey() + " to " + total);
                }
                first = total;
            }
        }
        double base = median(times.get("plain"));
        times.forEach((way, all) -> System.out.printf(
                Locale.ROOT, "%,d rows, %s: %.0f ms, ratio %.2f%n", rows, way, median(all), median(all) / base));
        workbook(folder, rounds);
    }

    private static double median(List<Double> times) {
        return times.stream().sorted().toList().get(times.size() / 2);
    }

    private static String total(Source source) {
        Project project = Project.named("sources")
                .asOf(FIRST.plusDays(DAYS))
                .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
                .fact(Fact.of("sales", "sold", "sold"))
                .measure("sales", Measure.sum("sales", "amount"))
                .build();
        try (Session session =
                Session.open(project, () -> DuckDbEngine.over(project.schema().withSources(Map.of("sales", source))))) {
            Grid grid = session.report(Report.of("r", List.of("year"), List.of("sales")));
            return grid.rows().get(grid.rows().size() - 1).values().get(0).toString();
        }
    }

    private static void text(
            Path file, int rows, Charset charset, char separator, DateTimeFormatter dates, String amounts)
            throws IOException {
        if (Files.exists(file)) {
            return;
        }
        Random random = new Random(1);
        try (Writer out = Files.newBufferedWriter(file, charset)) {
            out.write(String.join(String.valueOf(separator), "sold", "shop", "item", "amount") + "\n");
            for (int i = 0; i < rows; i++) {
                LocalDate day = FIRST.plusDays(random.nextInt(DAYS));
                int shop = random.nextInt(SHOPS);
                int item = random.nextInt(ITEMS);
                int cents = random.nextInt(MOST_CENTS);
                String amount = String.format(Locale.ROOT, amounts, cents / 100, cents % 100)
                        .replace(',', separator == ';' ? '.' : ',')
                        .replace('|', ',');
                out.write(dates.format(day) + separator + "S" + shop + separator + "I" + item + separator + amount
                        + "\n");
            }
        }
    }

    // ---- workbooks

    private static void workbook(Path folder, int rounds) throws IOException {
        Path file = folder.resolve("orders-" + WORKBOOK_ROWS + ".xlsx");
        if (!Files.exists(file)) {
            write(file);
        }
        List<Double> times = new ArrayList<>();
        for (int round = 0; round < rounds; round++) {
            Counted counted = new Counted();
            long start = System.nanoTime();
            SourceFile.read(file, FileFormat.PLAIN, counted);
            times.add((System.nanoTime() - start) / 1e9);
            if (counted.rows != WORKBOOK_ROWS) {
                throw new IllegalStateException("the workbook has " + counted.rows + " rows");
            }
        }
        System.out.printf(
                Locale.ROOT,
                "a workbook of %,d rows and 6 columns: %.1f s, %,.0f rows a second%n",
                WORKBOOK_ROWS,
                median(times),
                WORKBOOK_ROWS / median(times));
    }

    private static void write(Path file) throws IOException {
        Random random = new Random(1);
        try (SXSSFWorkbook workbook = new SXSSFWorkbook();
                OutputStream out = Files.newOutputStream(file)) {
            CellStyle date = workbook.createCellStyle();
            date.setDataFormat(workbook.createDataFormat().getFormat("dd.mm.yyyy"));
            SXSSFSheet sheet = workbook.createSheet("Orders");
            List<String> names = List.of("sold", "shop", "item", "amount", "units", "note");
            Row header = sheet.createRow(0);
            names.forEach(name -> header.createCell(names.indexOf(name)).setCellValue(name));
            for (int i = 1; i <= WORKBOOK_ROWS; i++) {
                Row row = sheet.createRow(i);
                row.createCell(0).setCellValue(FIRST.plusDays(random.nextInt(DAYS)));
                row.getCell(0).setCellStyle(date);
                row.createCell(1).setCellValue("S" + random.nextInt(SHOPS));
                row.createCell(2).setCellValue("I" + random.nextInt(ITEMS));
                row.createCell(3).setCellValue(random.nextInt(MOST_CENTS) / 100.0);
                row.createCell(4).setCellValue(1 + random.nextInt(9));
                row.createCell(5).setCellValue(random.nextInt(10) == 0 ? "gift" : "");
            }
            workbook.write(out);
        }
    }

    /** Counts rows. */
    private static final class Counted implements RowSink {
        private long rows;

        @Override
        public void columns(List<String> names) {
            // not counted
        }

        @Override
        public void row(SourceRow row) {
            rows++;
        }
    }
}
