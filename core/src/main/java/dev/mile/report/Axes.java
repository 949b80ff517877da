package dev.mile.report;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.dimension.DateDimension;
import dev.mile.report.axis.DayFilter;
import dev.mile.report.plan.PlanNode;
import dev.mile.span.SpanContext;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** The rows and columns of one report: which keys occur, and the cell of each. Used once. */
final class Axes {
    /** The keys of time or of members that follow each other from part to part, in order. */
    static final class Branch {
        final Map<Object, Branch> next;

        /** What rows on the branch share: their moments by column, on a branch of time, or their series, on one of members. */
        private Moment[] moments;

        private List<DateRange> cellDays;

        private RowSeries series;

        Branch(Comparator<Object> order) {
            next = order == null ? Map.of() : new TreeMap<>(order);
        }
    }

    private final List<AxisPart> rows;
    private final List<AxisPart> columns;
    private final DateDimension dimension;
    private final DateRange when;
    private final boolean anyLevel;
    private final boolean membersAside;
    private DateRange hull = DateRange.EMPTY;
    private Set<List<Object>> times = Set.of();
    private Set<List<Object>> members = Set.of();
    private Branch timeBranches;
    private final Evaluator evaluator;
    private Set<Telling> telling;
    private final Map<List<Object>, Moment> moments = new HashMap<>();

    Axes(Session session, Report report, SpanContext frame, Evaluator evaluator) {
        this.evaluator = evaluator;
        this.dimension = session.dimension();
        this.rows = parts(session, report.rows(), frame);
        this.columns = parts(session, report.columns(), frame);
        List<String> names = new ArrayList<>();
        for (AxisPart part : all()) {
            if (names.contains(part.name())) {
                throw MileException.invalidModel("'%s' stands twice in rows and columns; name it once", part.name());
            }
            names.add(part.name());
        }
        this.when = report.when().map(w -> w.resolve(frame)).orElse(null);
        this.membersAside = columns.stream().anyMatch(AxisPart.OfMembers.class::isInstance);
        this.anyLevel = all().stream()
                .anyMatch(p -> p instanceof AxisPart.OfLevel
                        || p instanceof AxisPart.OfYear
                        || p instanceof AxisPart.OfRecent);
    }

    private static List<AxisPart> parts(Session session, List<Report.AxisSpec> parts, SpanContext frame) {
        return parts.stream()
                .map(p -> AxisPart.of(p, frame, session.dimension(), session.catalog()))
                .toList();
    }

    List<AxisPart> rows() {
        return rows;
    }

    List<AxisPart> columns() {
        return columns;
    }

    List<AxisPart> all() {
        List<AxisPart> all = new ArrayList<>(rows);
        all.addAll(columns);
        return all;
    }

    /** Returns the names of the dimensions and date attributes, which measures may ignore. */
    List<String> dimensions() {
        return all().stream()
                .filter(p -> p instanceof AxisPart.OfMembers || p instanceof AxisPart.OfAttribute)
                .map(AxisPart::name)
                .toList();
    }

    /** Finds the keys in time that occur. */
    void findTimes() {
        times = timeKeys();
        members = Set.of(new ArrayList<>(Collections.nCopies(all().size(), null)));
    }

    /** Finds the members that occur among the groups that the aggregates, always the same ones, have now. */
    void findMembers(List<PlanNode.AggregateNode> leaves) {
        members = memberKeys(leaves);
    }

    /** Returns the keys of the rows in time, part after part. */
    Branch timeBranches() {
        if (timeBranches == null) {
            timeBranches = branches(times, false);
        }
        return timeBranches;
    }

    /** Returns the keys of the rows' members, part after part. */
    Branch memberBranches() {
        return branches(members, true);
    }

    private Branch branches(Set<List<Object>> keys, boolean ofMembers) {
        List<Integer> places = new ArrayList<>();
        for (int i = 0; i < rows.size(); i++) {
            if (rows.get(i) instanceof AxisPart.OfMembers == ofMembers) {
                places.add(i);
            }
        }
        Branch root = new Branch(places.isEmpty() ? null : told(rows.get(places.get(0))));
        for (List<Object> key : keys) {
            Branch at = root;
            for (int i = 0; i < places.size(); i++) {
                Comparator<Object> order = i + 1 < places.size() ? told(rows.get(places.get(i + 1))) : null;
                at = at.next.computeIfAbsent(key.get(places.get(i)), k -> new Branch(order));
            }
        }
        return root;
    }

    /** Returns the order of a part, in which keys that sort alike are told apart by their labels. */
    private static Comparator<Object> told(AxisPart part) {
        Comparator<Object> order = part.order();
        return (a, b) -> {
            int c = a.equals(b) ? 0 : order.compare(a, b);
            return c != 0 || a.equals(b) ? c : part.label(a).compareTo(part.label(b));
        };
    }

    /** Tells whether any row occurs. */
    boolean occur() {
        return !times.isEmpty() && !members.isEmpty();
    }

    /** Returns the keys of the columns in order; one without keys where the report has no columns. */
    List<List<Object>> columnKeys() {
        Set<List<Object>> keys = new TreeSet<>(orderOf(columns));
        for (List<Object> time : times) {
            for (List<Object> member : members) {
                keys.add(joined(columns, time, member, rows.size()));
            }
        }
        if (columns.isEmpty()) {
            keys.add(List.of());
        }
        return List.copyOf(keys);
    }

    /** Tells whether a cell of a leaf row occurs in the place in time: week 53 of a short year does not, nor does one that begins outside `when`. */
    boolean occurs(Moment moment, boolean leaf) {
        return !moment.days().isEmpty() && !(leaf && when != null && anyLevel && !begins(moment.days()));
    }

    /** Returns the keys of the time parts (null at the places of members) that occur together. */
    private Set<List<Object>> timeKeys() {
        List<AxisPart> all = all();
        Set<List<Object>> keys = new LinkedHashSet<>();
        List<List<Object>> recent = new ArrayList<>();
        recent.add(new ArrayList<>());
        for (AxisPart part : all) {
            List<List<Object>> next = new ArrayList<>();
            for (List<Object> so : recent) {
                int choices = part instanceof AxisPart.OfRecent r ? r.ranges().size() : 1;
                for (int i = 0; i < choices; i++) {
                    List<Object> more = new ArrayList<>(so);
                    more.add(part instanceof AxisPart.OfRecent ? (Object) i : null);
                    next.add(more);
                }
            }
            recent = next;
        }
        Set<List<Object>> attributes = attributeKeys(all);
        for (List<Object> chosen : recent) {
            for (List<Object> levels : levelKeys(all, chosen)) {
                for (List<Object> attribute : attributes) {
                    List<Object> key = new ArrayList<>(levels);
                    for (int i = 0; i < key.size(); i++) {
                        key.set(i, attribute.get(i) == null ? key.get(i) : attribute.get(i));
                    }
                    keys.add(key);
                }
            }
        }
        if (when != null && anyLevel) {
            keys.removeIf(key -> !begins(moment(all, key).days()));
            DateRange shownDays = DateRange.EMPTY;
            for (List<Object> key : keys) {
                shownDays = shownDays.hull(moment(all, key).days());
            }
            hull = shownDays;
        }
        return keys;
    }

    private boolean begins(DateRange days) {
        return !days.isEmpty() && when.contains(days.firstEpochDay());
    }

    /** Returns the keys of levels and places in the year that occur together on days of the dimension, or of recent periods. */
    private Set<List<Object>> levelKeys(List<AxisPart> all, List<Object> chosen) {
        Set<List<Object>> keys = new LinkedHashSet<>();
        List<AxisPart.OfDays> levels = ofDays(all, false);
        if (levels.stream().allMatch(Objects::isNull)) {
            keys.add(chosen);
            return keys;
        }
        DateRange base = dimension.range();
        boolean picked = false;
        for (int i = 0; i < all.size(); i++) {
            if (all.get(i) instanceof AxisPart.OfRecent r) {
                DateRange range = r.ranges().get((Integer) chosen.get(i));
                base = picked ? base.intersect(range) : range;
                picked = true;
            }
        }
        for (int day = base.firstEpochDay(); day <= base.lastEpochDay(); day++) {
            List<Object> key = keyOf(levels, chosen, day);
            if (key != null) {
                keys.add(key);
            }
        }
        return keys;
    }

    /** Returns the values of date attributes that occur together; they meet every period, as members do. */
    private Set<List<Object>> attributeKeys(List<AxisPart> all) {
        List<Object> none = Collections.nCopies(all.size(), null);
        Set<List<Object>> keys = new LinkedHashSet<>();
        List<AxisPart.OfDays> attributes = ofDays(all, true);
        if (attributes.stream().allMatch(Objects::isNull)) {
            keys.add(none);
            return keys;
        }
        DateRange base = !anyLevel && when != null ? when : dimension.range();
        for (int day = base.firstEpochDay(); day <= base.lastEpochDay(); day++) {
            keys.add(keyOf(attributes, none, day));
        }
        return keys;
    }

    /** Returns the date attributes among the parts, or what else days tell; null at the places of others. */
    private static List<AxisPart.OfDays> ofDays(List<AxisPart> parts, boolean attributes) {
        List<AxisPart.OfDays> taken = new ArrayList<>();
        for (AxisPart part : parts) {
            boolean takes = part instanceof AxisPart.OfDays && part instanceof AxisPart.OfAttribute == attributes;
            taken.add(takes ? (AxisPart.OfDays) part : null);
        }
        return taken;
    }

    private static List<Object> keyOf(List<AxisPart.OfDays> taken, List<Object> chosen, int day) {
        List<Object> key = new ArrayList<>(chosen);
        for (int i = 0; i < taken.size(); i++) {
            AxisPart.OfDays part = taken.get(i);
            if (part != null) {
                Optional<Object> one = part.key(day);
                if (one.isEmpty()) {
                    return null;
                }
                key.set(i, one.get());
            }
        }
        return key;
    }

    /** A series whose groups tell members, and where they stand in its groups by part; -1 for parts of time. */
    private record Telling(int series, List<Integer> places) {}

    private Set<Telling> telling(List<PlanNode.AggregateNode> leaves) {
        Set<Telling> found = new LinkedHashSet<>();
        for (PlanNode.AggregateNode leaf : leaves) {
            List<Integer> places = new ArrayList<>();
            boolean parted = leaf.alwaysBlankBecause().isEmpty();
            for (AxisPart part : all()) {
                PlanNode.MemberBinding reach = leaf.memberBindings().get(part.name());
                boolean ofMembers = part instanceof AxisPart.OfMembers;
                parted &= !ofMembers || (reach != null && reach.scope() == PlanNode.MemberBinding.ROW);
                places.add(ofMembers && parted ? leaf.series().groups().indexOf(reach.field()) : -1);
            }
            if (parted) {
                found.add(new Telling(evaluator.series(leaf), places));
            }
        }
        return found;
    }

    /** Returns the combinations of members (null at the places of time) that occur in some fact of the report. */
    private Set<List<Object>> memberKeys(List<PlanNode.AggregateNode> leaves) {
        Set<List<Object>> keys = new LinkedHashSet<>();
        if (all().stream().noneMatch(AxisPart.OfMembers.class::isInstance)) {
            keys.add(new ArrayList<>(Collections.nCopies(all().size(), null)));
            return keys;
        }
        if (telling == null) {
            telling = telling(leaves);
        }
        for (Telling by : telling) {
            for (String[] group : evaluator.store().members(by.series())) {
                Object[] key = new Object[by.places().size()];
                for (int i = 0; i < key.length; i++) {
                    int place = by.places().get(i);
                    String member = place < 0 ? null : group[place];
                    key[i] = place >= 0 && member == null ? AxisPart.Blank.KEY : member;
                }
                keys.add(Arrays.asList(key));
            }
        }
        return keys;
    }

    private static List<Object> joined(List<AxisPart> parts, List<Object> time, List<Object> members, int offset) {
        List<Object> key = new ArrayList<>();
        for (int i = 0; i < parts.size(); i++) {
            key.add(parts.get(i) instanceof AxisPart.OfMembers ? members.get(offset + i) : time.get(offset + i));
        }
        return key;
    }

    private static Comparator<List<Object>> orderOf(List<AxisPart> parts) {
        return (a, b) -> {
            for (int i = 0; i < Math.min(a.size(), b.size()); i++) {
                int c = parts.get(i).order().compare(a.get(i), b.get(i));
                if (c != 0) {
                    return c;
                }
            }
            return Integer.compare(a.size(), b.size());
        };
    }

    static List<String> labels(List<AxisPart> parts, List<Object> keys) {
        List<String> labels = new ArrayList<>(keys.size());
        for (int i = 0; i < keys.size(); i++) {
            labels.add(parts.get(i).label(keys.get(i)));
        }
        return labels;
    }

    /** Returns the place in time of some parts; keys are null for those of members. */
    private Moment moment(List<AxisPart> parts, List<Object> keys) {
        Map<AxisPart, Object> fixed = new LinkedHashMap<>();
        for (int i = 0; i < keys.size(); i++) {
            if (keys.get(i) != null) {
                fixed.put(parts.get(i), keys.get(i));
            }
        }
        DateRange days = null;
        List<DayFilter> filters = new ArrayList<>();
        Level finest = null;
        for (Map.Entry<AxisPart, Object> entry : fixed.entrySet()) {
            Object key = entry.getValue();
            DateRange part = null;
            if (entry.getKey() instanceof AxisPart.OfLevel level) {
                part = level.range(key);
                finest = finer(finest, level.level());
            } else if (entry.getKey() instanceof AxisPart.OfYear place) {
                Optional<Integer> year = AxisPart.yearAmong(fixed, place);
                finest = finer(finest, place.level());
                if (year.isPresent()) {
                    part = place.range(key, year.get());
                } else {
                    filters.add(
                            new DayFilter(place.name(), key, d -> place.key(d).equals(Optional.of(key))));
                }
            } else if (entry.getKey() instanceof AxisPart.OfRecent recent) {
                part = recent.ranges().get((Integer) key);
            } else if (entry.getKey() instanceof AxisPart.OfAttribute attribute) {
                filters.add(new DayFilter(
                        attribute.name(), key, d -> attribute.key(d).equals(Optional.of(key))));
            }
            days = part == null ? days : days == null ? part : days.intersect(part);
        }
        if (days == null) {
            days = when == null ? dimension.range() : anyLevel ? hull : when;
        } else if (when != null && anyLevel && !hull.isEmpty()) {
            days = days.intersect(hull);
        }
        return evaluator.moment(days, filters, finest);
    }

    private static Level finer(Level a, Level b) {
        return a == null || a.isCoarserThan(b) ? b : a;
    }

    /** Returns the cell of the first parts of the rows and columns that have a key. */
    Cell cell(List<Object> row, List<Object> column) {
        Map<String, Members> members = new LinkedHashMap<>();
        List<Object> times = new ArrayList<>(row.size() + column.size() + 1);
        // how many parts of the row are fixed tells the same key of a column from one of a row
        times.add(row.size());
        split(rows, row, times, members);
        split(columns, column, times, members);
        Moment moment = moments.get(times);
        if (moment == null) {
            List<AxisPart> parts = new ArrayList<>(rows.subList(0, row.size()));
            parts.addAll(columns.subList(0, column.size()));
            moment = moment(parts, times.subList(1, times.size()));
            moments.put(times, moment);
        }
        return new Cell(moment, members);
    }

    /** Returns the place in time where a row, which stands on the branch, meets each of the columns, and the whole row behind. */
    Moment[] moments(List<Object> row, Branch times, List<List<Object>> columnKeys) {
        if (times.moments == null) {
            times.moments = new Moment[columnKeys.size() + 1];
            for (int c = 0; c < columnKeys.size(); c++) {
                times.moments[c] = cell(row, columnKeys.get(c)).moment();
            }
            times.moments[columnKeys.size()] = cell(row, List.of()).moment();
        }
        return times.moments;
    }

    /**
     * Returns the days of the cells of a row, which stands on the branch, by column of the grid; none where all are those of the row.
     *
     * @param width how many columns of the grid there are for one key
     */
    List<DateRange> cellDays(List<Object> row, Branch times, List<List<Object>> columnKeys, int width) {
        if (times.cellDays == null) {
            List<DateRange> days = new ArrayList<>();
            boolean placed = columns.stream().anyMatch(part -> !(part instanceof AxisPart.OfMembers));
            Moment[] cells = moments(row, times, columnKeys);
            for (int cell = 0; placed && cell < columnKeys.size() * width; cell++) {
                days.add(cells[cell / width].days());
            }
            times.cellDays = List.copyOf(days);
        }
        return times.cellDays;
    }

    /** Returns the series of a row, which stands on the branch, where it meets the column. */
    RowSeries series(List<Object> row, Branch ofMembers, List<Object> column) {
        if (membersAside) {
            return evaluator.row(cell(row, column).members());
        }
        if (ofMembers.series == null) {
            ofMembers.series = evaluator.row(cell(row, column).members());
        }
        return ofMembers.series;
    }

    /** Returns the places in time of all cells that may occur: of rows, of what stands above them, and of all columns together. */
    Collection<Moment> moments() {
        List<Object> anyMembers = Collections.nCopies(all().size(), AxisPart.Blank.KEY);
        Set<List<Object>> columnKeys = new LinkedHashSet<>(Set.of(List.of()));
        times.forEach(time -> columnKeys.add(joined(columns, time, anyMembers, rows.size())));
        addMoments(timeBranches(), new ArrayList<>(), columnKeys);
        return moments.values();
    }

    private void addMoments(Branch branch, List<Object> keys, Set<List<Object>> columnKeys) {
        columnKeys.forEach(column -> cell(keys, column));
        if (keys.size() == rows.size()) {
            return;
        }
        if (rows.get(keys.size()) instanceof AxisPart.OfMembers) {
            addMoments(branch, longer(keys, AxisPart.Blank.KEY), columnKeys);
        } else {
            branch.next.forEach((key, next) -> addMoments(next, longer(keys, key), columnKeys));
        }
    }

    /** Returns the keys with one more. */
    static List<Object> longer(List<Object> keys, Object key) {
        List<Object> longer = new ArrayList<>(keys);
        longer.add(key);
        return longer;
    }

    private static void split(
            List<AxisPart> parts, List<Object> keys, List<Object> times, Map<String, Members> members) {
        for (int i = 0; i < keys.size(); i++) {
            if (parts.get(i) instanceof AxisPart.OfMembers of) {
                times.add(null);
                members.put(of.name(), Members.of(AxisPart.OfMembers.member(keys.get(i))));
            } else {
                times.add(keys.get(i));
            }
        }
    }
}
