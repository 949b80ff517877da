package dev.mile.sql.files;

import static java.util.Objects.requireNonNull;

import dev.mile.engine.Source;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.EmbeddedDatabase;
import dev.mile.sql.query.Relation;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What a data file holds, for a first draft of a model.
 *
 * @param file the file
 * @param rows how many rows
 * @param columns its columns
 */
public record FileProfile(Path file, long rows, List<Column> columns) {
    /**
     * A column.
     *
     * @param name its name
     * @param type what its values are; a column that is mostly dates or times counts as DATE
     * @param distinct how many different values it has
     * @param first the first date; null where it has none
     * @param last the last date; null where it has none
     * @param spread whether the dates are spread over their range rather than gathered at one end
     */
    public record Column(String name, ValueType type, long distinct, LocalDate first, LocalDate last, boolean spread) {}

    /**
     * Looks at a file.
     *
     * @param file the file
     * @return what was compiled
     */
    public static FileProfile of(Path file) {
        requireNonNull(file, "file is null");
        try (EmbeddedDatabase database = EmbeddedDatabase.open()) {
            Relation relation = new SourceLoader(database, ZoneId.of("UTC"))
                    .load("data", Source.files(file.toString()), Map.of(), Set.of(), LocalTime.MIDNIGHT);
            long rows = database.query("SELECT count(*) FROM " + relation.sql(), row -> row.getLong(1))
                    .get(0);
            List<Column> columns = new ArrayList<>();
            relation.types().forEach((name, type) -> columns.add(column(database, relation, name, type)));
            return new FileProfile(file, rows, columns);
        }
    }

    private static Column column(Database database, Relation relation, String name, ValueType type) {
        String quoted = Sql.name(name);
        String day = "TRY_CAST(TRY_CAST(" + quoted + " AS TIMESTAMP) AS DATE) - DATE '1970-01-01'";
        boolean mayBeDate = type == ValueType.DATE || type == ValueType.TEXT;
        String dates = mayBeDate ? day : "NULL::INTEGER";
        return database.query(
                        "SELECT count(" + quoted + "), count(DISTINCT " + quoted
                                + "), count(d), min(d), max(d), quantile_disc(d, 0.1),"
                                + " quantile_disc(d, 0.9) FROM (SELECT " + quoted + ", " + dates + " AS d FROM "
                                + relation.sql() + ")",
                        row -> {
                            // a few broken dates do not make a column of texts
                            boolean isDate = row.getLong(3) > 0 && row.getLong(3) * 10 >= row.getLong(1) * 9;
                            ValueType seen = isDate ? ValueType.DATE : type == ValueType.DATE ? ValueType.TEXT : type;
                            return new Column(
                                    name,
                                    seen,
                                    row.getLong(2),
                                    isDate ? EpochDays.toDate(row.getInt(4)) : null,
                                    isDate ? EpochDays.toDate(row.getInt(5)) : null,
                                    isDate && (row.getInt(7) - row.getInt(6)) * 2 > row.getInt(5) - row.getInt(4));
                        })
                .get(0);
    }
}
