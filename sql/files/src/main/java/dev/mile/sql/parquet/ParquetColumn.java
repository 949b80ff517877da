package dev.mile.sql.parquet;

import java.util.List;
import org.apache.parquet.format.ColumnChunk;
import org.apache.parquet.format.ColumnMetaData;
import org.apache.parquet.format.ConvertedType;
import org.apache.parquet.format.Encoding;
import org.apache.parquet.format.FieldRepetitionType;
import org.apache.parquet.format.LogicalType;
import org.apache.parquet.format.PageType;
import org.apache.parquet.format.RowGroup;
import org.apache.parquet.format.SchemaElement;
import org.apache.parquet.format.Statistics;
import org.apache.parquet.format.Type;

/**
 * A column of a file whose values are read here.
 *
 * @param index its place among the columns
 * @param content what its values are
 * @param type how they are stored
 * @param scale how many digits follow the decimal point
 * @param isOptional whether rows may have none
 */
record ParquetColumn(int index, Content content, Type type, int scale, boolean isOptional) {
    /** What the values of a column are. */
    enum Content {
        /** Days since 1970-01-01. */
        DATE,
        /** Digits of exact decimals, or whole numbers. */
        NUMBER,
        /** Texts in UTF-8. */
        TEXT,
        /** What is not read here. */
        OTHER
    }

    /**
     * Returns the column with a name.
     *
     * @throws UnsupportedParquetException if there is none, or it holds something else
     */
    static ParquetColumn of(ParquetFooter footer, String name, Content content) throws UnsupportedParquetException {
        ParquetColumn column = named(footer, name);
        if (content != column.content()) {
            throw new UnsupportedParquetException("the column holds something else");
        }
        return column;
    }

    /**
     * Returns the column with a name, whatever it holds.
     *
     * @throws UnsupportedParquetException if there is none, or columns are nested
     */
    static ParquetColumn named(ParquetFooter footer, String name) throws UnsupportedParquetException {
        List<SchemaElement> columns = footer.schema().subList(1, footer.schema().size());
        int found = -1;
        for (int c = 0; c < columns.size(); c++) {
            SchemaElement column = columns.get(c);
            if (column.isSetNum_children() || !column.isSetType()) {
                throw new UnsupportedParquetException("columns are nested");
            }
            // the database takes names in any case for the same
            if (column.getName().equalsIgnoreCase(name)) {
                if (found >= 0 || !column.getName().equals(name)) {
                    throw new UnsupportedParquetException("names differ in their case");
                }
                found = c;
            }
        }
        if (found < 0 || columns.get(found).getRepetition_type() == FieldRepetitionType.REPEATED) {
            throw new UnsupportedParquetException("there is no such column");
        }
        SchemaElement column = columns.get(found);
        return new ParquetColumn(
                found,
                content(column),
                column.getType(),
                isDecimal(column) ? scale(column) : 0,
                column.getRepetition_type() == FieldRepetitionType.OPTIONAL);
    }

    private static boolean isDecimal(SchemaElement column) {
        return column.isSetLogicalType()
                ? column.getLogicalType().isSetDECIMAL()
                : column.getConverted_type() == ConvertedType.DECIMAL;
    }

    private static int scale(SchemaElement column) {
        return column.isSetLogicalType() ? column.getLogicalType().getDECIMAL().getScale() : column.getScale();
    }

    /** Returns what the values of a column are. */
    static Content content(SchemaElement column) {
        boolean isWhole = column.getType() == Type.INT32 || column.getType() == Type.INT64;
        LogicalType logical = column.getLogicalType();
        ConvertedType converted = column.getConverted_type();
        if (column.getType() == Type.BYTE_ARRAY
                && (logical == null ? converted == ConvertedType.UTF8 : logical.isSetSTRING())) {
            return Content.TEXT;
        }
        if (column.getType() == Type.INT32
                && (logical == null ? converted == ConvertedType.DATE : logical.isSetDATE())) {
            return Content.DATE;
        }
        if (isWhole && (isDecimal(column) || isSigned(logical, converted))) {
            return Content.NUMBER;
        }
        return Content.OTHER;
    }

    private static boolean isSigned(LogicalType logical, ConvertedType converted) {
        if (logical != null) {
            return logical.isSetINTEGER() && logical.getINTEGER().isIsSigned();
        }
        return converted == null
                || converted == ConvertedType.INT_8
                || converted == ConvertedType.INT_16
                || converted == ConvertedType.INT_32
                || converted == ConvertedType.INT_64;
    }

    /** Returns what a row group says of the column. */
    ColumnMetaData in(RowGroup group) throws UnsupportedParquetException {
        ColumnChunk chunk = group.getColumns().get(index);
        if (!chunk.isSetMeta_data() || chunk.isSetFile_path() || chunk.isSetCrypto_metadata()) {
            throw new UnsupportedParquetException("the column lies in another file, or is encrypted");
        }
        return chunk.getMeta_data();
    }

    /** Returns whether the row group says that all its rows have a value. */
    boolean isFull(RowGroup group) throws UnsupportedParquetException {
        return !isOptional || blanks(group) == 0;
    }

    /** Returns whether the row group says that none of its rows has a value. */
    boolean isBlank(RowGroup group) throws UnsupportedParquetException {
        return isOptional && blanks(group) == group.getNum_rows();
    }

    /** Returns whether the row group says that its values are in a dictionary, all of them. */
    boolean isInDictionary(RowGroup group) throws UnsupportedParquetException {
        ColumnMetaData column = in(group);
        if (!column.isSetDictionary_page_offset()) {
            return false;
        }
        if (column.isSetEncoding_stats()) {
            return column.getEncoding_stats().stream()
                    .filter(pages -> pages.getPage_type() != PageType.DICTIONARY_PAGE)
                    .allMatch(pages -> ofDictionary(pages.getEncoding()));
        }
        return column.getEncodings().stream().anyMatch(ParquetColumn::ofDictionary)
                && !column.getEncodings().contains(Encoding.PLAIN);
    }

    /** Returns whether values are numbers of entries in a dictionary. */
    static boolean ofDictionary(Encoding encoding) {
        return encoding == Encoding.PLAIN_DICTIONARY || encoding == Encoding.RLE_DICTIONARY;
    }

    /** Returns how many rows have no value; -1 where the row group does not say so. */
    private long blanks(RowGroup group) throws UnsupportedParquetException {
        Statistics statistics = in(group).getStatistics();
        return statistics != null && statistics.isSetNull_count() ? statistics.getNull_count() : -1;
    }
}
