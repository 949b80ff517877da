package dev.mile.engine.memory;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.SchemaOwner;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.rows.FactRows;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.internal.InterruptibleLock;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The engine for rows that a Java program hands over as {@link Table}s: {@code MemoryEngine.over(project).rows("sales", rows)}. Facts
 * and lookups are those of the schema. Safe for use by several threads once it has its rows.
 */
public final class MemoryEngine implements Engine {
    private final InterruptibleLock lock = new InterruptibleLock();
    private final DataSchema schema;
    private final Map<String, Table> tables = new ConcurrentHashMap<>();
    private final Map<String, FactRows> rowsByFact = new HashMap<>();
    private int mostThreads = Runtime.getRuntime().availableProcessors();

    private MemoryEngine(DataSchema schema) {
        this.schema = schema;
    }

    /**
     * {@return an engine over a project that has no rows yet}
     *
     * @param project the project
     */
    public static MemoryEngine over(SchemaOwner project) {
        return over(requireNonNull(project, "project is null").schema());
    }

    /**
     * {@return an engine over a schema that has no rows yet}
     *
     * @param schema the facts and lookups
     */
    public static MemoryEngine over(DataSchema schema) {
        return new MemoryEngine(requireNonNull(schema, "schema is null"));
    }

    /**
     * Hands over the rows of a fact or lookup.
     *
     * @param name the name
     * @param rows its rows
     * @return this engine
     * @throws MileException if the schema has neither under the name, or its rows were given before
     */
    public MemoryEngine rows(String name, Table rows) {
        requireNonNull(name, "name is null");
        requireNonNull(rows, "rows is null");
        if (!schema.facts().containsKey(name) && !schema.lookups().containsKey(name)) {
            Set<String> known = new LinkedHashSet<>(schema.facts().keySet());
            known.addAll(schema.lookups().keySet());
            throw ModelException.unknownName("fact or lookup", name, known);
        }
        if (tables.putIfAbsent(name, rows) != null) {
            throw ModelException.of("the rows of '%s' were given twice; give them once", name);
        }
        return this;
    }

    /**
     * Says how many threads may add up a question's rows at once: those of the common pool, or of the {@link
     * java.util.concurrent.ForkJoinPool} that a report is computed in. As many as there are processors, unless this says otherwise.
     *
     * @param most how many, the caller's own among them; 1 for that alone
     * @return this engine
     * @throws MileException if it is less than one, or a question was asked before
     */
    public MemoryEngine threads(int most) {
        if (most < 1) {
            throw ModelException.of("%d threads cannot add anything up; give at least 1", most);
        }
        return lock.during(() -> {
            if (!rowsByFact.isEmpty()) {
                throw ModelException.of(
                        "the engine was asked before; say how many threads it may take when it gets its rows");
            }
            mostThreads = most;
            return this;
        });
    }

    private FactRows of(String fact) {
        return lock.during(() -> {
            return rowsByFact.computeIfAbsent(schema.fact(fact).name(), name -> {
                schema.tablesBelow(name).forEach(this::columns);
                return new FactRows(schema, name, tables, mostThreads);
            });
        });
    }

    @Override
    public DataSchema schema() {
        return schema;
    }

    @Override
    public Map<String, ValueType> columns(String table) {
        return FactReader.columns(schema, table, tables);
    }

    @Override
    public Table rows(String table) {
        return FactReader.table(table, tables);
    }

    @Override
    public List<DateCount> dates(String fact) {
        return of(fact).dates();
    }

    @Override
    public DateRange coverage(String fact, String role, DayContext days) {
        return of(fact).placedDays(role, days.dimensionRange());
    }

    @Override
    public Optional<String> example(String fact, String role, long day) {
        return of(fact).example(role, day);
    }

    @Override
    public TotalsCursor totals(TotalsRequest request, DayContext days) {
        return of(request.fact()).totals(request, days);
    }

    @Override
    public FactAccounts accounts(String fact, List<Operand.Field> amounts, DayContext days) {
        return of(fact).accounts(amounts, days);
    }

    @Override
    public void close() {}
}
