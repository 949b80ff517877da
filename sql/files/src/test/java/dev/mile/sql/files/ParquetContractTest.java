package dev.mile.sql.files;

import dev.mile.engine.Engine;
import dev.mile.engine.Source;
import dev.mile.report.Project;
import dev.mile.sql.dialect.Sql;
import dev.mile.testkit.EngineContract;
import dev.mile.testkit.TestRows;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.io.TempDir;

/** Files whose columns have types give the same answers, whether the database reads them or not. */
class ParquetContractTest extends EngineContract {
    @TempDir
    private Path folder;

    private int files;

    @Override
    protected Engine engine(Project project, Map<String, TestRows> rows) {
        Map<String, Source> sources = new LinkedHashMap<>();
        rows.forEach((name, table) -> sources.put(name, write(table)));
        return DuckDbEngine.over(project.schema().withSources(sources));
    }

    @Override
    protected int shallowRandomRows() {
        return 2;
    }

    private Source write(TestRows rows) {
        String number = "t" + files++;
        Source csv = DuckDbEngineTest.write(folder, number + ".csv", rows.csv());
        List<String> types = new ArrayList<>();
        for (String name : rows.names()) {
            types.add(Sql.text(name) + ": '" + type(rows, name) + "'");
        }
        Path file = folder.resolve(number + ".parquet");
        try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = connection.createStatement()) {
            statement.execute("COPY (SELECT * FROM read_csv(" + Sql.text(((Source.Files) csv).pattern())
                    + ", header = true, delim = ',', quote = '\"', auto_detect = false, columns = {"
                    + String.join(", ", types)
                    + "})) TO " + Sql.text(file.toString()) + " (FORMAT PARQUET)");
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
        return Source.files(file.toString());
    }

    private static String type(TestRows rows, String name) {
        List<String> values = IntStream.range(0, rows.size())
                .mapToObj(row -> rows.value(row, name))
                .filter(value -> !value.isEmpty())
                .toList();
        if (rows.isNumber(name)) {
            int places = values.stream()
                    .mapToInt(v -> new BigDecimal(v).scale())
                    .filter(s -> s > 0)
                    .max()
                    .orElse(0);
            int whole = values.stream()
                    .mapToInt(v -> new BigDecimal(v).precision())
                    .max()
                    .orElse(1);
            return "DECIMAL(" + Math.min(38, whole + places) + ", " + places + ")";
        }
        boolean isDate = !values.isEmpty() && values.stream().allMatch(v -> v.matches("\\d{4}-\\d\\d-\\d\\d"));
        return isDate ? "DATE" : "VARCHAR";
    }
}
