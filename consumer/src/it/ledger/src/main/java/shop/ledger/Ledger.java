package shop.ledger;

import static dev.mile.fact.Condition.column;

import com.fasterxml.jackson.databind.ObjectMapper;
import dev.mile.fact.Table;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.jackson.MileModule;
import dev.mile.measure.Measure;
import dev.mile.model.Model;
import dev.mile.render.excel.GridWorkbook;
import dev.mile.render.text.GridCsv;
import dev.mile.report.Grid;
import dev.mile.report.Session;
import dev.mile.sql.files.DuckDbEngine;
import java.io.IOException;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;

/** A program as users write it: a model from the class path, rows in memory and in a file, and three outputs. */
public final class Ledger {
    private record Sale(LocalDate day, String shop, BigDecimal net) {}

    private Ledger() {}

    private static Session inMemory() {
        Model model = Model.resource(Ledger.class, "ledger.yaml");
        var project = model.project().withMeasure(
                "north", Measure.sum("sales", "net").where(column("shop").is("North")));
        List<Sale> sales = List.of(
                new Sale(LocalDate.of(2026, 4, 1), "North", new BigDecimal("12.50")),
                new Sale(LocalDate.of(2026, 5, 2), "South", new BigDecimal("7.25")));
        Table rows = Table.of(
                sales, c -> c.date("day", Sale::day).text("shop", Sale::shop).number("net", Sale::net));
        return Session.open(project, () -> MemoryEngine.over(project).rows("sales", rows));
    }

    private static Session inFiles(Path folder) throws IOException {
        Files.writeString(folder.resolve("sales.csv"), "day,shop,net\n2026-04-01,North,12.50\n2026-05-02,South,7.25\n");
        try (var text = Ledger.class.getResourceAsStream("ledger.yaml")) {
            Model model = Model.parse(new String(text.readAllBytes(), StandardCharsets.UTF_8), folder.resolve("mile.yaml"));
            return Session.open(model.project(), () -> DuckDbEngine.over(model.schema()));
        }
    }

    /** Prints the report as CSV and as JSON, computed in memory and from a file, and writes it as a workbook. */
    public static void main(String[] args) throws IOException {
        Path folder = Path.of(args[0]);
        try (Session memory = inMemory();
                Session files = inFiles(folder)) {
            Grid grid = memory.report("months");
            StringBuilder csv = new StringBuilder();
            GridCsv.write(grid, true, csv);
            System.out.print(csv);
            System.out.println(files.report("months").row("FY2027 P02").number("net").orElseThrow());
            System.out.println(new ObjectMapper().registerModule(new MileModule()).writeValueAsString(grid.row("FY2027 P01")));
            try (OutputStream out = Files.newOutputStream(folder.resolve("months.xlsx"))) {
                GridWorkbook.write(grid, out);
            }
        }
    }
}
