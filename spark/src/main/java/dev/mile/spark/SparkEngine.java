package dev.mile.spark;

import static java.util.Objects.requireNonNull;
import static org.apache.spark.sql.functions.asc_nulls_last;
import static org.apache.spark.sql.functions.call_function;
import static org.apache.spark.sql.functions.col;
import static org.apache.spark.sql.functions.collect_set;
import static org.apache.spark.sql.functions.count;
import static org.apache.spark.sql.functions.lit;
import static org.apache.spark.sql.functions.max;
import static org.apache.spark.sql.functions.min;
import static org.apache.spark.sql.functions.sum;
import static org.apache.spark.sql.functions.udaf;
import static org.apache.spark.sql.functions.when;

import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.RoleAccountsBuilder;
import dev.mile.engine.RowOutcomeCounts;
import dev.mile.engine.SchemaCheck;
import dev.mile.engine.SchemaOwner;
import dev.mile.engine.TotalColumn.Kind;
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
import dev.mile.internal.Messages;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.spark.SparkContext;
import org.apache.spark.sql.Column;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Encoders;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.types.DataTypes;

/**
 * The engine for facts that are larger than one machine: adds up by group and day as Spark does, and hands the totals to the
 * driver one partition after the other. For a report whose groups are too many for one machine, see {@link SparkReport}.
 *
 * <p>The session stays open when the engine is closed. Safe for use by several threads.
 */
public final class SparkEngine implements Engine {
    /** Decimals of no more digits are added up as longs by Spark itself. */
    private static final int DIGITS_ADDED_AS_LONGS = 8;

    private static final int DIGITS_OF_PART = 6;
    private static final long PART = 1_000_000;

    private final InterruptibleLock lock = new InterruptibleLock();
    private final DataSchema schema;
    private final Map<String, Dataset<Row>> sources;
    private final Map<String, SparkTable> tables = new HashMap<>();

    private SparkEngine(DataSchema schema, Map<String, Dataset<Row>> sources) {
        this.schema = schema;
        this.sources = sources;
    }

    /**
     * Returns an engine over the data frames of a project.
     *
     * @param sources the rows of each fact and lookup by name; lookups are sent to every machine, so they are small
     */
    public static SparkEngine over(SchemaOwner project, Map<String, Dataset<Row>> sources) {
        return over(requireNonNull(project, "project is null").schema(), sources);
    }

    /** Returns an engine over the data frames of a schema, such as one in another zone. */
    public static SparkEngine over(DataSchema schema, Map<String, Dataset<Row>> sources) {
        return new SparkEngine(requireNonNull(schema, "schema is null"), requireNonNull(sources, "sources is null"));
    }

    @Override
    public DataSchema schema() {
        return schema;
    }

    /** Returns the session of the rows. */
    SparkSession spark() {
        return sources.values().iterator().next().sparkSession();
    }

    private SparkTable table(String name) {
        return lock.during(() -> {
            SparkTable known = tables.get(name);
            if (known != null) {
                return known;
            }
            Dataset<Row> source = sources.get(name);
            if (source == null) {
                throw ModelException.of(
                        "no rows were given for '%s'%s", name, Messages.didYouMean(name, sources.keySet()));
            }
            SparkTable table;
            if (schema.facts().containsKey(name)) {
                Fact fact = schema.fact(name);
                table = SparkTable.of(name, source, fact.dates(), fact.textColumns(), schema.zone(), fact.dayStarts());
                SchemaCheck.links("fact", name, fact.links(), table.types().keySet());
            } else {
                Lookup lookup = schema.lookups().get(name);
                table = SparkTable.of(
                        name, source, Map.of(), lookup.textColumns(), schema.zone(), java.time.LocalTime.MIDNIGHT);
                checkLookup(lookup, table);
            }
            tables.put(name, table);
            return table;
        });
    }

    private static void checkLookup(Lookup lookup, SparkTable table) {
        SchemaCheck.lookup(lookup, table.types().keySet());
        Column key = col(SparkTable.columnOf("", lookup.key()));
        List<Row> twice = rowsOf(table.rows()
                .filter(key.isNotNull())
                .groupBy(key.as("key"))
                .agg(count(lit(1)).as("rows"))
                .filter("rows > 1")
                .orderBy("key")
                .limit(1));
        if (!twice.isEmpty()) {
            throw SchemaCheck.keyTwice(lookup, twice.get(0).getString(0));
        }
    }

    private static List<Row> rowsOf(Dataset<Row> frame) {
        return SparkJobs.run(frame.sparkSession().sparkContext(), frame::collectAsList);
    }

    private ColumnCompiler compiler(String fact, String role, DayContext days) {
        return new ColumnCompiler(schema.fact(fact), role, schema.lookups(), this::table, days);
    }

    @Override
    public Map<String, ValueType> columns(String table) {
        return table(table).types();
    }

    @Override
    public List<DateCount> dates(String name) {
        List<DateCount> dates = new ArrayList<>();
        for (String role : schema.fact(name).roles()) {
            ColumnCompiler compiler = compiler(name, role, null);
            rowsOf(kept(compiler)
                            .filter(ColumnCompiler.day(role).gt(Table.UNREADABLE))
                            .groupBy(ColumnCompiler.day(role).as("day"))
                            .agg(count(lit(1)).as("rows"))
                            .orderBy("day"))
                    .forEach(row -> dates.add(new DateCount(role, row.getInt(0), row.getLong(1))));
        }
        return dates;
    }

    @Override
    public DateRange coverage(String name, String role, DayContext days) {
        ColumnCompiler compiler = compiler(name, role, days);
        Column day = ColumnCompiler.day(role);
        Row covered = rowsOf(kept(compiler)
                        .filter(day.between(
                                days.dimensionRange().firstEpochDay(),
                                days.dimensionRange().lastEpochDay()))
                        .agg(min(day), max(day)))
                .get(0);
        return covered.isNullAt(0) ? DateRange.EMPTY : DateRange.ofEpochDays(covered.getInt(0), covered.getInt(1));
    }

    /** Returns the rows that the fact keeps. */
    private static Dataset<Row> kept(ColumnCompiler compiler) {
        Column keep = compiler.keep();
        return keep == null ? compiler.rows() : compiler.rows().filter(keep);
    }

    // ---- totals

    /** Returns the totals as a data frame: members as {@code g0} and so on, {@code day}, {@code rows}, then {@code c0} and so on. */
    Dataset<Row> frame(TotalsRequest request, DayContext days) {
        ColumnCompiler compiler = compiler(request.fact(), request.role(), days);
        List<Column> by = new ArrayList<>();
        for (int g = 0; g < request.groups().size(); g++) {
            by.add(compiler.member(request.groups().get(g)).as("g" + g));
        }
        by.add(bucketOf(request, ColumnCompiler.day(request.role())).as("day"));
        List<Column> totals = new ArrayList<>();
        for (int c = 0; c < request.columns().size(); c++) {
            totals.add(column(request.columns().get(c), compiler).as("c" + c));
        }
        return kept(compiler)
                .groupBy(by.toArray(Column[]::new))
                .agg(count(lit(1)).as("rows"), totals.toArray(Column[]::new));
    }

    /** Returns the first day of the bucket of a day; days outside the request are left as they are. */
    private static Column bucketOf(TotalsRequest request, Column day) {
        if (request.buckets().isDaily()) {
            return day;
        }
        int first = request.days().firstEpochDay();
        int[] firsts = request.buckets().firstEpochDays();
        int[] bucketStarts = new int[request.days().length()];
        Arrays.setAll(bucketStarts, i -> firsts[request.buckets().bucketOf(first + i)]);
        return when(
                        day.between(
                                request.days().firstEpochDay(), request.days().lastEpochDay()),
                        lit(bucketStarts).apply(day.minus(first)))
                .otherwise(day);
    }

    private static Column column(dev.mile.engine.TotalColumn column, ColumnCompiler compiler) {
        Column where = column.where().map(compiler::condition).orElse(null);
        if (column.kind() == Kind.ROWS) {
            return count(where == null ? lit(1) : when(where, lit(1)));
        }
        RowExpression of = column.value().orElseThrow();
        Column value = compiler.expression(of);
        Column some = where == null ? value : when(where, value);
        return switch (column.kind()) {
            case COUNT -> count(some);
            case MIN -> min(some);
            case MAX -> max(some);
            case DISTINCT -> collect_set(some.cast(DataTypes.StringType));
            default ->
                of.floating()
                        ? when(
                                count(some).gt(0),
                                udaf(new FloatingSum(), Encoders.DOUBLE()).apply(some))
                        : exactSum(
                                where == null
                                        ? compiler.typed(of)
                                        : compiler.typed(of).where(where));
        };
    }

    /**
     * Spark adds up decimals of more than 8 digits as objects, whole numbers as they are. In two parts of at most 6 digits the sum of
     * fewer than nine trillion rows fits into a long.
     */
    private static Column exactSum(ColumnCompiler.Typed of) {
        if (of.digits() <= DIGITS_ADDED_AS_LONGS || of.digits() > 2 * DIGITS_OF_PART) {
            return exactSum(of.column());
        }
        BigDecimal one = BigDecimal.ONE.movePointRight(of.places());
        Column unscaled = of.column().multiply(lit(one)).cast(DataTypes.LongType);
        Column high = sum(call_function("div", unscaled, lit(PART))).cast(DataTypes.createDecimalType(19, 0));
        Column low = sum(unscaled.mod(lit(PART))).cast(DataTypes.createDecimalType(19, 0));
        return high.multiply(lit(BigDecimal.valueOf(PART)))
                .plus(low)
                .multiply(lit(BigDecimal.ONE.movePointLeft(of.places())))
                .cast(DataTypes.createDecimalType(38, of.places()));
    }

    /** Spark silently makes a sum that is too large blank, so that case is distinguished from a sum of no values. */
    private static Column exactSum(Column value) {
        Column sum = sum(value);
        return when(count(value).equalTo(0), sum)
                .otherwise(org.apache.spark.sql.functions.coalesce(
                        sum,
                        org.apache
                                .spark
                                .sql
                                .functions
                                .raise_error(lit(GroupReader.tooLarge().getMessage()))
                                .cast(DataTypes.createDecimalType(38, 0))));
    }

    @Override
    public TotalsCursor totals(TotalsRequest request, DayContext days) {
        List<Column> order = new ArrayList<>();
        for (int g = 0; g < request.groups().size(); g++) {
            order.add(asc_nulls_last("g" + g));
        }
        order.add(asc_nulls_last("day"));
        Dataset<Row> ordered = frame(request, days).orderBy(order.toArray(Column[]::new));
        SparkContext spark = ordered.sparkSession().sparkContext();
        Iterator<Row> rows = SparkJobs.run(spark, ordered::toLocalIterator);
        GroupReader reader = new GroupReader(
                request.groups().size(),
                request.columns().stream()
                        .map(dev.mile.engine.TotalColumn::kind)
                        .toList(),
                request.days(),
                0);
        return new DriverTotals(spark, rows, reader, days.dimensionRange());
    }

    /** Reads the totals on the driver, one partition after the other. */
    private static final class DriverTotals implements TotalsCursor {
        private final SparkContext spark;
        private final Iterator<Row> rows;
        private final GroupReader reader;
        private final DateRange placed;
        private final RowOutcomeCounts counts = new RowOutcomeCounts();
        private Row ahead;

        DriverTotals(SparkContext spark, Iterator<Row> rows, GroupReader reader, DateRange placed) {
            this.spark = spark;
            this.rows = rows;
            this.reader = reader;
            this.placed = placed;
        }

        @Override
        public GroupTotals next() {
            // the next row may be of a partition that is yet to be computed
            return SparkJobs.run(spark, this::read);
        }

        private GroupTotals read() {
            List<Row> group = new ArrayList<>();
            if (ahead != null) {
                group.add(ahead);
                ahead = null;
            }
            while (rows.hasNext()) {
                Row row = rows.next();
                reader.count(row, placed, counts);
                if (!reader.counts(row)) {
                    continue;
                }
                if (!group.isEmpty() && !Arrays.equals(reader.members(row), reader.members(group.get(0)))) {
                    ahead = row;
                    break;
                }
                group.add(row);
            }
            return group.isEmpty() ? null : reader.group(group);
        }

        @Override
        public Map<RoleAccounts.RowOutcome, Long> rowOutcomes() {
            return counts.byOutcome();
        }

        @Override
        public void close() {}
    }

    // ---- accounts

    @Override
    public FactAccounts accounts(String name, List<Operand.Field> amounts, DayContext days) {
        Fact fact = schema.fact(name);
        RowCounts counts = rowCounts(fact);
        List<RoleAccounts> roles = roleAccounts(fact, amounts, days);
        return new FactAccounts(
                name,
                counts.read(),
                FactAccounts.Rejected.NONE,
                roles.get(0).rows(),
                counts.undecided(),
                amounts.stream().map(Operand.Field::column).toList(),
                roles,
                unknownKeys(fact, days));
    }

    /** How many rows were read, and for how many it is open whether the fact keeps them. */
    private record RowCounts(long read, long undecided) {}

    private RowCounts rowCounts(Fact fact) {
        ColumnCompiler compiler = compiler(fact.name(), fact.defaultRole(), null);
        Column keep = compiler.keep();
        Column undecided = keep == null ? lit(0L) : count(when(keep.isNull(), lit(1)));
        Row row = rowsOf(compiler.rows().agg(count(lit(1)), undecided)).get(0);
        return new RowCounts(row.getLong(0), row.getLong(1));
    }

    /** Counts what became of the rows in all roles at once: a row has an outcome in each. */
    private List<RoleAccounts> roleAccounts(Fact fact, List<Operand.Field> amounts, DayContext days) {
        ColumnCompiler compiler = compiler(fact.name(), fact.defaultRole(), days);
        List<RoleAccountsBuilder> roles = fact.roles().stream()
                .map(role -> new RoleAccountsBuilder(role, amounts.size()))
                .toList();
        List<Column> outcomes = new ArrayList<>();
        List<Column> values = new ArrayList<>();
        for (String role : fact.roles()) {
            Column day = ColumnCompiler.day(role);
            outcomes.add(outcome(day, days, days.lastDayThatCounts(fact)).as("outcome of " + role));
            values.add(min(when(
                    day.equalTo(Table.UNREADABLE),
                    col(SparkTable.columnOf("", fact.column(role))).cast(DataTypes.StringType))));
        }
        amounts.forEach(amount -> values.add(exactSum(compiler.field(amount))));
        int count = roles.size();
        for (Row row : rowsOf(kept(compiler)
                .groupBy(outcomes.toArray(Column[]::new))
                .agg(count(lit(1)), values.toArray(Column[]::new)))) {
            BigDecimal[] sums = new BigDecimal[amounts.size()];
            for (int i = 0; i < sums.length; i++) {
                sums[i] = row.getDecimal(2 * count + 1 + i);
            }
            for (int r = 0; r < count; r++) {
                RoleAccounts.RowOutcome outcome = RoleAccounts.RowOutcome.valueOf(row.getString(r));
                roles.get(r).add(outcome, row.getLong(count), sums, row.getString(count + 1 + r));
            }
        }
        return roles.stream()
                .map(role -> role.build(
                        role.unreadable().map(text -> "'" + text + "'").orElse("")))
                .toList();
    }

    private static Column outcome(Column day, DayContext days, int lastDayThatCounts) {
        return when(day.isNull(), lit(RoleAccounts.RowOutcome.NO_DATE.name()))
                .when(day.equalTo(Table.UNREADABLE), lit(RoleAccounts.RowOutcome.UNREADABLE.name()))
                .when(
                        day.between(
                                days.dimensionRange().firstEpochDay(),
                                days.dimensionRange().lastEpochDay()),
                        when(day.gt(lastDayThatCounts), lit(RoleAccounts.RowOutcome.AFTER_AS_OF.name()))
                                .otherwise(lit(RoleAccounts.RowOutcome.PLACED.name())))
                .otherwise(lit(RoleAccounts.RowOutcome.OUTSIDE.name()));
    }

    private Map<String, FactAccounts.UnknownKeys> unknownKeys(Fact fact, DayContext days) {
        Map<String, FactAccounts.UnknownKeys> unknown = new LinkedHashMap<>();
        List<Link> links = fact.linksAtAnyDepth(schema.lookups());
        if (links.isEmpty()) {
            return unknown;
        }
        ColumnCompiler compiler = compiler(fact.name(), fact.defaultRole(), days);
        List<Column> values = new ArrayList<>();
        for (Link link : links) {
            Column lacking = compiler.condition(link.isUnknown());
            values.add(count(when(lacking, lit(1))));
            values.add(min(when(lacking, compiler.field(link.key()))));
        }
        Row row = rowsOf(kept(compiler)
                        .agg(values.get(0), values.subList(1, values.size()).toArray(Column[]::new)))
                .get(0);
        for (int l = 0; l < links.size(); l++) {
            long rows = row.getLong(2 * l);
            if (rows > 0) {
                Link link = links.get(l);
                unknown.put(
                        link.name(),
                        new FactAccounts.UnknownKeys(link.lookup().name(), rows, row.getString(2 * l + 1)));
            }
        }
        return unknown;
    }

    @Override
    public Optional<String> example(String fact, String role, long day) {
        return rowsOf(table(fact)
                        .rows()
                        .filter(ColumnCompiler.day(role).equalTo(day))
                        .limit(1))
                .stream()
                .map(row -> row.mkString(","))
                .findFirst();
    }

    @Override
    public Table rows(String name) {
        SparkTable of = table(name);
        List<Row> rows = rowsOf(of.rows());
        Table table = Table.ofRows(rows.size());
        int at = 0;
        for (Map.Entry<String, ValueType> column : of.types().entrySet()) {
            int place = at++;
            switch (column.getValue()) {
                case NUMBER ->
                    table.number(
                            column.getKey(),
                            rows.stream().map(row -> row.getDecimal(place)).toList());
                case FLOATING ->
                    table.floating(
                            column.getKey(),
                            rows.stream()
                                    .mapToDouble(row -> row.isNullAt(place) ? Double.NaN : row.getDouble(place))
                                    .toArray());
                case DATE ->
                    table.date(
                            column.getKey(),
                            rows.stream()
                                    .map(row -> row.isNullAt(place)
                                            ? null
                                            : row.getDate(place).toLocalDate())
                                    .toList());
                default ->
                    table.text(
                            column.getKey(),
                            rows.stream().map(row -> row.getString(place)).toList());
            }
        }
        return table;
    }

    @Override
    public synchronized void close() {
        tables.clear();
    }
}
