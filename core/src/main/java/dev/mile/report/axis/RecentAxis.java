package dev.mile.report.axis;

import dev.mile.calendar.DateRange;
import dev.mile.report.Grid;
import java.util.Comparator;
import java.util.List;

/** Recent periods, which may overlap; keys are their positions in the list. */
public record RecentAxis(String name, List<String> labels, List<DateRange> ranges) implements TimeAxis {
    public RecentAxis {
        labels = List.copyOf(labels);
        ranges = List.copyOf(ranges);
    }

    @Override
    public Grid.AxisKind kind() {
        return Grid.AxisKind.RECENT;
    }

    @Override
    public Comparator<Object> order() {
        return Comparator.comparingInt(key -> (Integer) key);
    }

    @Override
    public String label(Object key) {
        return labels.get((Integer) key);
    }
}
