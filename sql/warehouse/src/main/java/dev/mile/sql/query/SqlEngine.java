package dev.mile.sql.query;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.BucketingCursor;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.RoleAccountsBuilder;
import dev.mile.engine.SchemaCheck;
import dev.mile.engine.Source;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Fact;
import dev.mile.fact.Link;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.internal.InterruptibleLock;
import dev.mile.sql.dialect.Dialect;
import dev.mile.sql.dialect.Sql;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.IntToLongFunction;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** What engines that ask SQL have in common: one statement a question, in the words of the dialect. */
public abstract class SqlEngine implements Engine {
    private final DataSchema schema;
    private final Dialect dialect;
    private final Map<String, LazyRelation> relations = new ConcurrentHashMap<>();

    /** Returns an engine over a schema. */
    protected SqlEngine(DataSchema schema, Dialect dialect) {
        this.schema = schema;
        this.dialect = dialect;
    }

    @Override
    public final DataSchema schema() {
        return schema;
    }

    /** Returns the database, which is opened on the first call. */
    protected abstract Database database();

    public final Dialect dialect() {
        return dialect;
    }

    /** Makes a relation of a source of a fact. */
    protected abstract Relation load(Fact fact, Source source);

    /** Makes a relation of a source of a lookup. */
    protected abstract Relation load(Lookup lookup, Source source);

    /**
     * Makes the table of days that time between dates of a row is counted with; returns the clause before SELECT that holds it, if any.
     *
     * @param weeks the working weeks, as running counts of working days by the name of their column
     */
    protected abstract String days(Map<String, IntToLongFunction> weeks, DayContext days);

    private Relation relation(String name) {
        return relations.computeIfAbsent(name, first -> new LazyRelation()).get(() -> load(name));
    }

    /** The relation of a source, which the first thread that asks for it loads; other sources may be loaded meanwhile. */
    private static final class LazyRelation {
        private final InterruptibleLock lock = new InterruptibleLock();
        private @Nullable Relation relation;

        Relation get(Supplier<Relation> load) {
            return lock.during(() -> {
                if (relation == null) {
                    relation = load.get();
                }
                return relation;
            });
        }
    }

    private Relation load(String name) {
        Source source = schema.requireSource(name);
        Fact fact = schema.facts().get(name);
        try {
            if (fact != null) {
                Relation relation = load(fact, source);
                SchemaCheck.links("fact", name, fact.links(), relation.types().keySet());
                return relation;
            }
            Lookup lookup = schema.lookups().get(name);
            Relation relation = load(lookup, source);
            SchemaCheck.lookup(lookup, relation.types().keySet());
            checkUnique(lookup, relation);
            return relation;
        } catch (MileException e) {
            throw e.withLocationOf(source);
        }
    }

    private void checkUnique(Lookup lookup, Relation relation) {
        String key = dialect.text(Sql.name(lookup.key()));
        List<String> twice = database()
                .query(
                        dialect.limit(
                                1,
                                "SELECT " + key + " FROM " + relation.from() + " WHERE " + key
                                        + " IS NOT NULL GROUP BY " + key + " HAVING count(*) > 1 ORDER BY "
                                        + dialect.byCodePoint(key)),
                        row -> row.getString(1));
        if (!twice.isEmpty()) {
            throw SchemaCheck.keyTwice(lookup, twice.get(0));
        }
    }

    private SqlCompiler compiler(String fact, String role, DayContext days) {
        return new SqlCompiler(schema.fact(fact), role, schema.lookups(), this::relation, days, dialect);
    }

    @Override
    public Map<String, ValueType> columns(String table) {
        return relation(table).types();
    }

    @Override
    public List<DateCount> dates(String name) {
        Fact fact = schema.fact(name);
        List<String> roles = List.copyOf(fact.roles());
        List<String> counts = new ArrayList<>();
        for (int r = 0; r < roles.size(); r++) {
            SqlCompiler compiler = compiler(name, roles.get(r), null);
            String keep = compiler.keep();
            String day = SqlCompiler.day(roles.get(r));
            counts.add("SELECT " + r + ", " + day + ", count(*) FROM " + compiler.from() + " WHERE " + keep + " AND "
                    + day + " > " + Table.UNREADABLE + " GROUP BY " + day);
        }
        return database()
                .query(
                        String.join(" UNION ALL ", counts) + " ORDER BY 1, 2",
                        row -> new DateCount(roles.get(row.getInt(1)), row.getLong(2), row.getLong(3)));
    }

    @Override
    public DateRange coverage(String name, String role, DayContext days) {
        DateRange dimension = days.dimensionRange();
        Optional<DateRange> all = Optional.ofNullable(relation(name).ranges().get(role))
                .filter(range -> schema.fact(name).filter().isEmpty() && dimension.encloses(range));
        return all.orElseGet(() -> placedDays(compiler(name, role, days), role, dimension));
    }

    private DateRange placedDays(SqlCompiler compiler, String role, DateRange dimension) {
        String keep = compiler.keep();
        String day = SqlCompiler.day(role);
        return database()
                .query(
                        "SELECT min(" + day + "), max(" + day + ") FROM " + compiler.from() + " WHERE " + keep + " AND "
                                + day + " BETWEEN " + dimension.firstEpochDay() + " AND " + dimension.lastEpochDay(),
                        row -> {
                            int first = row.getInt(1);
                            return row.wasNull() ? DateRange.EMPTY : DateRange.ofEpochDays(first, row.getInt(2));
                        })
                .get(0);
    }

    @Override
    public Optional<String> example(String name, String role, long day) {
        Relation relation = relation(name);
        int columns = relation.types().size();
        String names = String.join(
                ", ", relation.types().keySet().stream().map(Sql::name).toList());
        return database()
                .query(
                        dialect.limit(
                                1,
                                "SELECT " + names + " FROM " + relation.from() + " WHERE " + Relation.dayColumn(role)
                                        + " = " + day),
                        row -> {
                            List<String> values = new ArrayList<>();
                            for (int c = 1; c <= columns; c++) {
                                values.add(row.getString(c) == null ? "" : row.getString(c));
                            }
                            return String.join(",", values);
                        })
                .stream()
                .findFirst();
    }

    @Override
    public TotalsCursor totals(TotalsRequest request, DayContext days) {
        String before = days(request, days);
        SqlCompiler compiler = compiler(request.fact(), request.role(), days);
        Relation relation = relation(request.fact());
        List<TotalsStatement.Member> members = request.groups().stream()
                .map(group -> new TotalsStatement.Member(
                        compiler.member(group),
                        group.named().isPresent(),
                        paysToNumber(group, relation, request.role())))
                .toList();
        List<TotalsStatement.Column> columns = request.columns().stream()
                .map(c -> column(c, compiler, relation))
                .toList();
        String keep = compiler.keep();
        // rows of all days, since those that count in no period are accounted for
        return totals(
                new TotalsStatement(
                        before,
                        members,
                        SqlCompiler.day(request.role()),
                        compiler.date(request.role()),
                        columns,
                        compiler.fact(),
                        compiler.joins(),
                        keep),
                request,
                days.dimensionRange());
    }

    /**
     * Returns what a lookup has for each of its keys in a column, as texts, blanks left out; empty if it has more rows than that.
     *
     * @param most how many
     */
    protected final Optional<Map<String, String>> textsByKey(Lookup lookup, String column, int most) {
        Map<String, String> texts = new HashMap<>();
        List<String> keys = database()
                .query(
                        dialect.limit(
                                most + 1,
                                "SELECT " + dialect.text(Sql.name(lookup.key())) + ", " + dialect.text(Sql.name(column))
                                        + " FROM " + relation(lookup.name()).from()),
                        row -> {
                            String key = row.getString(1);
                            String text = row.getString(2);
                            if (key != null && text != null) {
                                texts.put(key, text);
                            }
                            return key;
                        });
        return keys.size() > most ? Optional.empty() : Optional.of(texts);
    }

    private static boolean paysToNumber(Operand.Field field, Relation relation, String role) {
        return field.path().isEmpty()
                && field.named().isEmpty()
                && relation.nonNullColumns().contains(field.column())
                && relation.dictionaryColumns().contains(field.column())
                && !relation.orderedRoles().contains(role);
    }

    /** Runs the statement and reads its totals. */
    protected TotalsCursor totals(TotalsStatement statement, TotalsRequest request, DateRange placed) {
        TotalsStatement asked = request.buckets().isDaily()
                ? statement
                : statement.by(
                        dialect.bucketOf(
                                statement.day(),
                                request.buckets().firstEpochDays(),
                                request.days().lastEpochDay()),
                        "");
        return new BucketingCursor(
                new JdbcTotalsCursor(database().open(asked.ordered(dialect)), asked, request, placed), request);
    }

    /** Returns the clause before SELECT that time between dates of a row needs; empty if none is counted. */
    private String days(TotalsRequest request, DayContext days) {
        List<RowExpression.Elapsed> elapsed = request.elapsed().toList();
        return elapsed.isEmpty() ? "" : days(DayTable.weeks(elapsed, days), days);
    }

    private TotalsStatement.Column column(TotalColumn column, SqlCompiler compiler, Relation relation) {
        String condition = column.where().map(compiler::condition).orElse("true");
        String filter = column.where().isEmpty() ? "" : " FILTER (WHERE " + condition + ")";
        if (column.kind() == TotalColumn.Kind.DISTINCT) {
            RowExpression of = column.value().orElseThrow();
            String value = compiler.expression(of);
            return new TotalsStatement.Column(
                    dialect.distinct(value, isNumber(of)) + filter, Optional.of(dialect.text(value)), condition);
        }
        return new TotalsStatement.Column(total(column, compiler, relation) + filter, Optional.empty(), condition);
    }

    private String total(TotalColumn column, SqlCompiler compiler, Relation relation) {
        if (column.kind() == TotalColumn.Kind.ROWS) {
            return "count(*)";
        }
        RowExpression of = column.value().orElseThrow();
        if (column.kind() == TotalColumn.Kind.COUNT
                && of instanceof RowExpression.Value plain
                && plain.operand() instanceof Operand.Field field
                && field.path().isEmpty()
                && relation.nonNullColumns().contains(field.column())) {
            return "count(*)";
        }
        String value = compiler.expression(of);
        return switch (column.kind()) {
            case COUNT -> "count(" + value + ")";
            case MIN -> "min(" + value + ")";
            case MAX -> "max(" + value + ")";
            default -> of.floating() ? dialect.floatingSum(value) : "sum(" + value + ")";
        };
    }

    private static boolean isNumber(RowExpression of) {
        return !(of instanceof RowExpression.Value value)
                || value.operand() instanceof Operand.Field field
                        && (field.type() == ValueType.NUMBER || field.type() == ValueType.FLOATING);
    }

    @Override
    public FactAccounts.Rejected rejected(String fact) {
        return relation(fact).rejected();
    }

    @Override
    public FactAccounts accounts(String name, List<Operand.Field> amounts, DayContext days) {
        Fact fact = schema.fact(name);
        Relation relation = relation(name);
        RowCounts counts = rowCounts(fact);
        List<RoleAccounts> roles = roleAccounts(fact, amounts, days);
        return new FactAccounts(
                name,
                counts.read() + relation.rejected().lines(),
                relation.rejected(),
                roles.get(0).rows(),
                counts.undecided(),
                amounts.stream().map(Operand.Field::column).toList(),
                roles,
                unknownKeys(fact, days));
    }

    /** How many rows were read, and for how many it is open whether the fact keeps them. */
    private record RowCounts(long read, long undecided) {}

    private RowCounts rowCounts(Fact fact) {
        SqlCompiler compiler = compiler(fact.name(), fact.defaultRole(), null);
        String keep = compiler.keep();
        String undecided = fact.filter().isEmpty() ? "0" : "count(CASE WHEN (" + keep + ") IS NULL THEN 1 END)";
        return database()
                .query(
                        "SELECT count(*), " + undecided + " FROM " + compiler.from(),
                        row -> new RowCounts(row.getLong(1), row.getLong(2)))
                .get(0);
    }

    /** Counts what became of the rows in all roles at once: a row has an outcome in each. */
    private List<RoleAccounts> roleAccounts(Fact fact, List<Operand.Field> amounts, DayContext days) {
        SqlCompiler compiler = compiler(fact.name(), fact.defaultRole(), days);
        List<RoleAccountsBuilder> roles = fact.roles().stream()
                .map(role -> new RoleAccountsBuilder(role, amounts.size()))
                .toList();
        List<String> outcomes = new ArrayList<>();
        List<String> values = new ArrayList<>();
        for (String role : fact.roles()) {
            String day = SqlCompiler.day(role);
            outcomes.add(outcome(day, days, days.lastDayThatCounts(fact)));
            values.add("min(CASE WHEN " + day + " = " + Table.UNREADABLE + " THEN "
                    + dialect.text(SqlCompiler.FACT + "." + Sql.name(fact.column(role))) + " END)");
        }
        values.add("count(*)");
        amounts.forEach(amount -> values.add("sum(" + compiler.field(amount) + ")"));
        String by = String.join(", ", outcomes);
        String keep = compiler.keep();
        int count = 2 * roles.size() + 1;
        database()
                .query(
                        "SELECT " + by + ", " + String.join(", ", values) + " FROM " + compiler.from() + " WHERE "
                                + keep + " GROUP BY " + by,
                        row -> {
                            BigDecimal[] sums = new BigDecimal[amounts.size()];
                            for (int i = 0; i < sums.length; i++) {
                                sums[i] = row.getBigDecimal(count + 1 + i);
                            }
                            for (int r = 0; r < roles.size(); r++) {
                                roles.get(r)
                                        .add(
                                                RoleAccounts.RowOutcome.valueOf(row.getString(r + 1)),
                                                row.getLong(count),
                                                sums,
                                                row.getString(roles.size() + r + 1));
                            }
                            return row.getLong(count);
                        });
        return roles.stream()
                .map(role -> role.build(role.unreadable()
                        .map(text -> unreadable(fact, role.role(), text))
                        .orElse("")))
                .toList();
    }

    private static String outcome(String day, DayContext days, int lastDayThatCounts) {
        return "CASE WHEN " + day + " IS NULL THEN 'NO_DATE' WHEN " + day + " = " + Table.UNREADABLE
                + " THEN 'UNREADABLE' WHEN " + day + " BETWEEN "
                + days.dimensionRange().firstEpochDay() + " AND "
                + days.dimensionRange().lastEpochDay()
                + " THEN CASE WHEN " + day + " > " + lastDayThatCounts
                + " THEN 'AFTER_AS_OF' ELSE 'PLACED' END ELSE 'OUTSIDE' END";
    }

    /**
     * Returns a date that cannot be read, in quotes, with what is known of it.
     *
     * @param example one of them
     */
    protected String unreadable(Fact fact, String role, String example) {
        return "'" + example + "'";
    }

    private Map<String, FactAccounts.UnknownKeys> unknownKeys(Fact fact, DayContext days) {
        Map<String, FactAccounts.UnknownKeys> unknown = new LinkedHashMap<>();
        List<Link> links = fact.linksAtAnyDepth(schema.lookups());
        if (links.isEmpty()) {
            return unknown;
        }
        SqlCompiler compiler = compiler(fact.name(), fact.defaultRole(), days);
        List<String> values = new ArrayList<>();
        for (Link link : links) {
            String lacking = compiler.condition(link.isUnknown());
            values.add("count(CASE WHEN " + lacking + " THEN 1 END)");
            values.add("min(CASE WHEN " + lacking + " THEN " + dialect.text(compiler.field(link.key())) + " END)");
        }
        String keep = compiler.keep();
        database().query("SELECT " + String.join(", ", values) + " FROM " + compiler.from() + " WHERE " + keep, row -> {
            for (int l = 0; l < links.size(); l++) {
                long rows = row.getLong(2 * l + 1);
                if (rows > 0) {
                    Link link = links.get(l);
                    unknown.put(
                            link.name(),
                            new FactAccounts.UnknownKeys(link.lookup().name(), rows, row.getString(2 * l + 2)));
                }
            }
            return links.size();
        });
        return unknown;
    }

    @Override
    public Table rows(String name) {
        Relation relation = relation(name);
        List<String> columns = List.copyOf(relation.types().keySet());
        List<List<Object>> values = new ArrayList<>();
        columns.forEach(c -> values.add(new ArrayList<>()));
        String select = String.join(", ", columns.stream().map(Sql::name).toList());
        int rows = database()
                .query("SELECT " + select + " FROM " + relation.from(), row -> {
                    for (int c = 0; c < columns.size(); c++) {
                        // a driver's own dates are moments, which may be another day in the zone of the machine
                        boolean date = relation.types().get(columns.get(c)) == ValueType.DATE;
                        values.get(c).add(date ? row.getObject(c + 1, LocalDate.class) : row.getObject(c + 1));
                    }
                    return 1;
                })
                .size();
        Table table = Table.ofRows(rows);
        for (int c = 0; c < columns.size(); c++) {
            add(columns.get(c), relation.types().get(columns.get(c)), values.get(c), table);
        }
        return table;
    }

    private static Table add(String column, ValueType type, List<Object> values, Table table) {
        return switch (type) {
            case NUMBER ->
                table.number(
                        column,
                        values.stream()
                                .map(v -> v == null ? null : new BigDecimal(v.toString()))
                                .toList());
            case FLOATING ->
                table.floating(
                        column,
                        values.stream()
                                .mapToDouble(v -> v == null ? Double.NaN : ((Number) v).doubleValue())
                                .toArray());
            case DATE ->
                table.date(column, values.stream().map(LocalDate.class::cast).toList());
            case TEXT ->
                table.text(
                        column,
                        values.stream()
                                .map(v -> v == null ? null : v.toString())
                                .toList());
            case BLANK_ONLY -> table.blank(column);
        };
    }
}
