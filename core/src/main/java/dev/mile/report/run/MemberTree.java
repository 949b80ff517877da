package dev.mile.report.run;

import dev.mile.report.axis.Axis;
import dev.mile.report.axis.MemberAxis;
import dev.mile.report.axis.ReportAxes;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** The members of the rows' dimensions that occur together, axis below axis, with the totals of each combination. */
final class MemberTree {
    private final Map<Object, MemberTree> children;
    private @Nullable MemberTotals totals;

    private MemberTree(List<Axis> axes, int depth) {
        children =
                depth == axes.size() ? Map.of() : new TreeMap<>(axes.get(depth).totalOrder());
    }

    /** Returns the tree of keys of all axes of the report. */
    static MemberTree of(ReportAxes axes, Collection<List<Object>> memberKeys) {
        List<Axis> levels = new ArrayList<>();
        List<Integer> positions = new ArrayList<>();
        for (int i = 0; i < axes.rows().size(); i++) {
            if (axes.rows().get(i) instanceof MemberAxis) {
                levels.add(axes.rows().get(i));
                positions.add(i);
            }
        }
        MemberTree root = new MemberTree(levels, 0);
        for (List<Object> key : memberKeys) {
            MemberTree at = root;
            for (int i = 0; i < positions.size(); i++) {
                int depth = i + 1;
                at = at.children.computeIfAbsent(key.get(positions.get(i)), k -> new MemberTree(levels, depth));
            }
        }
        return root;
    }

    /** Returns the trees below by their keys, in order. */
    Map<Object, MemberTree> children() {
        return children;
    }

    /** Returns the totals of the members down to here, looked up once. */
    MemberTotals totals(Supplier<MemberTotals> lookUp) {
        if (totals == null) {
            totals = lookUp.get();
        }
        return totals;
    }
}
