package dev.mile.sql.parquet;

import dev.mile.calendar.DateRange;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.List;
import java.util.Optional;
import org.apache.parquet.format.RowGroup;
import org.apache.parquet.format.Statistics;

/**
 * What every row group of Parquet files says of a column.
 *
 * @param neverNull no row is null
 * @param neverEmpty the smallest value of every row group is known, and is no empty text
 * @param inDictionary every row group holds nothing but a dictionary and numbers in it
 * @param dates the first to the last date, where the smallest and the largest value of every row group are dates
 * @param daysOfRowGroup how many days lie between the first and the last date of a row group, on average
 */
public record ColumnStatistics(
        boolean neverNull, boolean neverEmpty, boolean inDictionary, Optional<DateRange> dates, double daysOfRowGroup) {
    private static final ColumnStatistics UNKNOWN = new ColumnStatistics(false, false, false, Optional.empty(), 0);

    /** Returns what files say of a column; nothing of one that cannot be read here. */
    public static ColumnStatistics of(List<ParquetFooter> footers, String column) {
        boolean neverNull = true;
        boolean neverEmpty = true;
        boolean inDictionary = true;
        boolean hasDates = true;
        int first = Integer.MAX_VALUE;
        int last = Integer.MIN_VALUE;
        double days = 0;
        int ranges = 0;
        try {
            for (ParquetFooter footer : footers) {
                ParquetColumn found = ParquetColumn.named(footer, column);
                for (RowGroup group : footer.rowGroups()) {
                    neverNull &= found.isFull(group);
                    inDictionary &= found.isInDictionary(group);
                    Statistics statistics = found.in(group).getStatistics();
                    boolean hasRange = statistics != null && statistics.isSetMin_value() && statistics.isSetMax_value();
                    neverEmpty &= hasRange && statistics.getMin_value().length > 0;
                    hasDates &= hasRange && found.content() == ParquetColumn.Content.DATE;
                    if (hasDates) {
                        int smallest = int32(statistics.getMin_value());
                        int largest = int32(statistics.getMax_value());
                        first = Math.min(first, smallest);
                        last = Math.max(last, largest);
                        days += (double) largest - smallest;
                        ranges++;
                    }
                }
            }
        } catch (UnsupportedParquetException e) {
            return UNKNOWN;
        }
        return new ColumnStatistics(
                neverNull,
                neverEmpty,
                inDictionary,
                hasDates && ranges > 0 ? Optional.of(DateRange.ofEpochDays(first, last)) : Optional.empty(),
                ranges == 0 ? 0 : days / ranges);
    }

    private static int int32(byte[] value) throws UnsupportedParquetException {
        if (value.length != Integer.BYTES) {
            throw new UnsupportedParquetException("a smallest or largest value of another length");
        }
        return ByteBuffer.wrap(value).order(ByteOrder.LITTLE_ENDIAN).getInt();
    }
}
