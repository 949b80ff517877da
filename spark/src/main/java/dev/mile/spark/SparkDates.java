package dev.mile.spark;

import dev.mile.calendar.DateRange;
import dev.mile.dimension.ColumnType;
import dev.mile.dimension.DateColumn;
import dev.mile.dimension.DateDimension;
import java.math.BigDecimal;
import java.sql.Date;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.RowFactory;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.types.DataType;
import org.apache.spark.sql.types.DataTypes;
import org.apache.spark.sql.types.StructField;

/** The date dimension as a data frame, to be joined or written as a table. */
public final class SparkDates {
    private static final DataType DECIMAL = DataTypes.createDecimalType(18, 6);

    private SparkDates() {}

    /** Returns a row for each day with a column for each attribute, typed as the dimension says. */
    public static Dataset<Row> frame(SparkSession spark, DateDimension dimension) {
        List<DateColumn> columns = dimension.columns();
        StructField[] fields = columns.stream()
                .map(c -> DataTypes.createStructField(c.name(), type(c.type()), true))
                .toArray(StructField[]::new);
        List<Row> rows = new ArrayList<>();
        DateRange range = dimension.range();
        for (int day = range.firstEpochDay(); day <= range.lastEpochDay(); day++) {
            Object[] values = new Object[fields.length];
            for (int c = 0; c < values.length; c++) {
                values[c] = value(columns.get(c).value(day), fields[c].dataType());
            }
            rows.add(RowFactory.create(values));
        }
        return spark.createDataFrame(rows, DataTypes.createStructType(fields));
    }

    private static DataType type(ColumnType type) {
        return switch (type) {
            case DATE -> DataTypes.DateType;
            case INTEGER -> DataTypes.IntegerType;
            case NUMBER -> DECIMAL;
            case BOOLEAN -> DataTypes.BooleanType;
            default -> DataTypes.StringType;
        };
    }

    private static Object value(Object value, DataType type) {
        if (value == null) {
            return null;
        }
        if (value instanceof LocalDate date) {
            return Date.valueOf(date);
        }
        if (type.equals(DECIMAL)) {
            return new BigDecimal(value.toString());
        }
        return type.equals(DataTypes.StringType) ? value.toString() : value;
    }
}
