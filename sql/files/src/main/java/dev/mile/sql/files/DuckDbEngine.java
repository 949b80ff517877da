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
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.ValueType;
import dev.mile.internal.InterruptibleLock;
import dev.mile.sources.SourceFile;
import dev.mile.sql.duckdb.DayTableWriter;
import dev.mile.sql.duckdb.EmbeddedDatabase;
import dev.mile.sql.parquet.ParquetFooter;
import dev.mile.sql.parquet.ParquetQuestion;
import dev.mile.sql.parquet.ParquetTotals;
import dev.mile.sql.parquet.TextValue;
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
import java.util.Queue;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.function.IntToLongFunction;
import org.jspecify.annotations.Nullable;

/**
 * The engine for files: CSV, Parquet and JSON, read and added up by DuckDB inside this process; sums and counts over Parquet, by texts,
 * are read without it. Sources are read when they are
 * first asked for; nothing is written beside them.
 */
@SuppressWarnings("exports") // users see an Engine; what it shares with other engines that ask SQL is hidden
public final class DuckDbEngine extends SqlEngine {
    /** Keys of a lookup beyond which the database joins faster. */
    private static final int MOST_KEYS = 100_000;

    private final InterruptibleLock lock = new InterruptibleLock();
    private final Optional<ChosenFiles> chosen;
    private final FileLimits limits;
    private EmbeddedDatabase database;
    private @Nullable SourcePrefetch prefetch;
    /** Statements that make views, which the database has not run yet. */
    private final Queue<String> views = new ConcurrentLinkedQueue<>();
    /** By fact, the footers of its files, where they can be read without the database. */
    private final Map<String, List<ParquetFooter>> footers = new ConcurrentHashMap<>();

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
            while (!views.isEmpty()) {
                database.run(views.peek());
                views.remove();
            }
            return database;
        });
    }

    /** Files that say all that it takes are read without the database, unless it is asked for more later. */
    @Override
    protected Relation load(Fact fact, Source source) {
        DaySql days = new DaySql(schema().zone(), fact.dayStarts());
        List<ParquetFooter> known = readFooters(fact, source);
        footers.put(fact.name(), known);
        Optional<TypedView> view = known.isEmpty()
                ? Optional.empty()
                : SourceLoader.view(fact.name(), source, known, chosen(fact), fact.dates(), days);
        if (view.isPresent()) {
            views.add(view.get().statement());
            return view.get().relation();
        }
        EmbeddedDatabase opened = database();
        prefetch(fact);
        return opened.onOneConnection(one -> new SourceLoader(one, schema().zone(), chosen(fact), known)
                .load(fact.name(), source, fact.dates(), fact.textColumns(), fact.dayStarts()));
    }

    /** The first file that is loaded takes others with it. */
    private void prefetch(Fact loaded) {
        lock.during(() -> {
            if (prefetch == null && limits.mostThreads() > 1) {
                prefetch = SourcePrefetch.begin(schema(), loaded.name(), this::columns);
            }
            return prefetch;
        });
    }

    /** Returns the footers of the files of a fact; none where they can be told only by the database, or are no Parquet. */
    private List<ParquetFooter> readFooters(Fact fact, Source source) {
        if (!SourceLoader.isTyped((Source.Files) source)) {
            return List.of();
        }
        String pattern = ((Source.Files) source).pattern();
        List<Path> files =
                chosen(fact).isEmpty() && SourceFiles.known(pattern) ? SourceFiles.of(pattern) : chosen(fact);
        // the database takes names of folders such as year=2026 for columns
        return files.stream().anyMatch(file -> file.toString().contains("="))
                ? List.of()
                : ParquetFooter.of(files).orElse(List.of());
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
        // a lookup is read once, however many conditions and groups need it
        Map<Operand.Field, Optional<TextValue>> texts = new HashMap<>();
        return ParquetQuestion.of(
                        footers.getOrDefault(fact.name(), List.of()),
                        fact,
                        fact.resolveFilter(columns(fact.name())),
                        request,
                        placed,
                        field -> texts.computeIfAbsent(field, known -> text(fact, known)))
                .flatMap(question -> ParquetTotals.of(question, limits.mostThreads(), limits.progress()))
                .orElseGet(() -> new DuckDbTotalsCursor(database(), statement, request, placed));
    }

    /** Returns the text that a column holds, of the fact or of a lookup that hangs on it; empty where it holds something else. */
    private Optional<TextValue> text(Fact fact, Operand.Field field) {
        if (field.named().isPresent()
                || field.type() != ValueType.TEXT
                || field.path().size() > 1) {
            return Optional.empty();
        }
        if (field.path().isEmpty()) {
            return Optional.of(new TextValue(field.column(), null));
        }
        return textsByKey(fact.lookupAt(field.path(), schema().lookups()), field.column(), MOST_KEYS)
                .map(byKey -> new TextValue(field.path().get(0), byKey));
    }

    private List<Path> chosen(Fact fact) {
        return chosen.filter(c -> c.fact().equals(fact.name()))
                .map(ChosenFiles::files)
                .orElse(List.of());
    }

    @Override
    public void close() {
        if (prefetch != null) {
            prefetch.end();
        }
        if (database != null) {
            database.close();
        }
    }
}
