package dev.mile.spark;

import static org.apache.spark.sql.functions.asc_nulls_last;
import static org.apache.spark.sql.functions.col;
import static org.apache.spark.sql.functions.lit;

import dev.mile.engine.GroupTotals;
import dev.mile.engine.TotalsRequest;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.report.distributed.DistributedReport;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.Objects;
import java.util.Set;
import org.apache.spark.api.java.function.MapPartitionsFunction;
import org.apache.spark.broadcast.Broadcast;
import org.apache.spark.sql.Column;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Encoders;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.RowFactory;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.types.DataTypes;
import org.apache.spark.sql.types.StructField;

/**
 * Works a report out where the data is: day totals are an aggregate of Spark, windows are resolved on the driver and sent along,
 * and each executor evaluates the groups that it has. Groups never meet on one machine.
 */
public final class SparkReport {
    /** Stands in rows that have members, but no totals. */
    private static final int NO_PASS = -1;

    private SparkReport() {}

    /**
     * Returns the rows of a report, those of its finest level, in no order: a column for each part, as texts, and two for
     * each measure, named as in CSV. Nothing is computed before the frame is used.
     *
     * <p>A value is held twice: under its name as a double for further work, and under {@code NAME_exact} as a text with every
     * digit. The status of a target is a text: met, near or missed.
     *
     * @param session a session over the engine
     */
    public static Dataset<Row> of(Session session, SparkEngine engine, Report report) {
        DistributedReport distributed = session.distribute(report);
        Dataset<Row> evaluated = evaluate(engine, distributed);
        List<Column> select = new ArrayList<>();
        for (int p = 0; p < distributed.rowNames().size(); p++) {
            select.add(evaluated.col(part(p)).as(distributed.rowNames().get(p)));
        }
        for (int c = 0; c < distributed.columns().size(); c++) {
            Grid.Column column = distributed.columns().get(c);
            if (column.role() == Grid.ColumnRole.STATUS) {
                select.add(evaluated.col(text(c)).as(column.header()));
            } else {
                select.add(evaluated.col(text(c)).cast(DataTypes.DoubleType).as(column.header()));
                select.add(evaluated.col(text(c)).as(column.header() + "_exact"));
            }
        }
        return evaluated.select(select.toArray(Column[]::new));
    }

    /** Returns the name of the column of a part of the rows in {@link #evaluate}. */
    static String part(int part) {
        return "p" + part;
    }

    /** Returns the name of the column in {@link #evaluate} that holds a value with every digit, as text. */
    static String text(int column) {
        return "v" + column;
    }

    /** Returns the name of the column in {@link #evaluate} that holds whether a value is a ratio rather than an exact decimal. */
    static String ratio(int column) {
        return "r" + column;
    }

    /** Returns the rows of a report as texts: a column for each part, then two for each value. */
    static Dataset<Row> evaluate(SparkEngine engine, DistributedReport distributed) {
        SparkSession spark = engine.spark();
        int keys = distributed.dimensions().size();
        List<PartitionedPass> wides = new ArrayList<>();
        Map<Integer, List<GroupTotals>> shared = new HashMap<>();
        Map<Integer, Map<List<String>, List<GroupTotals>>> spread = new HashMap<>();
        Dataset<Row> all = null;
        for (int p = 0; p < distributed.passes().size(); p++) {
            DistributedReport.Pass pass = distributed.passes().get(p);
            TotalsRequest request = pass.request();
            wides.add(null);
            Dataset<Row> keyed;
            if (pass.neededEverywhere() || pass.spread()) {
                List<GroupTotals> totals = distributed.totals(p);
                Map<List<String>, List<GroupTotals>> byKey =
                        pass.keyColumns().isEmpty() ? Map.of() : byKey(pass, totals);
                if (pass.neededEverywhere()) {
                    shared.put(p, totals);
                } else {
                    spread.put(p, byKey);
                }
                keyed = keys(spark, byKey.keySet(), keys);
            } else {
                wides.set(
                        p,
                        new PartitionedPass(
                                pass.keyColumns(),
                                new GroupReader(
                                        request.groups().size(),
                                        request.columns().stream()
                                                .map(dev.mile.engine.TotalColumn::kind)
                                                .toList(),
                                        request.days(),
                                        0)));
                keyed = keyed(engine.frame(request, distributed.dayContext()), p, pass.keyColumns());
            }
            all = all == null ? keyed : all.unionByName(keyed, true);
        }
        List<StructField> fields = new ArrayList<>();
        for (int p = 0; p < distributed.rowNames().size(); p++) {
            fields.add(DataTypes.createStructField(part(p), DataTypes.StringType, true));
        }
        for (int c = 0; c < distributed.columns().size(); c++) {
            fields.add(DataTypes.createStructField(text(c), DataTypes.StringType, true));
            fields.add(DataTypes.createStructField(ratio(c), DataTypes.BooleanType, true));
        }
        Broadcast<BroadcastState> shipped = spark.sparkContext()
                .broadcast(
                        new BroadcastState(distributed, wides, shared, spread),
                        scala.reflect.ClassTag$.MODULE$.apply(BroadcastState.class));
        Dataset<Row> parted;
        if (keys == 0) {
            // one combination of no members
            parted = spark.range(0, 1, 1, 1).toDF().select(lit(NO_PASS).as("pass"));
        } else {
            Column[] by = new Column[keys];
            List<Column> order = new ArrayList<>();
            for (int k = 0; k < keys; k++) {
                by[k] = col("k" + k);
                order.add(asc_nulls_last("k" + k));
            }
            order.add(col("pass"));
            order.add(asc_nulls_last("day"));
            parted = all.repartition(by).sortWithinPartitions(order.toArray(Column[]::new));
        }
        MapPartitionsFunction<Row, Row> work = rows -> new RowIterator(rows, shipped.value(), keys);
        return parted.mapPartitions(work, Encoders.row(DataTypes.createStructType(fields)));
    }

    private static Map<List<String>, List<GroupTotals>> byKey(DistributedReport.Pass pass, List<GroupTotals> totals) {
        Map<List<String>, List<GroupTotals>> byKey = new HashMap<>();
        totals.forEach(group ->
                byKey.computeIfAbsent(pass.key(group), k -> new ArrayList<>()).add(group));
        return byKey;
    }

    /** Returns the members that totals computed on the driver have, so that each meets those of other passes. */
    private static Dataset<Row> keys(SparkSession spark, Set<List<String>> members, int keys) {
        StructField[] fields = new StructField[keys + 2];
        for (int k = 0; k < keys; k++) {
            fields[k] = DataTypes.createStructField("k" + k, DataTypes.StringType, true);
        }
        fields[keys] = DataTypes.createStructField("pass", DataTypes.IntegerType, false);
        fields[keys + 1] = DataTypes.createStructField("day", DataTypes.IntegerType, true);
        List<Row> rows = new ArrayList<>();
        for (List<String> key : members) {
            List<Object> row = new ArrayList<>(key);
            row.add(NO_PASS);
            row.add(null);
            rows.add(RowFactory.create(row.toArray()));
        }
        return spark.createDataFrame(rows, DataTypes.createStructType(fields));
    }

    /** Returns totals with the members of the row in front, and the totals themselves behind as one value. */
    private static Dataset<Row> keyed(Dataset<Row> frame, int pass, List<Integer> keys) {
        List<Column> select = new ArrayList<>();
        for (int k = 0; k < keys.size(); k++) {
            select.add(col("g" + keys.get(k)).as("k" + k));
        }
        select.add(lit(pass).as("pass"));
        select.add(col("day"));
        select.add(org.apache
                .spark
                .sql
                .functions
                .struct(java.util.Arrays.stream(frame.columns())
                        .map(org.apache.spark.sql.functions::col)
                        .toArray(Column[]::new))
                .as(totals(pass)));
        return frame.select(select.toArray(Column[]::new));
    }

    private static String totals(int pass) {
        return "totals" + pass;
    }

    /** A pass whose totals are grouped by the members of the rows. */
    private record PartitionedPass(List<Integer> keys, GroupReader reader) implements Serializable {}

    /**
     * What every executor has.
     *
     * @param wides by pass, how its totals are read; null where they are among the next two
     * @param shared by pass, the totals that every combination of members needs
     * @param spread by pass, the totals of plans that are spread over days, by the members of the rows
     */
    private record BroadcastState(
            DistributedReport distributed,
            List<PartitionedPass> wides,
            Map<Integer, List<GroupTotals>> shared,
            Map<Integer, Map<List<String>, List<GroupTotals>>> spread)
            implements Serializable {}

    /** The rows of a partition, evaluated one combination of members after the other. */
    private static final class RowIterator implements Iterator<Row> {
        private final Iterator<Row> rows;
        private final BroadcastState shipped;
        private final int keys;
        private final DistributedReport.Worker worker;
        private Iterator<DistributedReport.Row> done =
                List.<DistributedReport.Row>of().iterator();
        private Row ahead;

        RowIterator(Iterator<Row> rows, BroadcastState shipped, int keys) {
            this.rows = rows;
            this.shipped = shipped;
            this.keys = keys;
            this.worker = shipped.distributed().worker();
            shipped.shared().forEach(worker::loadShared);
            this.ahead = rows.hasNext() ? rows.next() : null;
        }

        @Override
        public boolean hasNext() {
            while (!done.hasNext() && ahead != null) {
                done = next(ahead).iterator();
            }
            return done.hasNext();
        }

        private List<DistributedReport.Row> next(Row first) {
            List<String> members = new ArrayList<>();
            for (int k = 0; k < keys; k++) {
                members.add(first.getString(k));
            }
            List<List<Row>> byPass = new ArrayList<>();
            shipped.wides().forEach(w -> byPass.add(new ArrayList<>()));
            while (ahead != null && has(ahead, members)) {
                int pass = ahead.getInt(keys);
                if (pass >= 0) {
                    Row totals = ahead.getStruct(ahead.fieldIndex(totals(pass)));
                    if (shipped.wides().get(pass).reader().counts(totals)) {
                        byPass.get(pass).add(totals);
                    }
                }
                ahead = rows.hasNext() ? rows.next() : null;
            }
            List<List<GroupTotals>> groups = new ArrayList<>();
            for (int p = 0; p < byPass.size(); p++) {
                groups.add(shipped.shared().containsKey(p) ? null : groups(p, byPass.get(p), members));
            }
            return worker.rows(members, groups);
        }

        private List<GroupTotals> groups(int pass, List<Row> rows, List<String> members) {
            Map<List<String>, List<GroupTotals>> known = shipped.spread().get(pass);
            return known == null
                    ? groups(rows, shipped.wides().get(pass).reader())
                    : known.getOrDefault(members, List.of());
        }

        private boolean has(Row row, List<String> members) {
            for (int k = 0; k < keys; k++) {
                if (!Objects.equals(row.getString(k), members.get(k))) {
                    return false;
                }
            }
            return true;
        }

        /** Returns the groups below one combination: loops part its rows further. */
        private static List<GroupTotals> groups(List<Row> rows, GroupReader reader) {
            Map<List<String>, List<Row>> byGroup = new java.util.LinkedHashMap<>();
            rows.forEach(
                    row -> byGroup.computeIfAbsent(java.util.Arrays.asList(reader.members(row)), g -> new ArrayList<>())
                            .add(row));
            return byGroup.values().stream().map(reader::group).toList();
        }

        @Override
        public Row next() {
            if (!hasNext()) {
                throw new NoSuchElementException();
            }
            DistributedReport.Row row = done.next();
            List<Object> values = new ArrayList<>(row.labels());
            for (int c = 0; c < row.values().size(); c++) {
                Value value = row.values().get(c);
                String status = row.status(c).map(TargetStatus::word).orElse(null);
                values.add(value.isBlank() ? status : value.toString());
                values.add(value.isBlank() ? null : !value.isExact());
            }
            return RowFactory.create(values.toArray());
        }
    }
}
