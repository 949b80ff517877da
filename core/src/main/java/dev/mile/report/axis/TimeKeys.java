package dev.mile.report.axis;

import dev.mile.calendar.DateRange;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/** Enumerates the keys of the axes of time that occur together, null at the axes of members. */
final class TimeKeys {
    private final List<Axis> axes;
    private final DateRange dimension;
    private final DateRange attributeDays;

    /**
     * @param dimension the range of the date dimension
     * @param attributeDays the days whose attributes occur
     */
    TimeKeys(List<Axis> axes, DateRange dimension, DateRange attributeDays) {
        this.axes = axes;
        this.dimension = dimension;
        this.attributeDays = attributeDays;
    }

    Set<List<Object>> enumerate() {
        Set<List<Object>> keys = new LinkedHashSet<>();
        Set<List<Object>> attributes = attributeKeys();
        for (List<Object> recent : recentKeys()) {
            for (List<Object> levels : levelKeys(recent)) {
                for (List<Object> attribute : attributes) {
                    List<Object> key = new ArrayList<>(levels);
                    for (int i = 0; i < key.size(); i++) {
                        key.set(i, attribute.get(i) == null ? key.get(i) : attribute.get(i));
                    }
                    keys.add(key);
                }
            }
        }
        return keys;
    }

    private List<List<Object>> recentKeys() {
        List<List<Object>> keys = new ArrayList<>();
        keys.add(List.of());
        for (Axis axis : axes) {
            List<List<Object>> longer = new ArrayList<>();
            for (List<Object> key : keys) {
                int choices = axis instanceof RecentAxis r ? r.ranges().size() : 1;
                for (int i = 0; i < choices; i++) {
                    longer.add(KeyTree.append(key, axis instanceof RecentAxis ? i : null));
                }
            }
            keys = longer;
        }
        return keys;
    }

    /** Returns the keys of levels and periods of the year that occur together on days of the dimension, or of recent periods. */
    private Set<List<Object>> levelKeys(List<Object> recent) {
        List<DayAxis> levels = dayAxes(false);
        if (levels.stream().allMatch(Objects::isNull)) {
            return Set.of(recent);
        }
        DateRange days = null;
        for (int i = 0; i < axes.size(); i++) {
            if (axes.get(i) instanceof RecentAxis r) {
                DateRange range = r.ranges().get((Integer) recent.get(i));
                days = days == null ? range : days.intersect(range);
            }
        }
        return keysOn(days == null ? dimension : days, levels, recent);
    }

    /** Returns the values of date attributes that occur together; they meet every period, as members do. */
    private Set<List<Object>> attributeKeys() {
        List<Object> none = Collections.nCopies(axes.size(), null);
        List<DayAxis> attributes = dayAxes(true);
        return attributes.stream().allMatch(Objects::isNull) ? Set.of(none) : keysOn(attributeDays, attributes, none);
    }

    /** Returns the axes of date attributes, or the others whose key is a function of the day; null at the places of all others. */
    private List<DayAxis> dayAxes(boolean attributes) {
        List<DayAxis> present = new ArrayList<>();
        for (Axis axis : axes) {
            boolean takes = axis instanceof DayAxis && axis instanceof AttributeAxis == attributes;
            present.add(takes ? (DayAxis) axis : null);
        }
        return present;
    }

    private static Set<List<Object>> keysOn(DateRange days, List<DayAxis> present, List<Object> others) {
        Set<List<Object>> keys = new LinkedHashSet<>();
        for (int day = days.firstEpochDay(); day <= days.lastEpochDay(); day++) {
            List<Object> key = new ArrayList<>(others);
            boolean complete = true;
            for (int i = 0; i < present.size(); i++) {
                if (present.get(i) != null) {
                    Optional<Object> one = present.get(i).key(day);
                    complete &= one.isPresent();
                    key.set(i, one.orElse(null));
                }
            }
            if (complete) {
                keys.add(key);
            }
        }
        return keys;
    }
}
