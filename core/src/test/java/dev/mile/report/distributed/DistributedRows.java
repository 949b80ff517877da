package dev.mile.report.distributed;

import dev.mile.engine.GroupTotals;
import dev.mile.report.Grid;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.ObjectInputStream;
import java.io.ObjectOutputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/** The leaf rows of a report as sorted lines: of a grid, or of a report that was sent to a machine of a cluster. */
public final class DistributedRows {
    private DistributedRows() {}

    /** Returns the leaf rows of a grid. */
    public static List<String> ofGrid(Grid grid) {
        return grid.rows().stream()
                .filter(row -> row.kind() == Grid.RowKind.LEAF)
                .map(row -> line(row.labels(), row.values(), row.statuses()))
                .sorted()
                .toList();
    }

    /** Returns the rows that a machine evaluates, one combination of members after the other. */
    public static List<String> evaluate(DistributedReport report) {
        DistributedReport.Worker worker = sent(report).worker();
        List<Map<List<String>, List<GroupTotals>>> byKey = new ArrayList<>();
        Set<List<String>> keys = new LinkedHashSet<>();
        for (int p = 0; p < report.passes().size(); p++) {
            DistributedReport.Pass pass = report.passes().get(p);
            List<GroupTotals> totals = report.totals(p);
            Map<List<String>, List<GroupTotals>> own = new LinkedHashMap<>();
            if (!pass.keyColumns().isEmpty()) {
                totals.forEach(group -> own.computeIfAbsent(pass.key(group), k -> new ArrayList<>())
                        .add(group));
            }
            if (pass.neededEverywhere()) {
                worker.loadShared(p, totals);
            }
            keys.addAll(own.keySet());
            byKey.add(pass.neededEverywhere() ? null : own);
        }
        if (report.dimensions().isEmpty()) {
            keys.add(List.of());
        }
        List<String> lines = new ArrayList<>();
        for (List<String> key : keys) {
            List<List<GroupTotals>> groups = new ArrayList<>();
            byKey.forEach(own -> groups.add(own == null ? null : own.getOrDefault(key, List.of())));
            worker.rows(key, groups).forEach(row -> lines.add(line(row.labels(), row.values(), row.statuses())));
        }
        lines.sort(null);
        return lines;
    }

    private static String line(List<String> labels, List<?> values, Map<Integer, ?> statuses) {
        return labels + " " + values + " " + new TreeMap<>(statuses);
    }

    private static DistributedReport sent(DistributedReport report) {
        try {
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            try (ObjectOutputStream out = new ObjectOutputStream(bytes)) {
                out.writeObject(report);
            }
            try (ObjectInputStream in = new ObjectInputStream(new ByteArrayInputStream(bytes.toByteArray()))) {
                return (DistributedReport) in.readObject();
            }
        } catch (IOException | ClassNotFoundException e) {
            throw new IllegalStateException(e);
        }
    }
}
