package dev.mile.report;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.dimension.DateColumn;
import dev.mile.dimension.DateDimension;
import dev.mile.dimension.DateRangeFinder;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.rows.SpreadingEngine;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Operand;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.report.plan.NameResolver;
import dev.mile.span.SpanContext;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.DoubleConsumer;
import java.util.stream.Collectors;

/**
 * A project and the engine that holds its rows: what reports are computed with.
 *
 * <pre>{@code
 * try (Session session = Session.open(project, engine)) {
 *     Grid grid = session.report("trading");
 * }
 * }</pre>
 *
 * <p>Answers of the engine are kept while the session is open. Not for use by several threads.
 */
public final class Session implements AutoCloseable {
    /** What part of the memory the totals of a report may take. */
    private static final int MEMORY_SHARE = 4;

    private final Project project;
    private final Engine engine;
    private final Map<String, List<DateCount>> dates = new HashMap<>();
    private DateDimension dimension;
    private final List<DateRangeFinder.ExcludedDates> excludedDates = new ArrayList<>();
    private Integer asOf;
    private boolean owner = true;
    private DoubleConsumer progress = share -> {};
    private long memory = Runtime.getRuntime().maxMemory() / MEMORY_SHARE;
    private NameResolver catalog;
    private final Map<String, FactAccounts> accounts = new LinkedHashMap<>();
    private final Map<String, Boolean> whole = new HashMap<>();

    private Session(Project project, Engine engine, Integer asOf) {
        this.project = project;
        this.engine = engine == null ? null : new SpreadingEngine(engine, project.facts(), project.lookups());
        this.asOf = asOf;
    }

    /** Opens a session; closing it closes the engine. */
    public static Session open(Project project, Engine engine) {
        return new Session(project, engine, project.asOf().map(EpochDays::of).orElse(null));
    }

    /** Opens a session as of another day than the project says. */
    public static Session open(Project project, Engine engine, LocalDate asOf) {
        return new Session(project, engine, EpochDays.of(asOf));
    }

    /** Returns what reports are computed of. */
    public Project project() {
        return project;
    }

    private List<DateCount> dates(String fact) {
        return dates.computeIfAbsent(fact, engine::dates);
    }

    /** Returns the date dimension: its range is found in the facts on the first call where the project says so. */
    public DateDimension dimension() {
        if (dimension != null) {
            return dimension;
        }
        DateRange first = end(project.rangeFrom());
        DateRange last = end(project.rangeTo());
        if (first.isEmpty() || last.isEmpty()) {
            throw MileException.invalidModel(
                    "the facts have no dates from which the date dimension could be ranged; set `dates: {from: 2025-01-01, to:"
                            + " 2026-12-31}`");
        }
        LocalDate from = project.rangeFrom().date() == null
                ? first.first()
                : project.rangeFrom().date();
        LocalDate to = project.rangeTo().date() == null
                ? last.last()
                : project.rangeTo().date();
        if (to.isBefore(from)) {
            throw MileException.invalidModel(
                    "the date dimension would begin on %s, after its end on %s; mend `dates: from` and `to`", from, to);
        }
        DateRange asked = DateRange.of(from, to);
        DateDimension bare = build(asked, Optional.empty());
        if (asOf == null) {
            asOf = latest(bare.range());
        }
        dimension = build(asked, Optional.ofNullable(asOf));
        return dimension;
    }

    private DateDimension build(DateRange range, Optional<Integer> day) {
        DateDimension.Builder builder =
                DateDimension.over(range).weekStarts(project.weekStarts()).locale(project.locale());
        project.calendars().forEach(builder::calendar);
        project.workingWeeks().values().forEach(builder::working);
        project.events().forEach(builder::events);
        day.ifPresent(d -> builder.asOf(EpochDays.toDate(d)));
        return builder.build();
    }

    private DateRange end(DateBound end) {
        if (end.date() != null) {
            return DateRange.of(end.date(), end.date());
        }
        DateRangeFinder all = new DateRangeFinder();
        for (Fact fact : project.facts().values()) {
            boolean named =
                    end.sources().stream().anyMatch(s -> s.equals(fact.name()) || s.startsWith(fact.name() + "."));
            if (end.sources().isEmpty() ? fact.plan() : !named) {
                continue;
            }
            for (DateCount date : dates(fact.name())) {
                String source = fact.name() + "." + date.role();
                if (end.sources().isEmpty()
                        || end.sources().contains(fact.name())
                        || end.sources().contains(source)) {
                    all.add(source, date.day(), date.rows());
                }
            }
        }
        DateRangeFinder.Result found = all.result();
        // both ends of the range may be found in the same dates, which are then left out once
        found.excluded().stream().filter(left -> !excludedDates.contains(left)).forEach(excludedDates::add);
        return found.range();
    }

    private Integer latest(DateRange range) {
        Optional<Fact> fact = project.facts().values().stream().findFirst();
        Integer latest = null;
        if (fact.isPresent()) {
            for (DateCount date : dates(fact.get().name())) {
                boolean placed = date.day() >= range.firstEpochDay() && date.day() <= range.lastEpochDay();
                if (placed && date.role().equals(fact.get().defaultRole()) && (latest == null || date.day() > latest)) {
                    latest = (int) date.day();
                }
            }
        }
        return latest;
    }

    /** Returns the dates that were left out when the range was found; empty where the range was given. */
    public List<DateRangeFinder.ExcludedDates> excludedDates() {
        dimension();
        return List.copyOf(excludedDates);
    }

    /** Returns a row of what was left out, as people can find it in the source; empty where none is known. */
    public Optional<String> example(DateRangeFinder.ExcludedDates left) {
        int dot = left.source().indexOf('.');
        return engine.example(
                left.source().substring(0, dot),
                left.source().substring(dot + 1),
                left.first().toEpochDay());
    }

    /** Returns the last day for which actuals count; empty where there is no fact to tell it. */
    public Optional<LocalDate> asOf() {
        dimension();
        return Optional.ofNullable(asOf).map(EpochDays::toDate);
    }

    SpanContext frame(String calendar) {
        DateRange range = dimension().range();
        // without a fact nothing is actual, so nothing is cut
        int day = asOf == null ? range.lastEpochDay() : asOf;
        return new SpanContext(
                project.calendars(), calendar.isEmpty() ? project.defaultCalendar() : calendar, day, range);
    }

    /** Returns what the project knows of days, for calls to engines. */
    public DayContext dayContext() {
        return new ProjectDays(project, dimension(), frame("").asOf());
    }

    /** Returns what names stand for. */
    public NameResolver catalog() {
        if (catalog == null) {
            Set<String> attributes =
                    dimension().columns().stream().map(DateColumn::name).collect(Collectors.toSet());
            catalog = new NameResolver(project.facts(), project.lookups(), attributes, this::columns);
        }
        return catalog;
    }

    private Map<String, ValueType> columns(String table) {
        return engine.columns(table);
    }

    Engine engine() {
        return engine;
    }

    /**
     * Has somebody told which share of a report's groups is worked out, from 0 to 1, where they are worked out while they come from
     * the engine and their number is known; 1 at the end.
     */
    public void onProgress(DoubleConsumer progress) {
        this.progress = progress;
    }

    DoubleConsumer progress() {
        return progress;
    }

    /** Sets how many bytes the totals of a report may take before it is worked out one member at a time. */
    void holdAtMost(long bytes) {
        memory = bytes;
    }

    /** Returns the accounts of every row of a fact. */
    public FactAccounts accounts(String fact) {
        return accounts.computeIfAbsent(fact, name -> {
            Fact of = catalog().fact(name);
            List<Operand.Field> amounts = Amounts.of(project, catalog(), of);
            return engine.accounts(name, amounts, dayContext());
        });
    }

    /** Remembers what a pass over a fact has seen of its rows. */
    void counted(String fact, String role, Map<RoleAccounts.RowOutcome, Long> rows, boolean unknownKeys) {
        boolean placed = rows.keySet().stream().allMatch(part -> part == RoleAccounts.RowOutcome.PLACED);
        whole.merge(fact + "." + role, placed && !unknownKeys, Boolean::logicalAnd);
    }

    /**
     * Tells whether a pass has seen that every row of the fact is placed in the role, and no key is unknown to the lookups it read;
     * then there is nothing to account for.
     */
    boolean isWhole(String fact, String role) {
        return whole.getOrDefault(fact + "." + role, false)
                && engine.rejected(fact).lines() == 0;
    }

    /** Computes the report of the name. */
    public Grid report(String name) {
        return report(project.report(name));
    }

    /**
     * Computes a report.
     *
     * @throws MileException if it names what is not there, or data cannot be read
     */
    public Grid report(Report report) {
        Grid.Collector grid = new Grid.Collector();
        report(report, false, grid);
        return grid.grid();
    }

    /** Computes a report as {@link #report(Report)} does, each value with the days that it looked at. */
    public Grid reportWithWindows(Report report) {
        Grid.Collector grid = new Grid.Collector();
        report(report, true, grid);
        return grid.grid();
    }

    /** Computes a report and hands its rows over as they are done, so that one longer than the memory can be written. */
    public void report(Report report, GridSink sink) {
        report(report, false, sink);
    }

    /**
     * Returns the report of the parts of one period, at the next level that the report or its calendar has.
     *
     * @param period its label
     * @throws MileException if no calendar has the period, or it is a day
     */
    public Report drill(Report report, String period) {
        return Drill.into(report, period, frame(report.calendar()));
    }

    private void report(Report report, boolean windows, GridSink sink) {
        try {
            if (!report.calendar().isEmpty() && !project.calendars().containsKey(report.calendar())) {
                throw MileException.invalidModel(
                        "unknown calendar '%s'%s",
                        report.calendar(),
                        Messages.didYouMean(
                                report.calendar(), project.calendars().keySet()));
            }
            try {
                new GridBuilder(this, report, windows, memory).run(sink);
            } catch (TooManyGroups e) {
                new GridBuilder(this, report, windows, 0).run(sink);
            }
        } catch (MileException e) {
            throw e.withLocation(report.place());
        }
    }

    /**
     * Explains the figure of a measure in a period: the days of each step, the rows found, each operand's value.
     *
     * @param text how the measure was asked for
     * @param at the label of a period, or a date
     * @param where the rows that count; empty for all
     * @param calendar the calendar of steps that name none; empty for the first
     * @throws MileException if a name or the period is unknown
     */
    public Explanation explain(String text, Measure measure, String at, Optional<Condition> where, String calendar) {
        return new Explainer(this, calendar).explain(text, measure, at, where);
    }

    /** Checks the model and its data; worst first is for the caller. */
    public List<Finding> check() {
        return new Checks(this).run();
    }

    /** Returns a session over the same rows with one more measure; closing it leaves this one open. */
    Session with(String name, Measure is) {
        Session more = new Session(project.withMeasure(name, is), this);
        more.dimension = dimension;
        more.excludedDates.addAll(excludedDates);
        more.asOf = asOf;
        return more;
    }

    private Session(Project project, Session from) {
        this.project = project;
        this.engine = from.engine;
        this.owner = false;
    }

    @Override
    public void close() {
        if (engine != null && owner) {
            engine.close();
        }
    }
}
