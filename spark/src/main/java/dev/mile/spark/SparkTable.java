package dev.mile.spark;

import static org.apache.spark.sql.functions.col;
import static org.apache.spark.sql.functions.date_from_unix_date;
import static org.apache.spark.sql.functions.lit;
import static org.apache.spark.sql.functions.udf;
import static org.apache.spark.sql.functions.unix_date;
import static org.apache.spark.sql.functions.when;

import dev.mile.DataException;
import dev.mile.engine.SchemaCheck;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.apache.spark.sql.Column;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.api.java.UDF1;
import org.apache.spark.sql.types.DataType;
import org.apache.spark.sql.types.DataTypes;
import org.apache.spark.sql.types.DecimalType;
import org.apache.spark.sql.types.StructField;

/** The rows of a fact or lookup with the types that Mile knows, and an epoch day for each date role. */
final class SparkTable {
    private static final int LONG_DIGITS = 20;

    private final Dataset<Row> rows;
    private final Map<String, ValueType> types;
    private final Map<String, Digits> digits;
    private final List<String> columns;

    /** How many digits a decimal column has, and how many of them behind the point. */
    record Digits(int digits, int places) {}

    private SparkTable(
            Dataset<Row> rows, Map<String, ValueType> types, Map<String, Digits> digits, List<String> columns) {
        this.rows = rows;
        this.types = types;
        this.digits = digits;
        this.columns = columns;
    }

    /**
     * Returns a table.
     *
     * @param roles date columns by role; empty for a lookup
     * @param texts columns that are texts whatever they hold: keys
     * @param dayStarts when the day of a column with times begins
     */
    static SparkTable of(
            String name,
            Dataset<Row> source,
            Map<String, String> roles,
            Set<String> texts,
            ZoneId zone,
            LocalTime dayStarts) {
        Map<String, ValueType> types = new LinkedHashMap<>();
        Map<String, Digits> digits = new LinkedHashMap<>();
        List<Column> select = new ArrayList<>();
        List<String> columns = new ArrayList<>();
        for (StructField field : source.schema().fields()) {
            Column value = source.col(quoted(field.name()));
            DataType type = field.dataType();
            ValueType known = texts.contains(field.name()) ? ValueType.TEXT : type(type);
            types.put(field.name(), known);
            columns.add(field.name());
            if (known == ValueType.NUMBER) {
                Digits of = type instanceof DecimalType d
                        ? new Digits(d.precision(), d.scale())
                        : new Digits(LONG_DIGITS, 0);
                digits.put(field.name(), of);
                value = value.cast(DataTypes.createDecimalType(of.digits(), of.places()));
            } else if (known == ValueType.FLOATING) {
                value = finite(field.name(), value.cast(DataTypes.DoubleType));
            } else if (known == ValueType.DATE) {
                // a time has its day in the zone of the model, not in that of the session
                value = type.equals(DataTypes.TimestampType)
                        ? date_from_unix_date(day(value, type, zone, LocalTime.MIDNIGHT))
                        : value.cast(DataTypes.DateType);
            } else {
                Column text = value.cast(DataTypes.StringType);
                value = when(text.notEqual(lit("")), text);
            }
            select.add(value.as(field.name()));
        }
        SchemaCheck.roles(name, roles, types.keySet(), "its table");
        roles.forEach((role, column) -> {
            DataType type = source.schema().apply(column).dataType();
            select.add(day(source.col(quoted(column)), type, zone, dayStarts).as(dayOf(role)));
            columns.add(dayOf(role));
        });
        return new SparkTable(source.select(select.toArray(Column[]::new)), types, digits, columns);
    }

    private static String quoted(String name) {
        return "`" + name.replace("`", "``") + "`";
    }

    private static ValueType type(DataType type) {
        if (type instanceof DecimalType
                || type.equals(DataTypes.ByteType)
                || type.equals(DataTypes.ShortType)
                || type.equals(DataTypes.IntegerType)
                || type.equals(DataTypes.LongType)) {
            return ValueType.NUMBER;
        }
        if (type.equals(DataTypes.DoubleType) || type.equals(DataTypes.FloatType)) {
            return ValueType.FLOATING;
        }
        return type.equals(DataTypes.DateType)
                        || type.equals(DataTypes.TimestampType)
                        || type.equals(DataTypes.TimestampNTZType)
                ? ValueType.DATE
                : ValueType.TEXT;
    }

    private static Column finite(String name, Column value) {
        UDF1<Double, Double> checked = number -> {
            if (number != null && !Double.isFinite(number)) {
                throw DataException.of("the column '%s' holds an infinite number or NaN; correct the data", name);
            }
            return number;
        };
        return udf(checked, DataTypes.DoubleType).apply(value);
    }

    private static Column day(Column value, DataType type, ZoneId zone, LocalTime dayStarts) {
        long seconds = dayStarts.toSecondOfDay();
        if (type.equals(DataTypes.DateType)) {
            return unix_date(value);
        }
        if (type.equals(DataTypes.TimestampType)) {
            String id = zone.getId();
            UDF1<java.sql.Timestamp, Integer> day = at -> at == null
                    ? null
                    : EpochDays.of(at.toInstant()
                            .atZone(ZoneId.of(id))
                            .toLocalDateTime()
                            .minusSeconds(seconds)
                            .toLocalDate());
            return udf(day, DataTypes.IntegerType).apply(value);
        }
        if (type.equals(DataTypes.TimestampNTZType)) {
            UDF1<java.time.LocalDateTime, Integer> day = at ->
                    at == null ? null : EpochDays.of(at.minusSeconds(seconds).toLocalDate());
            return udf(day, DataTypes.IntegerType).apply(value);
        }
        return udf((UDF1<String, Integer>) SparkTable::dayOfText, DataTypes.IntegerType)
                .apply(value.cast(DataTypes.StringType));
    }

    /** Returns the epoch day of a text; null for a blank. */
    static Integer dayOfText(String text) {
        return text == null || text.isBlank()
                ? null
                : EpochDays.parse(text.strip()).map(EpochDays::of).orElse(Table.UNREADABLE);
    }

    Map<String, ValueType> types() {
        return types;
    }

    Digits digits(String column) {
        return digits.get(column);
    }

    Dataset<Row> rows() {
        return rows;
    }

    /** Returns the name of a column behind an alias, quoted. */
    static String columnOf(String alias, String column) {
        return quoted(alias + column);
    }

    /** Returns the name of the column that holds the epoch day of a role. */
    static String dayOf(String role) {
        return "@" + role;
    }

    /** Returns the rows with an alias before the name of each column. */
    Dataset<Row> named(String alias) {
        return rows.select(columns.stream()
                .map(column -> col(quoted(column)).as(alias + column))
                .toArray(Column[]::new));
    }
}
