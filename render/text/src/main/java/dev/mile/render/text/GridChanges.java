package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.internal.EpochDays;
import dev.mile.internal.LocalFormat;
import dev.mile.measure.NumberStyle;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.FactDays;
import dev.mile.report.Grid;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * What changed in a report since an earlier run: as grids, so that they can be written like any report.
 *
 * @param cells the rows of which a figure changed; each figure as it was, as it is, and the difference
 * @param days by fact and role, the days on which rows came, went or changed; empty where the earlier run did not keep them
 * @param closedPeriods the labels of changed rows whose days were over when the earlier run was made
 */
public record GridChanges(Grid cells, List<Grid> days, List<String> closedPeriods) {
    private static final String WAS = "was";
    private static final String IS = "is";
    private static final String DIFFERENCE = "difference";

    /**
     * Compares a report with an earlier one.
     *
     * @param was the earlier report
     * @param is the report now
     * @param days what its facts have on each day now
     * @return what changed
     * @throws MileException if they are not the same report of the same model
     */
    public static GridChanges between(GridSnapshot was, Grid is, List<FactDays> days) {
        requireNonNull(was, "was is null");
        requireNonNull(is, "is is null");
        requireNonNull(days, "days is null");
        Grid.Header header = is.header();
        check(was, "model", was.model(), header.project());
        check(was, "report", was.report(), header.report());
        if (!was.keys().equals(is.keys())) {
            throw ModelException.of(
                    "%s has rows by %s, and the report has %s now; compare it with a file that has the same rows",
                    was.file(), String.join(", ", was.keys()), String.join(", ", is.keys()));
        }
        return new Comparison(was, is).result(days);
    }

    private static void check(GridSnapshot was, String what, String before, String now) {
        if (!before.equals(now)) {
            throw ModelException.of(
                    "%s is of the %s '%s', not of '%s'; name the file that was written for it",
                    was.file(), what, before, now);
        }
    }

    /** Compares one report. */
    private static final class Comparison {
        private final GridSnapshot was;
        private final Grid is;
        private final LocalFormat local;

        /** The columns that both have, by their place now and before. */
        private final Map<Integer, Integer> columns = new LinkedHashMap<>();

        private final List<String> notes = new ArrayList<>();

        Comparison(GridSnapshot was, Grid is) {
            this.was = was;
            this.is = is;
            this.local = LocalFormat.of(is.header().locale());
            List<String> before =
                    was.columns().stream().map(GridSnapshot.SavedColumn::name).toList();
            for (int c = 0; c < is.columns().size(); c++) {
                Grid.Column column = is.columns().get(c);
                int at = before.indexOf(column.header());
                if (at < 0) {
                    notes.add(column.header() + " was not in the earlier report.");
                    continue;
                }
                columns.put(c, at);
                if (!was.columns().get(at).definition().equals(column.definition())) {
                    notes.add(column.header() + " was defined otherwise: "
                            + was.columns().get(at).definition() + "; now " + column.definition() + ".");
                }
            }
            List<String> now = is.columns().stream().map(Grid.Column::header).toList();
            before.stream()
                    .filter(name -> !now.contains(name))
                    .forEach(name -> notes.add(name + " is no longer in the report."));
        }

        GridChanges result(List<FactDays> days) {
            List<ChangedRow> rows = new ArrayList<>();
            Set<List<String>> seen = new LinkedHashSet<>();
            for (Grid.Row row : is.rows()) {
                List<String> key = GridSnapshot.rowKey(row.kind().name().toLowerCase(Locale.ROOT), row.labels());
                seen.add(key);
                GridSnapshot.SavedRow before = was.rows().get(key);
                add(rows, row.kind(), row.labels(), row.days(), before, row);
            }
            was.rows().forEach((key, before) -> {
                if (!seen.contains(key)) {
                    add(
                            rows,
                            Grid.RowKind.valueOf(key.get(0).toUpperCase(Locale.ROOT)),
                            before.labels(),
                            before.days(),
                            before,
                            null);
                }
            });
            List<Integer> changed = columns.keySet().stream()
                    .filter(c -> rows.stream().anyMatch(row -> row.changed().contains(c)))
                    .toList();
            List<String> closed = rows.stream()
                    .filter(row -> row.kind() != Grid.RowKind.REST && isClosed(row.days()))
                    .map(row -> row.labels().isEmpty() ? "Total" : String.join(" / ", row.labels()))
                    .distinct()
                    .toList();
            List<Grid> byFact = days(days);
            notes.add(0, since());
            if (rows.isEmpty()) {
                notes.add("No figure changed.");
            } else if (!closed.isEmpty()) {
                notes.add("Changed though it was over: "
                        + String.join(", ", closed.subList(0, Math.min(12, closed.size())))
                        + (closed.size() > 12 ? " and " + (closed.size() - 12) + " more" : "") + ".");
            }
            if (was.days().isEmpty()) {
                notes.add("Which rows came or went is not known: " + was.file().getFileName()
                        + " was written without --days.");
            } else if (byFact.isEmpty()) {
                notes.add("No row of its facts came, went or changed.");
            }
            Grid.Header header = is.header();
            Grid cells = new Grid(
                    new Grid.Header(
                            header.project(),
                            header.report(),
                            header.title() + ": changes",
                            header.keys(),
                            changed.stream()
                                    .flatMap(c -> three(is.columns().get(c)).stream())
                                    .toList(),
                            header.asOf(),
                            Optional.empty(),
                            header.choice(),
                            header.cutPeriods(),
                            header.locale()),
                    rows.stream().map(row -> row.row(changed, is.columns())).toList(),
                    notes);
            return new GridChanges(cells, byFact, closed);
        }

        private String since() {
            return "Changes since " + was.file().getFileName()
                    + was.asOf().map(day -> ", as of " + local.date(day)).orElse("")
                    + is.header()
                            .asOf()
                            .map(day -> "; now as of " + local.date(day))
                            .orElse("") + ".";
        }

        private boolean isClosed(DateRange days) {
            return !days.isEmpty()
                    && was.asOf()
                            .map(day -> days.lastEpochDay() <= EpochDays.of(day))
                            .orElse(false);
        }

        private void add(
                List<ChangedRow> rows,
                Grid.RowKind kind,
                List<String> labels,
                DateRange days,
                GridSnapshot.SavedRow before,
                Grid.Row now) {
            Map<Integer, Change> changes = new LinkedHashMap<>();
            columns.forEach((c, at) -> {
                Optional<String> old =
                        before == null ? Optional.empty() : before.values().get(at);
                Change change = is.columns().get(c).role() == Grid.ColumnRole.STATUS
                        ? Change.ofStatus(old, now == null ? Optional.empty() : now.status(c))
                        : Change.of(
                                old, now == null ? Value.UNKNOWN : now.values().get(c));
                changes.put(c, change);
            });
            if (changes.values().stream().anyMatch(Change::isChange)) {
                rows.add(new ChangedRow(kind, labels, days, changes));
            }
        }

        private static List<Grid.Column> three(Grid.Column column) {
            List<String> parts =
                    column.role() == Grid.ColumnRole.STATUS ? List.of(WAS, IS) : List.of(WAS, IS, DIFFERENCE);
            return parts.stream()
                    .map(part -> new Grid.Column(
                            column.name(),
                            column.role(),
                            column.label(),
                            column.style(),
                            Optional.of(column.member().map(m -> m + " " + part).orElse(part)),
                            column.definition(),
                            false))
                    .toList();
        }

        // ---- days

        private List<Grid> days(List<FactDays> now) {
            List<Grid> grids = new ArrayList<>();
            for (FactDays fact : now) {
                was.days().stream()
                        .filter(before -> before.fact().equals(fact.fact())
                                && before.role().equals(fact.role())
                                && before.amounts().equals(fact.amounts()))
                        .findFirst()
                        .flatMap(before -> days(before, fact))
                        .ifPresent(grids::add);
            }
            return grids;
        }

        private Optional<Grid> days(FactDays before, FactDays now) {
            FactDays.Total none = new FactDays.Total(
                    0, now.amounts().stream().map(a -> BigDecimal.ZERO).toList());
            Set<LocalDate> days = new TreeSet<>(before.days().keySet());
            days.addAll(now.days().keySet());
            List<Grid.Row> rows = new ArrayList<>();
            long came = 0;
            long went = 0;
            int same = 0;
            for (LocalDate day : days) {
                FactDays.Total old = before.days().getOrDefault(day, none);
                FactDays.Total is = now.days().getOrDefault(day, none);
                if (old.rows() == is.rows() && sameSums(old, is)) {
                    continue;
                }
                came += Math.max(0, is.rows() - old.rows());
                went += Math.max(0, old.rows() - is.rows());
                same += old.rows() == is.rows() ? 1 : 0;
                List<Value> values = new ArrayList<>(
                        List.of(Value.of(old.rows()), Value.of(is.rows()), Value.of(is.rows() - old.rows())));
                for (int a = 0; a < now.amounts().size(); a++) {
                    BigDecimal first = old.sums().get(a);
                    BigDecimal last = is.sums().get(a);
                    values.addAll(List.of(Value.of(first), Value.of(last), Value.of(last.subtract(first))));
                }
                rows.add(new Grid.Row(
                        Grid.RowKind.LEAF,
                        List.of(day.toString()),
                        DateRange.of(day, day),
                        List.of(),
                        values,
                        Map.of(),
                        List.of()));
            }
            if (rows.isEmpty()) {
                return Optional.empty();
            }
            String name = now.fact() + " by " + now.role();
            String sentence = "On " + local.quantity(rows.size(), "day") + ", rows of " + name + " changed: "
                    + local.quantity(came, "row") + " came, " + local.quantity(went, "row") + " went"
                    + (same > 0 ? "; on " + local.quantity(same, "day") + " as many rows have other amounts" : "")
                    + ".";
            notes.add(sentence);
            List<Grid.Column> columns = new ArrayList<>(three(column("rows", "Rows")));
            now.amounts().forEach(amount -> columns.addAll(three(column(amount, amount))));
            Grid.Header header = is.header();
            return Optional.of(new Grid(
                    new Grid.Header(
                            header.project(),
                            header.report(),
                            "Days on which rows of " + name + " changed",
                            List.of(new Grid.Key("date", Grid.AxisKind.PERIOD)),
                            columns,
                            header.asOf(),
                            Optional.empty(),
                            Optional.empty(),
                            List.of(),
                            header.locale()),
                    rows,
                    List.of(sentence)));
        }

        private static boolean sameSums(FactDays.Total a, FactDays.Total b) {
            for (int i = 0; i < a.sums().size(); i++) {
                if (a.sums().get(i).compareTo(b.sums().get(i)) != 0) {
                    return false;
                }
            }
            return true;
        }

        private static Grid.Column column(String name, String label) {
            return new Grid.Column(
                    name, Grid.ColumnRole.MEASURE, label, NumberStyle.PLAIN, Optional.empty(), name, false);
        }
    }

    /** A figure, or a status, as it was and as it is. */
    private record Change(Value was, Value is, Optional<TargetStatus> statusBefore, Optional<TargetStatus> statusNow) {
        static Change of(Optional<String> before, Value now) {
            Value was = before.map(digits -> now.isExact() || now.isBlank()
                            ? Value.of(new BigDecimal(digits))
                            : Value.of(Double.parseDouble(digits)))
                    .orElse(Value.NOTHING);
            return new Change(was, now, Optional.empty(), Optional.empty());
        }

        static Change ofStatus(Optional<String> before, Optional<TargetStatus> now) {
            return new Change(
                    Value.UNKNOWN,
                    Value.UNKNOWN,
                    before.map(word -> TargetStatus.valueOf(word.toUpperCase(Locale.ROOT))),
                    now);
        }

        boolean isChange() {
            boolean figures = was.isBlank() || is.isBlank() ? was.isBlank() != is.isBlank() : !was.equals(is);
            return figures || !statusBefore.equals(statusNow);
        }

        Value difference() {
            if (was.isBlank() || is.isBlank()) {
                return Value.NOTHING;
            }
            return was.isExact() && is.isExact()
                    ? Value.of(is.decimal().subtract(was.decimal()))
                    : Value.of(is.toDouble() - was.toDouble());
        }
    }

    /** A row with a figure that changed. */
    private record ChangedRow(Grid.RowKind kind, List<String> labels, DateRange days, Map<Integer, Change> changes) {
        Set<Integer> changed() {
            Set<Integer> changed = new LinkedHashSet<>();
            changes.forEach((c, change) -> {
                if (change.isChange()) {
                    changed.add(c);
                }
            });
            return changed;
        }

        /** Returns the row with the columns of the figures that changed anywhere; those that did not here are blank. */
        Grid.Row row(List<Integer> columns, List<Grid.Column> of) {
            List<Value> values = new ArrayList<>();
            Map<Integer, TargetStatus> statuses = new HashMap<>();
            for (int c : columns) {
                Change change = changes.get(c);
                if (of.get(c).role() == Grid.ColumnRole.STATUS) {
                    if (change.isChange()) {
                        change.statusBefore().ifPresent(status -> statuses.put(values.size(), status));
                        change.statusNow().ifPresent(status -> statuses.put(values.size() + 1, status));
                    }
                    values.addAll(List.of(Value.UNKNOWN, Value.UNKNOWN));
                } else if (change.isChange()) {
                    values.addAll(List.of(change.was(), change.is(), change.difference()));
                } else {
                    values.addAll(List.of(Value.NOTHING, Value.NOTHING, Value.NOTHING));
                }
            }
            return new Grid.Row(kind, labels, days, List.of(), values, statuses, List.of());
        }
    }
}
