package dev.mile.sql.parquet;

import java.util.EnumSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.apache.parquet.format.FieldRepetitionType;
import org.apache.parquet.format.SchemaElement;
import org.apache.parquet.format.Type;

/** The types of columns, as the embedded database calls them. */
public final class ParquetTypes {
    /** Types that mean to the database what they are called. */
    private static final Set<Type> PLAIN = EnumSet.of(Type.BOOLEAN, Type.DOUBLE, Type.FLOAT);

    private ParquetTypes() {}

    /**
     * Returns the columns that all files have alike, each with its type in the words of the database; empty if files differ, or have columns
     * of other types than dates, texts, truth values, floating and exact numbers, which the database knows better.
     */
    public static Optional<Map<String, String>> of(List<ParquetFooter> footers) {
        Map<String, String> types = new LinkedHashMap<>();
        Set<String> names = new HashSet<>();
        try {
            for (SchemaElement column : columns(footers.get(0))) {
                types.put(column.getName(), type(column));
                names.add(column.getName().toLowerCase(Locale.ROOT));
            }
            for (ParquetFooter footer : footers) {
                if (!columns(footer).equals(columns(footers.get(0)))) {
                    return Optional.empty();
                }
            }
        } catch (UnsupportedParquetException e) {
            return Optional.empty();
        }
        // the database takes names in any case for the same
        return names.size() == columns(footers.get(0)).size() ? Optional.of(types) : Optional.empty();
    }

    private static List<SchemaElement> columns(ParquetFooter footer) {
        return footer.schema().subList(1, footer.schema().size());
    }

    private static String type(SchemaElement column) throws UnsupportedParquetException {
        if (column.isSetNum_children() || column.getRepetition_type() == FieldRepetitionType.REPEATED) {
            throw new UnsupportedParquetException("columns are nested");
        }
        boolean isPlain = !column.isSetLogicalType() && !column.isSetConverted_type();
        if (isPlain && PLAIN.contains(column.getType())) {
            return column.getType().name();
        }
        return switch (ParquetColumn.content(column)) {
            case DATE -> "DATE";
            case TEXT -> "VARCHAR";
            case NUMBER -> "DECIMAL";
            case OTHER -> throw new UnsupportedParquetException("values of another type");
        };
    }
}
