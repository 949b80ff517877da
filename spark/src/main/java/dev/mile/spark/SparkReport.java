package dev.mile.spark;

import static org.apache.spark.sql.functions.asc_nulls_last;
import static org.apache.spark.sql.functions.col;
import static org.apache.spark.sql.functions.lit;

import dev.mile.fact.GroupTotals;
import dev.mile.fact.TotalsRequest;
import dev.mile.measure.Value;
import dev.mile.report.GroupPlan;
import dev.mile.report.Report;
import dev.mile.report.Session;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.Objects;
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
 * and each executor works out the groups that it has. Groups never meet on one machine.
 */
public final class SparkReport {
    private SparkReport() {}

    /**
     * Returns the rows of a report, those of its finest level, in no order: a column for each part, as texts, and two for
     * each measure, named as in CSV. Nothing is computed before the frame is used.
     *
     * <p>A value is held twice: under its name as a double for further work, and under {@code NAME_exact} as a text with every
     * digit.
     *
     * @param session a session over the engine
     */
    public static Dataset<Row> of(Session session, SparkEngine engine, Report report) {
        GroupPlan plan = GroupPlan.of(session, report);
        SparkSession spark = engine.spark();
        List<Wide> wides = new ArrayList<>();
        Map<Integer, List<GroupTotals>> whole = new HashMap<>();
        Dataset<Row> all = null;
        for (int p = 0; p < plan.passes().size(); p++) {
            GroupPlan.Pass pass = plan.passes().get(p);
            TotalsRequest request = pass.request();
            if (pass.keys().size() < plan.dimensions().size()
                    || plan.dimensions().isEmpty()) {
                whole.put(p, engine.totals(request, session.days()).all());
                wides.add(null);
                continue;
            }
            Wide wide = new Wide(
                    pass.keys(),
                    new GroupReader(
                            request.groups().size(),
                            request.columns().stream()
                                    .map(dev.mile.fact.Column::kind)
                                    .toList(),
                            request.days(),
                            0));
            wides.add(wide);
            Dataset<Row> frame = engine.frame(request, session.days());
            Dataset<Row> keyed = keyed(frame, p, pass.keys());
            all = all == null ? keyed : all.unionByName(keyed, true);
        }
        StructField[] fields =
                new StructField[plan.parts().size() + 2 * plan.columns().size()];
        int at = 0;
        for (String part : plan.parts()) {
            fields[at++] = DataTypes.createStructField(part, DataTypes.StringType, true);
        }
        for (String column : plan.columns()) {
            fields[at++] = DataTypes.createStructField(column, DataTypes.DoubleType, true);
            fields[at++] = DataTypes.createStructField(column + "_exact", DataTypes.StringType, true);
        }
        Broadcast<Shipped> shipped = spark.sparkContext()
                .broadcast(new Shipped(plan, wides, whole), scala.reflect.ClassTag$.MODULE$.apply(Shipped.class));
        int keys = plan.dimensions().size();
        Dataset<Row> parted;
        if (all == null) {
            // one combination of no members
            parted = spark.range(0, 1, 1, 1).toDF().select(lit(-1).as("pass"));
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
        MapPartitionsFunction<Row, Row> work = rows -> new Worked(rows, shipped.value(), keys);
        return parted.mapPartitions(work, Encoders.row(DataTypes.createStructType(fields)));
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

    /** A pass whose totals are parted by the members of the rows. */
    private record Wide(List<Integer> keys, GroupReader reader) implements Serializable {}

    /** What every executor has. */
    private record Shipped(GroupPlan plan, List<Wide> wides, Map<Integer, List<GroupTotals>> whole)
            implements Serializable {}

    /** The rows of a partition, worked out one combination of members after the other. */
    private static final class Worked implements Iterator<Row> {
        private final Iterator<Row> rows;
        private final Shipped shipped;
        private final int keys;
        private final GroupPlan.Worker worker;
        private Iterator<GroupPlan.Row> done = List.<GroupPlan.Row>of().iterator();
        private Row ahead;

        Worked(Iterator<Row> rows, Shipped shipped, int keys) {
            this.rows = rows;
            this.shipped = shipped;
            this.keys = keys;
            this.worker = shipped.plan().worker();
            shipped.whole().forEach(worker::whole);
            this.ahead = rows.hasNext() ? rows.next() : null;
        }

        @Override
        public boolean hasNext() {
            while (!done.hasNext() && ahead != null) {
                done = next(ahead).iterator();
            }
            return done.hasNext();
        }

        private List<GroupPlan.Row> next(Row first) {
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
            boolean any = keys == 0;
            for (int p = 0; p < byPass.size(); p++) {
                Wide wide = shipped.wides().get(p);
                any |= !byPass.get(p).isEmpty();
                groups.add(wide == null ? null : groups(byPass.get(p), wide.reader()));
            }
            return any ? worker.rows(members, groups) : List.of();
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
            GroupPlan.Row row = done.next();
            List<Object> values = new ArrayList<>(row.labels());
            for (Value value : row.values()) {
                values.add(value.isBlank() ? null : value.toDouble());
                values.add(value.isBlank() ? null : value.toString());
            }
            return RowFactory.create(values.toArray());
        }
    }
}
