package dev.mile.spark;

import dev.mile.testkit.TestRows;
import java.io.File;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Date;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.jar.JarEntry;
import java.util.jar.JarOutputStream;
import java.util.stream.Stream;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.RowFactory;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.types.DataType;
import org.apache.spark.sql.types.DataTypes;
import org.apache.spark.sql.types.StructField;

/** Spark sessions, and rows of tests as data frames. */
final class Clusters {
    /** Options of a JVM that ends before the second compiler has earned what it costs. */
    private static final String SHORT_LIVED = "-XX:TieredStopAtLevel=1 -XX:+UseSerialGC";

    private Clusters() {}

    /** Starts a session; one that a test before has left open would be taken, whatever its master. */
    static SparkSession start(String master, int partitions) {
        if (SparkSession.getDefaultSession().isDefined()) {
            SparkSession.getDefaultSession().get().stop();
        }
        // what a few rows take is mostly the compilation of each query: it is left to the cluster, and to deep runs
        boolean compiled = master.startsWith("local-cluster") || Integer.getInteger("mile.random.rows") != null;
        return SparkSession.builder()
                .master(master)
                .appName("mile tests")
                .config("spark.ui.enabled", "false")
                .config("spark.sql.shuffle.partitions", partitions)
                .config("spark.sql.codegen.wholeStage", compiled)
                .config("spark.sql.codegen.factoryMode", compiled ? "FALLBACK" : "NO_CODEGEN")
                .config("spark.driver.bindAddress", "127.0.0.1")
                .config("spark.driver.host", "127.0.0.1")
                .config("spark.executor.extraClassPath", System.getProperty("java.class.path"))
                .config("spark.executor.extraJavaOptions", SHORT_LIVED + " -Duser.timezone=America/Lima")
                .config("spark.sql.session.timeZone", "Asia/Kathmandu")
                .getOrCreate();
    }

    /** Makes the folder in which workers look for Spark: its jars are those of the class path that are not ours. */
    static Path home() throws IOException {
        Path jars = Files.createDirectories(Path.of(System.getenv("SPARK_HOME"), "jars"));
        for (String entry : System.getProperty("java.class.path").split(File.pathSeparator)) {
            Path jar = Path.of(entry);
            String name = jar.getFileName().toString();
            Path link = jars.resolve(name);
            if (name.endsWith(".jar") && !name.startsWith("mile-") && !Files.exists(link)) {
                Files.createSymbolicLink(link, jar.toAbsolutePath());
            }
        }
        return jars;
    }

    /** Returns a jar of the module that the class is of, or of some of its classes alone. */
    static Path jar(Path folder, Class<?> of, Class<?>... alone) throws Exception {
        Path place =
                Path.of(of.getProtectionDomain().getCodeSource().getLocation().toURI());
        if (Files.isRegularFile(place)) {
            return place;
        }
        Path jar = folder.resolve(of.getSimpleName() + ".jar");
        try (JarOutputStream out = new JarOutputStream(Files.newOutputStream(jar));
                Stream<Path> files = Files.walk(place)) {
            for (Path file : (Iterable<Path>) files.filter(Files::isRegularFile)::iterator) {
                String name = place.relativize(file).toString().replace(File.separatorChar, '/');
                boolean wanted = alone.length == 0
                        || Stream.of(alone)
                                .anyMatch(c -> name.equals(c.getName().replace('.', '/') + ".class"));
                if (wanted) {
                    out.putNextEntry(new JarEntry(name));
                    Files.copy(file, out);
                }
            }
        }
        return jar;
    }

    /** Starts {@code spark-submit}, which has nothing but Spark on its class path; its log is {@code submit.log} in the folder. */
    static Process submit(Path folder, List<String> options, List<String> program) throws IOException {
        List<String> command = new ArrayList<>(
                List.of(Path.of(System.getProperty("java.home"), "bin", "java").toString()));
        ManagementFactory.getRuntimeMXBean().getInputArguments().stream()
                .filter(argument -> argument.startsWith("--add-opens"))
                .forEach(command::add);
        command.addAll(List.of(SHORT_LIVED.split(" ")));
        command.addAll(List.of("-cp", home() + File.separator + "*", "org.apache.spark.deploy.SparkSubmit"));
        command.addAll(options);
        for (String setting : List.of(
                "ui.enabled=false",
                "driver.bindAddress=127.0.0.1",
                "driver.host=127.0.0.1",
                "sql.shuffle.partitions=4",
                "executor.extraJavaOptions=" + SHORT_LIVED)) {
            command.addAll(List.of("--conf", "spark." + setting));
        }
        command.addAll(program);
        return new ProcessBuilder(command)
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("submit.log").toFile())
                .start();
    }

    /** Returns the rows as a frame: `name:number` a decimal that fits, `name:date` a date, else texts. */
    static Dataset<Row> frame(SparkSession spark, TestRows rows) {
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

    private static DataType type(TestRows rows, String name) {
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
