package dev.mile.spark;

import static org.apache.spark.sql.functions.coalesce;
import static org.apache.spark.sql.functions.col;
import static org.apache.spark.sql.functions.count;
import static org.apache.spark.sql.functions.expr;
import static org.apache.spark.sql.functions.length;
import static org.apache.spark.sql.functions.lit;
import static org.apache.spark.sql.functions.max;
import static org.apache.spark.sql.functions.regexp_extract;
import static org.apache.spark.sql.functions.trim;
import static org.apache.spark.sql.functions.when;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.engine.Source;
import dev.mile.internal.TextTypes;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.apache.spark.sql.Column;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.types.DataTypes;

/**
 * Reads the files of a model's sources as frames. Parquet has its types; text files are read as texts and typed by what all their
 * values are, so that amounts are exact decimals and codes such as 007 stay codes.
 */
final class SourceFrames {
    private static final String NUMBER = "^" + TextTypes.NUMBER + "$";
    private static final String DATE = "^" + TextTypes.DATE + "$";
    private static final int MOST_DIGITS = 38;

    private SourceFrames() {}

    static Dataset<Row> of(SparkSession spark, Source source) {
        if (source instanceof Source.InWarehouse) {
            String rows = source instanceof Source.WarehouseTable table
                    ? "the table '" + table.table() + "' is"
                    : "the rows of a query are";
            throw ModelException.of("%s in a warehouse, which Spark does not read; name files for --engine spark", rows)
                    .withLocationOf(source);
        }
        if (!((Source.Files) source).format().isPlain()) {
            throw ModelException.of(
                            "Spark reads files with plain numbers and ISO dates only; leave --engine spark out, or have the file written so")
                    .withLocationOf(source);
        }
        String location = ((Source.Files) source).pattern();
        String plain = location.toLowerCase(Locale.ROOT);
        plain = plain.endsWith(".gz") ? plain.substring(0, plain.length() - 3) : plain;
        try {
            if (plain.endsWith(".parquet")) {
                return spark.read().parquet(location);
            }
            if (plain.endsWith(".csv") || plain.endsWith(".tsv")) {
                return typed(spark.read()
                        .option("header", "true")
                        .option("mode", "FAILFAST")
                        .option("multiLine", "true")
                        .option("escape", "\"")
                        .option("sep", plain.endsWith(".tsv") ? "\t" : ",")
                        .csv(location));
            }
        } catch (MileException e) {
            throw e.withLocationOf(source);
        } catch (Exception e) {
            // Scala throws checked exceptions that it does not declare
            throw DataException.of(
                            "%s cannot be read: %s",
                            location,
                            String.valueOf(e.getMessage()).lines().findFirst().orElse(""))
                    .withCause(e)
                    .withLocationOf(source);
        }
        throw ModelException.of(
                        "'%s' is no file that Spark reads here; expected an ending .parquet, .csv or .tsv", location)
                .withLocationOf(source);
    }

    /** Gives columns of texts the types of all their values: numbers, dates, or texts. */
    private static Dataset<Row> typed(Dataset<Row> texts) {
        List<Column> asked = new ArrayList<>();
        for (String name : texts.columns()) {
            Column value = value(name);
            Column number = value.rlike(NUMBER);
            asked.add(count(value));
            asked.add(count(when(number, lit(1))));
            asked.add(count(when(
                    value.rlike(DATE)
                            .and(expr("try_cast(trim(" + quoted(name) + ") AS DATE)")
                                    .isNotNull()),
                    lit(1))));
            asked.add(coalesce(max(length(regexp_extract(value, NUMBER, 1))), lit(0)));
            asked.add(coalesce(max(length(regexp_extract(value, NUMBER, 3))), lit(0)));
        }
        Row all = texts.agg(asked.get(0), asked.subList(1, asked.size()).toArray(Column[]::new))
                .first();
        List<Column> select = new ArrayList<>();
        for (int c = 0; c < texts.columns().length; c++) {
            String name = texts.columns()[c];
            long values = all.getLong(5 * c);
            int places = all.getInt(5 * c + 4);
            int digits = Math.max(all.getInt(5 * c + 3), 1) + places;
            boolean number = values > 0 && all.getLong(5 * c + 1) == values;
            boolean date = values > 0 && all.getLong(5 * c + 2) == values;
            if (number && digits > MOST_DIGITS) {
                throw DataException.of(
                        "the column '%s' has numbers of %d digits; at most %d can be held exactly",
                        name, digits, MOST_DIGITS);
            }
            Column typed = number
                    ? value(name).cast(DataTypes.createDecimalType(digits, places))
                    : date ? value(name).cast(DataTypes.DateType) : col(quoted(name));
            select.add(typed.as(name));
        }
        return texts.select(select.toArray(Column[]::new));
    }

    private static Column value(String name) {
        Column text = trim(col(quoted(name)));
        return when(text.notEqual(lit("")), text);
    }

    private static String quoted(String name) {
        return "`" + name.replace("`", "``") + "`";
    }
}
