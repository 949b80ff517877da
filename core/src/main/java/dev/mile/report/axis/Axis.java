package dev.mile.report.axis;

import dev.mile.report.Grid;
import java.io.Serializable;
import java.util.Comparator;

/** One level of the rows or columns of a report. Each of its entries has a key. */
public interface Axis extends Serializable {
    /** Returns the name as the report gives it. */
    String name();

    /** Returns what its labels are. */
    Grid.AxisKind kind();

    /** Returns the order of its keys. */
    Comparator<Object> order();

    /** Returns how a key reads. */
    String label(Object key);

    /** Returns the order of the keys, with ties broken by label. */
    default Comparator<Object> totalOrder() {
        Comparator<Object> order = order();
        return (a, b) -> {
            int c = a.equals(b) ? 0 : order.compare(a, b);
            return c != 0 || a.equals(b) ? c : label(a).compareTo(label(b));
        };
    }
}
