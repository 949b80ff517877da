package dev.mile.report;

import dev.mile.engine.GroupTotals;
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

/** The rows of a report as machines work them out that have its plan and the groups of some members, as sorted lines. */
final class DistributedRows {
    private DistributedRows() {}

    /** Returns the leaf rows of a grid in the same words. */
    static List<String> of(Grid grid) {
        List<String> lines = new ArrayList<>();
        for (Grid.Row row : grid.rows()) {
            if (row.kind() == Grid.RowKind.LEAF) {
                lines.add(row.labels() + " " + row.values());
            }
        }
        lines.sort(null);
        return lines;
    }

    static List<String> of(GroupPlan plan) {
        GroupPlan.Worker worker = sent(plan).worker();
        List<Map<List<String>, List<GroupTotals>>> byKey = new ArrayList<>();
        Set<List<String>> keys = new LinkedHashSet<>();
        for (int p = 0; p < plan.passes().size(); p++) {
            GroupPlan.Pass pass = plan.passes().get(p);
            List<GroupTotals> totals = plan.totals(p);
            Map<List<String>, List<GroupTotals>> own = new LinkedHashMap<>();
            if (!pass.keys().isEmpty()) {
                totals.forEach(group -> own.computeIfAbsent(pass.key(group), k -> new ArrayList<>())
                        .add(group));
            }
            if (pass.whole()) {
                worker.whole(p, totals);
            }
            keys.addAll(own.keySet());
            byKey.add(pass.whole() ? null : own);
        }
        if (plan.dimensions().isEmpty()) {
            keys.add(List.of());
        }
        List<String> lines = new ArrayList<>();
        for (List<String> key : keys) {
            List<List<GroupTotals>> groups = new ArrayList<>();
            byKey.forEach(own -> groups.add(own == null ? null : own.getOrDefault(key, List.of())));
            worker.rows(key, groups).forEach(row -> lines.add(row.labels() + " " + row.values()));
        }
        lines.sort(null);
        return lines;
    }

    private static GroupPlan sent(GroupPlan plan) {
        try {
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            try (ObjectOutputStream out = new ObjectOutputStream(bytes)) {
                out.writeObject(plan);
            }
            try (ObjectInputStream in = new ObjectInputStream(new ByteArrayInputStream(bytes.toByteArray()))) {
                return (GroupPlan) in.readObject();
            }
        } catch (IOException | ClassNotFoundException e) {
            throw new IllegalStateException(e);
        }
    }
}
