package dev.mile.demo;

import static java.util.Objects.requireNonNull;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;

/** Writes the demo project: Fernhollow Garden Centres. Equal row counts give equal bytes. */
public final class DemoProject {
    /** How many order lines the demo has unless said: enough for four and a half years of twelve shops. */
    public static final int ROWS = 60_000;

    private static final List<String> FILES =
            List.of("mile.yaml", "shops.csv", "promotions.csv", "closures.csv", "holidays.ics");

    private DemoProject() {}

    /** Writes one table. */
    interface Content {
        void write(BufferedWriter out) throws IOException;
    }

    /**
     * Writes the project.
     *
     * @param folder where; it is made where it is not there, and files of the demo in it are replaced
     * @param rows about how many order lines
     * @throws IOException if it cannot be written
     */
    public static void write(Path folder, int rows) throws IOException {
        requireNonNull(folder, "folder is null");
        Files.createDirectories(folder);
        for (String file : FILES) {
            try (InputStream in = DemoProject.class.getResourceAsStream(file)) {
                Files.copy(in, folder.resolve(file), StandardCopyOption.REPLACE_EXISTING);
            }
        }
        Assortment assortment = new Assortment();
        table(folder, "items.csv", assortment::write);
        table(folder, "sales.csv", new Orders(assortment, rows)::write);
        Plans plans = new Plans(rows);
        table(folder, "budget.csv", plans::budget);
        table(folder, "forecast.csv", plans::forecast);
        table(folder, "stock.csv", plans::stock);
    }

    private static void table(Path folder, String name, Content content) throws IOException {
        try (BufferedWriter out = Files.newBufferedWriter(folder.resolve(name), StandardCharsets.UTF_8)) {
            content.write(out);
        }
    }
}
