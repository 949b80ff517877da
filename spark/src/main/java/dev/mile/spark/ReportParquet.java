package dev.mile.spark;

import static org.apache.spark.sql.functions.bool_or;
import static org.apache.spark.sql.functions.col;
import static org.apache.spark.sql.functions.count;
import static org.apache.spark.sql.functions.length;
import static org.apache.spark.sql.functions.lit;
import static org.apache.spark.sql.functions.max;
import static org.apache.spark.sql.functions.regexp_extract;
import static org.apache.spark.sql.functions.when;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.report.Grid;
import dev.mile.report.distributed.DistributedReport;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.apache.hadoop.fs.FileStatus;
import org.apache.hadoop.fs.FileSystem;
import org.apache.hadoop.fs.Path;
import org.apache.spark.sql.Column;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Observation;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.types.DataTypes;

/**
 * Writes a report from where it is evaluated, as a folder of Parquet parts. Its columns have the types of a report's Parquet
 * files: decimals with all their digits, doubles for ratios. How many digits there are is known when all rows are, so they are
 * written as texts first.
 */
final class ReportParquet {
    private static final int MOST_DIGITS = 38;
    private static final String ROWS = "rows";

    private final DistributedReport distributed;
    private final Dataset<Row> evaluated;
    private final Path target;
    private final FileSystem files;

    private ReportParquet(DistributedReport distributed, Dataset<Row> evaluated, Path target) throws IOException {
        this.distributed = distributed;
        this.evaluated = evaluated;
        this.target = target;
        this.files =
                target.getFileSystem(evaluated.sparkSession().sessionState().newHadoopConf());
    }

    /**
     * Writes a report.
     *
     * @throws MileException if the folder holds other files, cannot be written, or is not the same one for every machine
     */
    static void write(SparkEngine engine, DistributedReport distributed, java.nio.file.Path folder) {
        // not of its URI, which ends in a slash once the folder is there
        Path target = new Path("file", null, folder.toAbsolutePath().toString());
        try {
            new ReportParquet(distributed, SparkReport.evaluate(engine, distributed), target).write();
        } catch (IOException e) {
            throw DataException.of("cannot write %s: %s", folder, e.getMessage())
                    .withCause(e);
        }
    }

    private void write() throws IOException {
        checkTarget();
        Path beside = new Path(target.getParent(), "." + target.getName() + "." + UUID.randomUUID() + ".part");
        try {
            Path texts = new Path(beside, "texts");
            Path typed = new Path(beside, "typed");
            Map<String, Object> seen = write(evaluated, texts, digits());
            Dataset<Row> kept =
                    evaluated.sparkSession().read().schema(evaluated.schema()).parquet(texts.toString());
            Map<String, Object> written = write(kept.select(columns(seen)), typed, List.of());
            if (!written.get(ROWS).equals(seen.get(ROWS))) {
                throw DataException.of(
                        "the report has %s rows, but only %s of them are in %s: every machine of the cluster must reach this"
                                + " folder under this name; choose one on a disk that they share",
                        seen.get(ROWS), written.get(ROWS), target.toUri().getPath());
            }
            replace(typed, new Path(beside, "before"));
        } finally {
            files.delete(beside, true);
        }
    }

    /** Refuses a folder that holds anything but a report written before. */
    private void checkTarget() throws IOException {
        if (!files.exists(target) || files.getFileStatus(target).isFile()) {
            return;
        }
        for (FileStatus file : files.listStatus(target)) {
            String name = file.getPath().getName();
            if (!file.isFile() || !name.matches("\\.?(part-|_SUCCESS).*")) {
                throw DataException.of(
                        "cannot write %s: it is a folder that holds '%s', which no report has written; choose another name",
                        target.toUri().getPath(), name);
            }
        }
    }

    private void replace(Path made, Path before) throws IOException {
        boolean old = files.exists(target);
        if (old && !files.rename(target, before)) {
            throw new IOException("what is there cannot be moved away");
        }
        if (!files.rename(made, target)) {
            if (old) {
                files.rename(before, target);
            }
            throw new IOException("the new folder cannot be given its name");
        }
    }

    /** Writes the rows; returns their number, and what else is to be found out about them. */
    private static Map<String, Object> write(Dataset<Row> rows, Path to, List<Column> more) {
        Observation observed = new Observation();
        rows.observe(observed, count(lit(1)).as(ROWS), more.toArray(Column[]::new))
                .write()
                .parquet(to.toString());
        try {
            return observed.getAsJava();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw DataException.of("interrupted before the rows were counted").withCause(e);
        }
    }

    /** Returns what determines the type of each column: the digits before and after the decimal point, and whether a value is a ratio. */
    private List<Column> digits() {
        List<Column> found = new ArrayList<>();
        for (int c = 0; c < distributed.columns().size(); c++) {
            Column exact = when(col(SparkReport.ratio(c)).equalTo(false), col(SparkReport.text(c)));
            found.add(max(length(regexp_extract(exact, "^-?0*([0-9]*)", 1))).as("whole" + c));
            found.add(max(length(regexp_extract(exact, "\\.([0-9]+)$", 1))).as("places" + c));
            found.add(bool_or(col(SparkReport.ratio(c))).as("ratio" + c));
        }
        return found;
    }

    private Column[] columns(Map<String, Object> seen) {
        List<Column> columns = new ArrayList<>();
        for (int p = 0; p < distributed.rowNames().size(); p++) {
            columns.add(col(SparkReport.part(p)).as(distributed.rowNames().get(p)));
        }
        for (int c = 0; c < distributed.columns().size(); c++) {
            Column text = col(SparkReport.text(c));
            int places = number(seen, "places" + c);
            int digits = Math.max(number(seen, "whole" + c), 1) + places;
            boolean status = distributed.columns().get(c).role() == Grid.ColumnRole.STATUS;
            columns.add((status || digits > MOST_DIGITS
                            ? text
                            : text.cast(
                                    Boolean.TRUE.equals(seen.get("ratio" + c))
                                            ? DataTypes.DoubleType
                                            : DataTypes.createDecimalType(digits, places)))
                    .as(distributed.columns().get(c).header()));
        }
        return columns.toArray(Column[]::new);
    }

    private static int number(Map<String, Object> seen, String name) {
        return seen.get(name) == null ? 0 : (Integer) seen.get(name);
    }
}
