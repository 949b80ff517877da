package dev.mile.report;

import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.calendar.MileException;
import dev.mile.calendar.Texts;
import dev.mile.dimension.DateDimension;
import dev.mile.measure.Definition;
import dev.mile.measure.Measure;
import dev.mile.measure.PlanNode;
import dev.mile.measure.Planner;
import dev.mile.measure.Target;
import dev.mile.measure.Value;
import dev.mile.span.TimeFrame;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Computes one report. Used once. */
final class GridBuilder {
    /** A measure or target of the report, planned; {@code against} and {@code target} are null for a measure. */
    private record Shown(Definition definition, PlanNode node, PlanNode against, Target target) {
        int width() {
            return target == null ? 1 : 3;
        }
    }

    /** A row on the way: its fixed keys, its children, and its values by column. */
    private static final class Node {
        final List<Object> keys;
        final List<Node> children = new ArrayList<>();
        List<Value> values;
        Value sortedBy = Value.BLANK;
        boolean found;
        Node rest;

        Node(List<Object> keys) {
            this.keys = keys;
        }
    }

    private final Session session;
    private final Report report;
    private final TimeFrame frame;
    private final DateDimension dimension;
    private final List<AxisPart> rowParts;
    private final List<AxisPart> columnParts;
    private final List<Shown> shown = new ArrayList<>();
    private final SeriesStore store;
    private final Evaluator evaluator;
    private final Planner planner;
    private final DateRange when;
    private final boolean anyLevel;
    private Optional<PlanNode> sortNode = Optional.empty();
    private DateRange hull = DateRange.EMPTY;

    GridBuilder(Session session, Report report) {
        this.session = session;
        this.report = report;
        this.frame = session.frame(report.calendar());
        this.dimension = session.dimension();
        this.rowParts = parts(report.rows());
        this.columnParts = parts(report.columns());
        this.store = new SeriesStore(session.engine(), session.project().facts(), session.days());
        this.evaluator = new Evaluator(store, frame, session.project().workingWeeks());
        List<String> names = new ArrayList<>();
        for (AxisPart part : allParts()) {
            if (names.contains(part.name())) {
                throw MileException.model("'%s' stands twice in rows and columns; name it once", part.name());
            }
            names.add(part.name());
        }
        this.planner = new Planner(
                session.catalog(),
                session.project().measures(),
                session.project().workingWeeks().keySet(),
                allParts().stream()
                        .filter(p -> p instanceof AxisPart.OfMembers || p instanceof AxisPart.OfAttribute)
                        .map(AxisPart::name)
                        .toList(),
                report.where());
        this.when = report.when().map(w -> w.days(frame)).orElse(null);
        this.anyLevel = allParts().stream()
                .anyMatch(p -> p instanceof AxisPart.OfLevel
                        || p instanceof AxisPart.OfYear
                        || p instanceof AxisPart.OfRecent);
    }

    private List<AxisPart> parts(List<Report.Part> parts) {
        return parts.stream()
                .map(p -> AxisPart.of(p, frame, dimension, session.catalog()))
                .toList();
    }

    private List<AxisPart> allParts() {
        List<AxisPart> all = new ArrayList<>(rowParts);
        all.addAll(columnParts);
        return all;
    }

    Grid build() {
        if (report.show().isEmpty()) {
            throw MileException.model("the report '%s' shows nothing; name measures: `show: [sales]`", report.name());
        }
        report.show().forEach(name -> shown.add(shown(name)));
        String sortName = report.sort()
                .map(Report.Sort::measure)
                .orElse(report.top().map(Report.Top::measure).orElse(""));
        if (!sortName.isEmpty()) {
            sortNode = Optional.of(planned(sortName));
        }
        Optional<PlanNode> topNode = report.top().map(top -> planned(top.measure()));
        for (Shown s : shown) {
            want(s.node());
            if (s.against() != null) {
                want(s.against());
            }
        }
        sortNode.ifPresent(this::want);
        topNode.ifPresent(this::want);

        Set<List<Object>> times = timeKeys();
        Set<List<Object>> members = memberKeys();
        Node root = rows(times, members);
        List<List<Object>> columns = columnKeys(times, members);
        fill(root, columns);
        prune(root);
        topNode.ifPresent(node -> cutTop(root, node, columns));
        order(root);
        List<Grid.Row> rows = new ArrayList<>();
        if (report.totals() && rowParts.size() > 0 && hasTotal(0) && !root.children.isEmpty()) {
            emit(root, rows, true);
        } else {
            emit(root, rows, false);
        }
        return new Grid(
                report.title().isEmpty() ? report.name() : report.title(),
                rowParts.stream().map(AxisPart::name).toList(),
                gridColumns(columns),
                rows,
                new ReportNotes(session, report, frame, planner.notes()).notes(finestOnAxes(), store.announced()));
    }

    private Optional<AxisPart.OfLevel> finestOnAxes() {
        return allParts().stream()
                .filter(AxisPart.OfLevel.class::isInstance)
                .map(AxisPart.OfLevel.class::cast)
                .max(Comparator.comparing(AxisPart.OfLevel::level));
    }

    // ---- what is shown

    private PlanNode planned(String name) {
        return planner.plan(new Measure.Named(name));
    }

    private Shown shown(String name) {
        Target target = session.project().targets().get(name);
        if (target != null) {
            try {
                Definition of = session.project().measures().get(target.measure());
                PlanNode value = planned(target.measure());
                return new Shown(of, value, planner.plan(target.against()), target);
            } catch (MileException e) {
                throw e.at(target.place());
            }
        }
        Definition definition = session.project().measures().get(name);
        if (definition == null) {
            Set<String> known = new LinkedHashSet<>(session.project().measures().keySet());
            known.addAll(session.project().targets().keySet());
            throw MileException.model("unknown measure or target '%s'%s", name, Texts.nearest(name, known));
        }
        return new Shown(definition, planned(name), null, null);
    }

    private void want(PlanNode node) {
        for (PlanNode.Leaf leaf : Evaluator.leaves(node)) {
            if (leaf.never().isEmpty()) {
                store.want(leaf.series(), leaf.how());
            }
        }
    }

    private List<Grid.Column> gridColumns(List<List<Object>> columns) {
        List<Grid.Column> all = new ArrayList<>();
        for (List<Object> column : columns) {
            String member = columnParts.isEmpty() ? null : String.join(" ", labels(columnParts, column));
            for (Shown s : shown) {
                if (s.target() == null) {
                    Definition d = s.definition();
                    all.add(new Grid.Column(d.name(), Grid.Part.MEASURE, d.title(), d.format(), member));
                    continue;
                }
                String name = s.target().name();
                String format = s.definition().format();
                all.add(new Grid.Column(name, Grid.Part.VALUE, s.definition().title(), format, member));
                all.add(new Grid.Column(
                        name, Grid.Part.AGAINST, s.target().against().toString().replace('_', ' '), format, member));
                all.add(new Grid.Column(name, Grid.Part.STATUS, name.replace('_', ' '), "", member));
            }
        }
        return all;
    }

    // ---- the keys of cells

    /** Returns the keys of the time parts (null at the places of members) that occur together. */
    private Set<List<Object>> timeKeys() {
        List<AxisPart> all = allParts();
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
            keys.removeIf(key -> !begins(cellOf(all, key).days()));
            DateRange shownDays = DateRange.EMPTY;
            for (List<Object> key : keys) {
                shownDays = shownDays.union(cellOf(all, key).days());
            }
            hull = shownDays;
        }
        return keys;
    }

    private boolean begins(DateRange days) {
        return !days.isEmpty() && when.contains(days.firstDay());
    }

    /** Returns the keys of levels and places in the year that occur together on days of the dimension, or of recent periods. */
    private Set<List<Object>> levelKeys(List<AxisPart> all, List<Object> chosen) {
        Set<List<Object>> keys = new LinkedHashSet<>();
        List<AxisPart.OfDays> levels = ofDays(all, false);
        if (levels.isEmpty()) {
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
        for (int day = base.firstDay(); day <= base.lastDay(); day++) {
            List<Object> key = keyOf(all, levels, chosen, day);
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
        if (attributes.isEmpty()) {
            keys.add(none);
            return keys;
        }
        DateRange base = !anyLevel && when != null ? when : dimension.range();
        for (int day = base.firstDay(); day <= base.lastDay(); day++) {
            keys.add(keyOf(all, attributes, none, day));
        }
        return keys;
    }

    private static List<AxisPart.OfDays> ofDays(List<AxisPart> parts, boolean attributes) {
        return parts.stream()
                .filter(AxisPart.OfDays.class::isInstance)
                .map(AxisPart.OfDays.class::cast)
                .filter(p -> p instanceof AxisPart.OfAttribute == attributes)
                .toList();
    }

    private static List<Object> keyOf(List<AxisPart> parts, List<AxisPart.OfDays> taken, List<Object> chosen, int day) {
        List<Object> key = new ArrayList<>(chosen);
        for (int i = 0; i < parts.size(); i++) {
            if (parts.get(i) instanceof AxisPart.OfDays part && taken.contains(part)) {
                Optional<Object> one = part.key(day);
                if (one.isEmpty()) {
                    return null;
                }
                key.set(i, one.get());
            }
        }
        return key;
    }

    /** Returns the combinations of members (null at the places of time) that occur in some fact of the report. */
    private Set<List<Object>> memberKeys() {
        List<AxisPart> all = allParts();
        Set<List<Object>> keys = new LinkedHashSet<>();
        List<String> dimensions = all.stream()
                .filter(AxisPart.OfMembers.class::isInstance)
                .map(AxisPart::name)
                .toList();
        if (dimensions.isEmpty()) {
            keys.add(new ArrayList<>(Collections.nCopies(all.size(), null)));
            return keys;
        }
        for (PlanNode.Leaf leaf : allLeaves()) {
            boolean parted = leaf.never().isEmpty()
                    && dimensions.stream()
                            .allMatch(d -> leaf.reach().containsKey(d)
                                    && (leaf.reach().get(d).loop() == PlanNode.Reach.ROW));
            if (!parted) {
                continue;
            }
            for (String[] group : store.members(leaf.series())) {
                List<Object> key = new ArrayList<>();
                for (AxisPart part : all) {
                    String member = null;
                    if (part instanceof AxisPart.OfMembers) {
                        member = group[
                                leaf.series()
                                        .groups()
                                        .indexOf(leaf.reach().get(part.name()).field())];
                    }
                    key.add(part instanceof AxisPart.OfMembers ? member == null ? AxisPart.Blank.KEY : member : null);
                }
                keys.add(key);
            }
        }
        return keys;
    }

    private List<PlanNode.Leaf> allLeaves() {
        List<PlanNode.Leaf> leaves = new ArrayList<>();
        for (Shown s : shown) {
            leaves.addAll(Evaluator.leaves(s.node()));
            if (s.against() != null) {
                leaves.addAll(Evaluator.leaves(s.against()));
            }
        }
        return leaves;
    }

    private static List<Object> joined(List<AxisPart> parts, List<Object> time, List<Object> members, int offset) {
        List<Object> key = new ArrayList<>();
        for (int i = 0; i < parts.size(); i++) {
            key.add(parts.get(i) instanceof AxisPart.OfMembers ? members.get(offset + i) : time.get(offset + i));
        }
        return key;
    }

    private Node rows(Set<List<Object>> times, Set<List<Object>> members) {
        Set<List<Object>> keys = new LinkedHashSet<>();
        for (List<Object> time : times) {
            for (List<Object> member : members) {
                keys.add(joined(rowParts, time, member, 0));
            }
        }
        Node root = new Node(List.of());
        Map<List<Object>, Node> nodes = new LinkedHashMap<>();
        nodes.put(List.of(), root);
        for (List<Object> key : keys) {
            for (int depth = 1; depth <= key.size(); depth++) {
                List<Object> prefix = List.copyOf(key.subList(0, depth));
                if (!nodes.containsKey(prefix)) {
                    Node node = new Node(prefix);
                    nodes.put(prefix, node);
                    nodes.get(prefix.subList(0, depth - 1)).children.add(node);
                }
            }
        }
        return root;
    }

    private List<List<Object>> columnKeys(Set<List<Object>> times, Set<List<Object>> members) {
        Set<List<Object>> keys = new TreeSet<>(orderOf(columnParts));
        for (List<Object> time : times) {
            for (List<Object> member : members) {
                keys.add(joined(columnParts, time, member, rowParts.size()));
            }
        }
        if (columnParts.isEmpty()) {
            keys.add(List.of());
        }
        return List.copyOf(keys);
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

    private static List<String> labels(List<AxisPart> parts, List<Object> keys) {
        List<String> labels = new ArrayList<>();
        for (int i = 0; i < keys.size(); i++) {
            labels.add(parts.get(i).label(keys.get(i)));
        }
        return labels;
    }

    // ---- cells

    /** Returns the cell of some fixed parts; keys may be null for parts that are not fixed. */
    private Cell cellOf(List<AxisPart> parts, List<Object> keys) {
        Map<AxisPart, Object> fixed = new LinkedHashMap<>();
        for (int i = 0; i < keys.size(); i++) {
            if (keys.get(i) != null) {
                fixed.put(parts.get(i), keys.get(i));
            }
        }
        DateRange days = null;
        List<DayFilter> filters = new ArrayList<>();
        Map<String, Members> members = new LinkedHashMap<>();
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
            } else {
                members.put(entry.getKey().name(), Members.of(AxisPart.OfMembers.member(key)));
            }
            days = part == null ? days : days == null ? part : days.intersect(part);
        }
        if (days == null) {
            days = when == null ? dimension.range() : anyLevel ? hull : when;
        } else if (when != null && anyLevel && !hull.isEmpty()) {
            days = days.intersect(hull);
        }
        return new Cell(days, filters, members, finest);
    }

    private static Level finer(Level a, Level b) {
        return a == null || a.isCoarserThan(b) ? b : a;
    }

    private Cell cell(List<Object> row, List<Object> column) {
        List<AxisPart> parts = new ArrayList<>(rowParts.subList(0, row.size()));
        parts.addAll(columnParts.subList(0, column.size()));
        List<Object> keys = new ArrayList<>(row);
        keys.addAll(column);
        return cellOf(parts, keys);
    }

    private List<Value> values(Cell cell, Evaluator.Found found) {
        List<Value> values = new ArrayList<>();
        for (Shown s : shown) {
            Value value = evaluator.evaluate(s.node(), cell, found);
            values.add(value);
            if (s.target() != null) {
                Value against = evaluator.evaluate(s.against(), cell, found);
                values.add(against);
                values.add(s.target()
                        .status(value, against)
                        .map(status -> Value.of(status.ordinal()))
                        .orElse(Value.BLANK));
            }
        }
        return values;
    }

    private List<Value> blanks() {
        return Collections.nCopies(shown.stream().mapToInt(Shown::width).sum(), Value.BLANK);
    }

    /** Works all rows out, leaves first; a row of a cell that does not exist, such as week 53 of a short year, is blank. */
    private void fill(Node node, List<List<Object>> columns) {
        node.children.forEach(child -> fill(child, columns));
        boolean leaf = node.keys.size() == rowParts.size();
        if (!leaf && node.children.isEmpty()) {
            return;
        }
        Evaluator.Found found = new Evaluator.Found();
        List<Value> values = new ArrayList<>();
        for (List<Object> column : columns) {
            Cell cell = cell(node.keys, column);
            boolean occurs = !cell.days().isEmpty() && !(leaf && when != null && anyLevel && !begins(cell.days()));
            values.addAll(occurs ? values(cell, found) : blanks());
        }
        node.values = values;
        node.found = found.any;
        sortNode.ifPresent(
                by -> node.sortedBy = evaluator.evaluate(by, cell(node.keys, List.of()), new Evaluator.Found()));
    }

    private void prune(Node node) {
        if (report.keepEmpty()) {
            return;
        }
        node.children.forEach(this::prune);
        node.children.removeIf(child -> child.keys.size() == rowParts.size() ? !child.found : child.children.isEmpty());
    }

    // ---- order, and the first rows

    private void order(Node node) {
        node.children.forEach(this::order);
        if (node.children.isEmpty()) {
            return;
        }
        int depth = node.keys.size();
        AxisPart part = rowParts.get(depth);
        Comparator<Node> byKey = Comparator.comparing(n -> n.keys.get(depth), part.order());
        // time keeps its order above what is sorted, so that years do not jump about
        boolean sorted = depth == rowParts.size() - 1 || part instanceof AxisPart.OfMembers;
        if (sortNode.isEmpty() || !sorted) {
            node.children.sort(byKey);
            return;
        }
        boolean descending = report.sort().map(Report.Sort::descending).orElse(true);
        node.children.sort((a, b) -> {
            if (a.sortedBy.isBlank() || b.sortedBy.isBlank()) {
                int blanks = Boolean.compare(a.sortedBy.isBlank(), b.sortedBy.isBlank());
                return blanks != 0 ? blanks : byKey.compare(a, b);
            }
            int c = a.sortedBy.compareTo(b.sortedBy);
            return c != 0 ? (descending ? -c : c) : byKey.compare(a, b);
        });
    }

    /** Leaves the first rows of each parent at the finest part, and one row for the rest. */
    private void cutTop(Node node, PlanNode by, List<List<Object>> columns) {
        if (node.keys.size() < rowParts.size() - 1) {
            node.children.forEach(child -> cutTop(child, by, columns));
            return;
        }
        int count = report.top().orElseThrow().count();
        if (node.children.size() <= count) {
            return;
        }
        Map<Node, Value> of = new LinkedHashMap<>();
        AxisPart part = rowParts.get(node.keys.size());
        node.children.sort(Comparator.comparing(n -> n.keys.get(n.keys.size() - 1), part.order()));
        node.children.forEach(
                child -> of.put(child, evaluator.evaluate(by, cell(child.keys, List.of()), new Evaluator.Found())));
        List<Node> ranked = new ArrayList<>(node.children);
        ranked.sort((a, b) -> {
            Value x = of.get(a);
            Value y = of.get(b);
            return x.isBlank() || y.isBlank() ? Boolean.compare(x.isBlank(), y.isBlank()) : -x.compareTo(y);
        });
        List<Node> first = ranked.subList(0, count);
        List<Node> rest = ranked.subList(count, ranked.size());
        node.rest = rest(node, part, first, rest, columns);
        node.children.retainAll(new ArrayList<>(first));
    }

    private Node rest(Node parent, AxisPart part, List<Node> first, List<Node> rest, List<List<Object>> columns) {
        Node node = new Node(parent.keys);
        node.values = new ArrayList<>();
        for (List<Object> column : columns) {
            Cell whole = cell(parent.keys, column);
            Map<String, Members> members = new LinkedHashMap<>(whole.members());
            List<DayFilter> filters = new ArrayList<>(whole.filters());
            DateRange days = whole.days();
            if (part instanceof AxisPart.OfMembers) {
                Set<String> left = new HashSet<>();
                first.forEach(f -> left.add(AxisPart.OfMembers.member(f.keys.get(f.keys.size() - 1))));
                members.put(part.name(), new Members(null, left));
            } else {
                List<Cell> cells = rest.stream().map(r -> cell(r.keys, column)).toList();
                days = DateRange.EMPTY;
                for (Cell c : cells) {
                    days = days.union(c.days());
                }
                filters.add(new DayFilter(part.name(), cells, day -> cells.stream()
                        .anyMatch(c -> c.days().contains(day)
                                && c.filters().stream().allMatch(f -> f.keeps().test(day)))));
            }
            node.values.addAll(values(new Cell(days, filters, members, whole.finest()), new Evaluator.Found()));
        }
        node.found = true;
        node.sortedBy = Value.of(rest.size());
        return node;
    }

    /** Tells whether a total over the parts from the depth on has a meaning: recent periods overlap, so theirs has none. */
    private boolean hasTotal(int depth) {
        return rowParts.subList(depth, rowParts.size()).stream().noneMatch(AxisPart.OfRecent.class::isInstance);
    }

    private void emit(Node node, List<Grid.Row> rows, boolean self) {
        int depth = node.keys.size();
        boolean leaf = depth == rowParts.size();
        if (leaf || self) {
            Grid.Kind kind = leaf ? Grid.Kind.LEAF : depth == 0 ? Grid.Kind.TOTAL : Grid.Kind.SUBTOTAL;
            rows.add(new Grid.Row(
                    kind,
                    labels(rowParts, node.keys),
                    cell(node.keys, List.of()).days(),
                    node.values));
        }
        for (Node child : node.children) {
            emit(child, rows, report.totals() && hasTotal(depth + 1));
        }
        if (node.rest != null) {
            List<String> labels = new ArrayList<>(labels(rowParts, node.keys));
            labels.add(Texts.count(node.rest.sortedBy.decimal().longValue(), "other"));
            rows.add(new Grid.Row(
                    Grid.Kind.REST, labels, cell(node.keys, List.of()).days(), node.rest.values));
        }
    }

    /** Returns the period that the as-of date cuts, at the finest level of the report. */
    static Optional<CalendarPeriod> cutPeriod(AxisPart.OfLevel finest, int asOf) {
        return finest.calendar()
                .period(finest.level(), asOf)
                .filter(p -> p.range().lastDay() > asOf);
    }
}
