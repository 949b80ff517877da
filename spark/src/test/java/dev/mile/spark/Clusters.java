package dev.mile.spark;

import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Date;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.RowFactory;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.types.DataType;
import org.apache.spark.sql.types.DataTypes;
import org.apache.spark.sql.types.StructField;

/** Spark sessions, and rows of tests as data frames. */
final class Clusters {
    private Clusters() {}

    /** Starts a session; one that a test before has left open would be taken, whatever its master. */
    static SparkSession start(String master) {
        if (SparkSession.getDefaultSession().isDefined()) {
            SparkSession.getDefaultSession().get().stop();
        }
        return SparkSession.builder()
                .master(master)
                .appName("mile tests")
                .config("spark.ui.enabled", "false")
                .config("spark.sql.shuffle.partitions", "4")
                .config("spark.driver.bindAddress", "127.0.0.1")
                .config("spark.driver.host", "127.0.0.1")
                .config("spark.executor.extraClassPath", System.getProperty("java.class.path"))
                .config("spark.executor.extraJavaOptions", "-Duser.timezone=America/Lima")
                .config("spark.sql.session.timeZone", "Asia/Kathmandu")
                .getOrCreate();
    }

    /** Makes the folder in which workers look for Spark: its jars are those of the class path. */
    static void home() throws IOException {
        Path jars = Files.createDirectories(Path.of(System.getenv("SPARK_HOME"), "jars"));
        for (String entry : System.getProperty("java.class.path").split(java.io.File.pathSeparator)) {
            Path jar = Path.of(entry);
            Path link = jars.resolve(jar.getFileName().toString());
            if (entry.endsWith(".jar") && !Files.exists(link)) {
                Files.createSymbolicLink(link, jar.toAbsolutePath());
            }
        }
    }

    /** Returns the rows as a frame: `name:number` a decimal that fits, `name:date` a date, else texts. */
    static Dataset<Row> frame(SparkSession spark, dev.mile.report.Rows rows) {
        Map<String, DataType> types = new LinkedHashMap<>();
        for (String name : rows.names()) {
            types.put(name, type(rows, name));
        }
        List<Row> values = new ArrayList<>();
        for (int i = 0; i < rows.size(); i++) {
            List<Object> row = new ArrayList<>();
            for (Map.Entry<String, DataType> column : types.entrySet()) {
                String value = rows.value(i, column.getKey());
                row.add(
                        value.isEmpty()
                                ? null
                                : column.getValue().equals(DataTypes.DateType)
                                        ? Date.valueOf(LocalDate.parse(value))
                                        : column.getValue().equals(DataTypes.StringType)
                                                ? value
                                                : new BigDecimal(value));
            }
            values.add(RowFactory.create(row.toArray()));
        }
        StructField[] fields = types.entrySet().stream()
                .map(e -> DataTypes.createStructField(e.getKey(), e.getValue(), true))
                .toArray(StructField[]::new);
        return spark.createDataFrame(values, DataTypes.createStructType(fields));
    }

    private static DataType type(dev.mile.report.Rows rows, String name) {
        if (!rows.isNumber(name)) {
            return DataTypes.StringType;
        }
        int places = 0;
        int whole = 1;
        for (int i = 0; i < rows.size(); i++) {
            String value = rows.value(i, name);
            if (!value.isEmpty()) {
                BigDecimal number = new BigDecimal(value);
                places = Math.max(places, number.scale());
                whole = Math.max(whole, number.precision() - number.scale());
            }
        }
        return DataTypes.createDecimalType(whole + places, places);
    }
}
