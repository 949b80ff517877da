package dev.mile.sql.files;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DayContext;
import dev.mile.engine.Source;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.UnreadValues;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.ValueType;
import dev.mile.internal.InterruptibleLock;
import dev.mile.sources.SourceFile;
import dev.mile.sql.duckdb.DayTableWriter;
import dev.mile.sql.duckdb.EmbeddedDatabase;
import dev.mile.sql.parquet.ParquetQuestion;
import dev.mile.sql.parquet.ParquetTotals;
import dev.mile.sql.query.DayTable;
import dev.mile.sql.query.Relation;
import dev.mile.sql.query.SqlEngine;
import dev.mile.sql.query.TotalsStatement;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntToLongFunction;

/**
 * The engine for files: CSV, Parquet and JSON, read and added up by DuckDB inside this process. Sources are read when they are
 * first asked for; nothing is written beside them.
 */
@SuppressWarnings("exports") // users see an Engine; what it shares with other engines that ask SQL is hidden
public final class DuckDbEngine extends SqlEngine {
    private final InterruptibleLock lock = new InterruptibleLock();
    private final Optional<ChosenFiles> chosen;
    private final FileLimits limits;
    private EmbeddedDatabase database;
    private final Map<DayTable.Rows, String> dayTables = new HashMap<>();

    /** The only files of a fact that are read. */
    private record ChosenFiles(String fact, List<Path> files) {}

    private DuckDbEngine(DataSchema schema, Optional<ChosenFiles> chosen, FileLimits limits) {
        super(schema, new DuckDbDialect());
        this.chosen = chosen;
        this.limits = limits;
    }

    /**
     * {@return an engine over the files of a schema}
     *
     * @param schema the facts and lookups
     */
    public static DuckDbEngine over(DataSchema schema) {
        return over(schema, FileLimits.NONE);
    }

    /**
     * {@return an engine over the files of a schema that takes no more of the machine than it may}
     *
     * @param schema the facts and lookups
     * @param limits how much memory and disk reading may take
     */
    public static DuckDbEngine over(DataSchema schema, FileLimits limits) {
        requireNonNull(schema, "schema is null");
        requireNonNull(limits, "limits is null");
        return new DuckDbEngine(schema, Optional.empty(), limits);
    }

    /**
     * {@return an engine that reads only some of the Parquet files of one fact}
     *
     * @param schema the facts and lookups
     * @param fact the fact
     * @param files the files
     */
    public static DuckDbEngine overFiles(DataSchema schema, String fact, List<Path> files) {
        requireNonNull(schema, "schema is null");
        requireNonNull(fact, "fact is null");
        requireNonNull(files, "files is null");
        return new DuckDbEngine(schema, Optional.of(new ChosenFiles(fact, files)), FileLimits.NONE);
    }

    /** Loads the embedded database, which takes about as long as reading a model, so that who asks later need not wait. */
    public static void warmUp() {
        EmbeddedDatabase.open().close();
    }

    @Override
    protected EmbeddedDatabase database() {
        return lock.during(() -> {
            if (database == null) {
                database = EmbeddedDatabase.open();
                limits.apply(database);
            }
            return database;
        });
    }

    @Override
    protected Relation load(Fact fact, Source source) {
        return database().onOneConnection(one -> new SourceLoader(one, schema().zone(), chosen(fact))
                .load(fact.name(), source, fact.dates(), fact.textColumns(), fact.dayStarts()));
    }

    @Override
    protected Relation load(Lookup lookup, Source source) {
        return database().onOneConnection(one -> new SourceLoader(one, schema().zone())
                .load(lookup.name(), source, Map.of(), lookup.textColumns(), LocalTime.MIDNIGHT));
    }

    @Override
    public Optional<UnreadValues> unread(String table, String column, ValueType as) {
        return schema().sources().get(table) instanceof Source.Files files
                ? SourceLoader.unread(files, column, as)
                : Optional.empty();
    }

    /** A row of a file that is written in a way of its own is shown as it stands there. */
    @Override
    public Optional<String> example(String name, String role, long day) {
        return schema().sources().get(name) instanceof Source.Files files
                        && (!files.format().isPlain() || SourceFile.isWorkbook(files.pattern()))
                ? SourceLoader.row(files, schema().fact(name).column(role), LocalDate.ofEpochDay(day))
                        .or(() -> super.example(name, role, day))
                : super.example(name, role, day);
    }

    /** The files tell where it stands, which their rows no longer do. */
    @Override
    protected String unreadable(Fact fact, String role, String example) {
        return unread(fact.name(), fact.column(role), ValueType.DATE)
                .map(UnreadValues::example)
                .orElseGet(() -> super.unreadable(fact, role, example));
    }

    /** A table is written once for each set of working weeks; sessions that ask at once may have weeks of their own. */
    @Override
    protected String days(Map<String, IntToLongFunction> weeks, DayContext days) {
        return lock.during(() -> {
            String table = dayTables.computeIfAbsent(DayTable.rows(days, weeks), rows -> {
                String name = "mile days " + dayTables.size();
                DayTableWriter.write(database(), name, rows);
                return name;
            });
            return DayTable.clause(table);
        });
    }

    @Override
    protected TotalsCursor totals(TotalsStatement statement, TotalsRequest request, DateRange placed) {
        Fact fact = schema().fact(request.fact());
        return ParquetQuestion.of(parquet(fact), fact, request, placed)
                .flatMap(question -> ParquetTotals.of(question, limits.mostThreads(), limits.progress()))
                .orElseGet(() -> new DuckDbTotalsCursor(database(), statement, request, placed));
    }

    /** Returns the files of a fact that can be read without the database; none where it is needed. */
    private List<Path> parquet(Fact fact) {
        if (!(schema().requireSource(fact.name()) instanceof Source.Files source) || !SourceLoader.isTyped(source)) {
            return List.of();
        }
        List<Path> files = chosen(fact);
        List<Path> all =
                files.isEmpty() && SourceFiles.known(source.pattern()) ? SourceFiles.of(source.pattern()) : files;
        // the database takes names of folders such as year=2026 for columns
        return all.stream().anyMatch(file -> file.toString().contains("=")) ? List.of() : all;
    }

    private List<Path> chosen(Fact fact) {
        return chosen.filter(c -> c.fact().equals(fact.name()))
                .map(ChosenFiles::files)
                .orElse(List.of());
    }

    @Override
    public void close() {
        if (database != null) {
            database.close();
        }
    }
}
