package dev.mile.report.run;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.SupportedDates;
import dev.mile.dimension.DateColumn;
import dev.mile.dimension.DateDimension;
import dev.mile.dimension.ExcludedDates;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.rows.SpreadingEngine;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import dev.mile.internal.InterruptibleLock;
import dev.mile.internal.LocalFormat;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.report.DateBound;
import dev.mile.report.Project;
import dev.mile.report.plan.NameResolver;
import dev.mile.report.plan.PlanningContext;
import dev.mile.report.plan.TotalsPlan;
import dev.mile.report.series.TotalsReader;
import dev.mile.span.SpanContext;
import dev.mile.workday.WorkingWeek;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.LongSummaryStatistics;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * A project and the engine that holds its rows: the range of its dates, its as-of date, its names and the accounts of its rows, each
 * asked of the engine once, also where several threads ask at the same time. Safe for use by several threads.
 */
public final class ProjectData implements AutoCloseable {
    /** The dimension and what was found on the way to it. */
    private record Dates(DateDimension dimension, OptionalInt asOf, List<ExcludedDates> excluded) {}

    private record RoleOfFact(String fact, String role) {}

    private final InterruptibleLock lock = new InterruptibleLock();
    private final Project project;
    private final LocalFormat local;
    private final boolean ownsEngine;
    private volatile boolean closed;
    private final Engine engine;
    private final Optional<LocalDate> givenAsOf;
    private final Map<String, List<DateCount>> datesByFact = new HashMap<>();
    private final Map<String, FactAccounts> accountsByFact = new LinkedHashMap<>();
    private final Map<RoleOfFact, Boolean> fullyPlaced = new HashMap<>();
    private final Map<RoleOfFact, DateRange> placedDays = new HashMap<>();
    private final Map<RoleOfFact, DateRange> coverage = new HashMap<>();
    private Optional<StrayDates> strayDates = Optional.empty();
    private final Map<String, Map<String, Map<String, DateRange>>> memberDaysByLookup = new HashMap<>();
    private Optional<Dates> dates = Optional.empty();
    private Optional<NameResolver> names = Optional.empty();

    /**
     * Returns the data of a project.
     *
     * @param engine the engine that holds its rows
     * @param ownsEngine whether the engine is closed with this
     * @param asOf the as-of date; empty for the project's own, or the latest day of its default fact
     */
    public ProjectData(Project project, Engine engine, boolean ownsEngine, Optional<LocalDate> asOf) {
        this.project = project;
        this.ownsEngine = ownsEngine;
        this.local = LocalFormat.of(project.locale());
        checkSchema(project, engine.schema());
        this.engine = new SpreadingEngine(engine);
        this.givenAsOf = asOf.or(project::asOf);
    }

    /** Refuses an engine that answers for other definitions than the project's: it would keep other rows, or place them otherwise. */
    private static void checkSchema(Project project, DataSchema schema) {
        project.facts()
                .forEach((name, fact) ->
                        checkDefinition("fact", name, fact, schema.facts().get(name)));
        project.lookups()
                .forEach((name, lookup) ->
                        checkDefinition("lookup", name, lookup, schema.lookups().get(name)));
    }

    private static void checkDefinition(String kind, String name, Object own, @Nullable Object ofEngine) {
        // mostly the same object: its equality, which Java makes when it is first used, need not be asked
        if (own != ofEngine && !own.equals(ofEngine)) {
            throw ModelException.of(
                    "the engine %s the %s '%s'; open it over the project that it is used with",
                    ofEngine == null ? "does not know" : "has another definition of", kind, name);
        }
    }

    private ProjectData(Project project, ProjectData from) {
        this.project = project;
        this.ownsEngine = false;
        this.local = from.local;
        this.engine = from.engine;
        this.givenAsOf = from.givenAsOf;
        this.dates = from.dates;
        this.strayDates = from.strayDates;
    }

    /** Returns the data of the same project with one more measure; closing it closes nothing. */
    ProjectData withMeasure(String name, Measure measure) {
        return new ProjectData(project.withMeasure(name, measure), this);
    }

    /** Returns how dates and counts are written in sentences. */
    public LocalFormat local() {
        return local;
    }

    /** Returns the project. */
    public Project project() {
        return project;
    }

    Engine engine() {
        return engine;
    }

    // ---- dates

    private List<DateCount> dates(String fact) {
        return lock.during(() -> datesByFact.computeIfAbsent(fact, engine::dates));
    }

    private Dates dates() {
        return lock.during(() -> {
            if (dates.isEmpty()) {
                dates = Optional.of(findDates());
            }
            return dates.get();
        });
    }

    private Dates findDates() {
        List<ExcludedDates> excluded = new ArrayList<>();
        DateRange first = resolve(project.rangeFrom(), excluded);
        DateRange last = resolve(project.rangeTo(), excluded);
        if (first.isEmpty() || last.isEmpty()) {
            List<String> unread = new ArrayList<>();
            project.facts().forEach((name, fact) -> engine.unread(name, fact.column(fact.defaultRole()), ValueType.DATE)
                    .ifPresent(values -> unread.add(name + ": " + values.describe("dates"))));
            String why = String.join("; ", unread);
            String unknown = "no fact has a usable date, so the range of the date dimension is unknown; %s";
            throw ModelException.of(unknown, why.isEmpty() ? "give it: Project.Builder.dates(from, to)" : why)
                    .withModelWords(unknown, why.isEmpty() ? "set `dates: {from: 2025-01-01, to: 2026-12-31}`" : why);
        }
        if (last.last().isBefore(first.first())) {
            throw ModelException.of(
                            "the date dimension would begin on %s, after its end on %s; correct one of them",
                            first.first(), last.last())
                    .withModelWords(
                            "the date dimension would begin on %s, after its end on %s; correct `dates: from` and `to`",
                            first.first(), last.last());
        }
        DateRange range = DateRange.of(first.first(), last.last());
        if (givenAsOf.isPresent()) {
            return new Dates(
                    dimension(range, givenAsOf), OptionalInt.of(EpochDays.of(givenAsOf.get())), List.copyOf(excluded));
        }
        OptionalInt asOf = latestActualDay(dimension(range, Optional.empty()).range());
        Optional<LocalDate> day = asOf.isPresent() ? Optional.of(EpochDays.toDate(asOf.getAsInt())) : Optional.empty();
        return new Dates(dimension(range, day), asOf, List.copyOf(excluded));
    }

    private DateDimension dimension(DateRange range, Optional<LocalDate> asOf) {
        DateDimension.Builder builder =
                DateDimension.over(range).weekStarts(project.weekStarts()).locale(project.locale());
        project.calendars().forEach(builder::calendar);
        project.workingWeeks().values().forEach(builder::working);
        project.events().forEach(builder::events);
        asOf.ifPresent(builder::asOf);
        return builder.build();
    }

    private DateRange resolve(DateBound bound, List<ExcludedDates> excluded) {
        if (bound instanceof DateBound.At at) {
            return DateRange.of(at.date(), at.date());
        }
        DateBound.FromFacts from = (DateBound.FromFacts) bound;
        DateRangeFinder finder = new DateRangeFinder();
        for (Fact fact : project.facts().values()) {
            for (String role : fact.roles()) {
                if (from.includes(fact, role)) {
                    dates(fact.name()).stream()
                            .filter(date -> date.role().equals(role))
                            .forEach(date -> finder.add(fact.name(), date));
                }
            }
        }
        DateRangeFinder.Result found = finder.result();
        // both ends of the range may be found in the same dates, which are then excluded once
        found.excluded().stream().filter(dates -> !excluded.contains(dates)).forEach(excluded::add);
        return found.range();
    }

    /** Returns the latest day in the range of the default fact in its default role. */
    private OptionalInt latestActualDay(DateRange range) {
        Optional<Fact> fact = project.facts().values().stream().findFirst();
        if (fact.isEmpty()) {
            return OptionalInt.empty();
        }
        TreeMap<Integer, Long> rowsByDay = new TreeMap<>();
        dates(fact.get().name()).stream()
                .filter(date -> date.role().equals(fact.get().defaultRole()))
                .filter(date -> date.day() >= range.firstEpochDay() && date.day() <= range.lastEpochDay())
                .forEach(date -> rowsByDay.merge((int) date.day(), date.rows(), Long::sum));
        strayDates = StrayDates.behind(rowsByDay);
        return rowsByDay.isEmpty()
                ? OptionalInt.empty()
                : OptionalInt.of(strayDates.map(StrayDates::lastDayBefore).orElse(rowsByDay.lastKey()));
    }

    /** Returns the dates of the default fact that lie too far behind all others to set the as-of date. */
    Optional<StrayDates> strayDates() {
        return lock.during(() -> {
            dates();
            return strayDates;
        });
    }

    /** Returns the date dimension; its range is found in the facts where the project says so. */
    public DateDimension dimension() {
        return dates().dimension();
    }

    /** Returns the dates that were excluded when the range was found. */
    public List<ExcludedDates> excludedDates() {
        return dates().excluded();
    }

    /** Returns the as-of date; empty if there is no fact to determine it. */
    public Optional<LocalDate> asOf() {
        OptionalInt asOf = dates().asOf();
        return asOf.isPresent() ? Optional.of(EpochDays.toDate(asOf.getAsInt())) : Optional.empty();
    }

    /** Returns a row with such a date, as people can find it in the source. */
    public Optional<String> example(ExcludedDates excluded) {
        return engine.example(excluded.fact(), excluded.role(), excluded.first().toEpochDay());
    }

    // ---- contexts

    /** Returns what spans are resolved against; the project's first calendar is the default. */
    public SpanContext spanContext() {
        DateRange range = dimension().range();
        // without a fact nothing is actual, so nothing is cut
        return new SpanContext(
                project.calendars(), project.defaultCalendar(), dates().asOf().orElse(range.lastEpochDay()), range);
    }

    /**
     * Returns what spans are resolved against, another calendar being the default.
     *
     * @throws MileException if the project has no such calendar
     */
    public SpanContext spanContext(Optional<String> calendar) {
        SpanContext own = spanContext();
        calendar.ifPresent(own::calendar);
        return calendar.map(own::withCalendar).orElse(own);
    }

    /** Returns what engines know of days. */
    public DayContext dayContext() {
        return new ProjectDayContext(dimension(), spanContext(), project.workingWeeks());
    }

    /** Returns what names refer to. */
    public NameResolver names() {
        return lock.during(() -> {
            if (names.isEmpty()) {
                Set<String> attributes =
                        dimension().columns().stream().map(DateColumn::name).collect(Collectors.toSet());
                names = Optional.of(new NameResolver(
                        project.facts(),
                        project.lookups(),
                        attributes,
                        engine::columns,
                        this::memberDays,
                        (fact, column) -> engine.unread(fact, column, ValueType.NUMBER),
                        EpochDays.toDate(spanContext().asOf())));
            }
            return names.get();
        });
    }

    /** Returns what reports are compiled against, the calendar being the default of levels and steps. */
    public PlanningContext planningContext(Optional<String> calendar) {
        return new PlanningContext(project, names(), spanContext(calendar), dimension(), dayContext(), this::coverage);
    }

    // ---- rows

    /**
     * Begins to read the totals of a request.
     *
     * @param passes what is shared with other reports
     */
    public TotalsReader openTotals(TotalsPlan totals, int number, SharedPasses passes) {
        TotalsRequest request = totals.requests().get(number);
        return new TotalsReader(
                passes.totals(request, this::totals),
                request.columns().size(),
                totals.firstUnknownKeyColumn(number),
                (rows, unknownKeys) -> recordRowOutcomes(request, rows, unknownKeys));
    }

    /** Returns the totals of a request, of whose rows nothing is recorded. */
    public TotalsCursor totals(TotalsRequest request) {
        return engine.totals(request, dayContext());
    }

    private void recordRowOutcomes(
            TotalsRequest request, Map<RoleAccounts.RowOutcome, Long> rows, boolean unknownKeys) {
        lock.during(() -> {
            boolean placed = rows.keySet().stream().allMatch(outcome -> outcome == RoleAccounts.RowOutcome.PLACED);
            fullyPlaced.merge(
                    new RoleOfFact(request.fact(), request.role()), placed && !unknownKeys, Boolean::logicalAnd);
            return null;
        });
    }

    /**
     * Returns whether a pass over the fact has seen that every row is placed in the role, and that no key is unknown to the lookups
     * that it read; then there is nothing to account for.
     */
    boolean isFullyPlaced(String fact, String role) {
        return lock.during(() -> fullyPlaced.getOrDefault(new RoleOfFact(fact, role), false)
                && project.facts().get(fact).filter().isEmpty()
                && !hasRowsAfterAsOf(project.facts().get(fact), role)
                && engine.rejected(fact).isNone());
    }

    /** Returns the days on which single members of a lookup could have rows, by column and member. */
    private Map<String, Map<String, DateRange>> memberDays(String name) {
        return lock.during(() -> {
            return memberDaysByLookup.computeIfAbsent(name, n -> {
                Lookup lookup = project.lookups().get(name);
                Table rows = engine.rows(name);
                Map<String, Map<String, DateRange>> days = new LinkedHashMap<>();
                for (String column : rows.types().keySet()) {
                    Map<String, DateRange> byMember = new LinkedHashMap<>();
                    Set<String> shared = new HashSet<>();
                    for (int row = 0; row < rows.rows(); row++) {
                        String member = rows.textAt(column, row);
                        if (member != null && byMember.put(member, memberDays(lookup, rows, row)) != null) {
                            shared.add(member);
                        }
                    }
                    byMember.keySet().removeAll(shared);
                    days.put(column, byMember);
                }
                return days;
            });
        });
    }

    private static DateRange memberDays(Lookup lookup, Table rows, int row) {
        Lookup.MemberDays columns = lookup.covers().orElseThrow();
        int first = day(lookup, columns.from(), rows, row).orElse(SupportedDates.RANGE.firstEpochDay());
        int last = day(lookup, columns.until(), rows, row).orElse(SupportedDates.RANGE.lastEpochDay());
        if (first > last) {
            throw DataException.of(
                    "%s '%s' in the lookup '%s' is open from %s, which is after its last day, %s; correct the columns %s and %s",
                    lookup.key(),
                    rows.textAt(lookup.key(), row),
                    lookup.name(),
                    EpochDays.toDate(first),
                    EpochDays.toDate(last),
                    columns.from().orElseThrow(),
                    columns.until().orElseThrow());
        }
        return DateRange.ofEpochDays(first, last);
    }

    private static Optional<Integer> day(Lookup lookup, Optional<String> column, Table rows, int row) {
        return column.flatMap(name -> {
            if (!rows.types().containsKey(name)) {
                throw ModelException.of(
                        "the days on which members are open are in the column '%s', which the lookup lacks%s",
                        name, Messages.didYouMean(name, rows.types().keySet()));
            }
            return Optional.ofNullable(rows.textAt(name, row)).map(text -> EpochDays.parse(text)
                    .map(EpochDays::of)
                    .orElseThrow(() -> DataException.of(
                            "%s '%s' in the lookup '%s': '%s' in the column %s is not a date; expected one such as"
                                    + " 2026-04-01",
                            lookup.key(), rows.textAt(lookup.key(), row), lookup.name(), text, name)));
        });
    }

    /** Returns whether rows of the fact lie in the date dimension after the as-of date, where they never count. */
    boolean hasRowsAfterAsOf(Fact fact, String role) {
        if (fact.plan()) {
            return false;
        }
        DateRange placed = placedDays(fact, role);
        return !placed.isEmpty() && placed.lastEpochDay() > spanContext().asOf();
    }

    /** Returns the first to the last day of the date dimension on which the fact has rows in the role. */
    private DateRange placedDays(Fact fact, String role) {
        return lock.during(
                () -> placedDays.computeIfAbsent(new RoleOfFact(fact.name(), role), key -> countedDays(fact, role)
                        .orElseGet(() -> engine.coverage(fact.name(), role, dayContext()))));
    }

    /** Returns the placed days where the dates of the fact have been counted, so that the engine need not look again. */
    private Optional<DateRange> countedDays(Fact fact, String role) {
        // rows of a plan are about whole periods, which the engine knows
        if (fact.grain().isPresent() || !datesByFact.containsKey(fact.name())) {
            return Optional.empty();
        }
        DateRange dimension = dimension().range();
        LongSummaryStatistics days = dates(fact.name()).stream()
                .filter(date -> date.role().equals(role))
                .mapToLong(DateCount::day)
                .filter(day -> day >= dimension.firstEpochDay() && day <= dimension.lastEpochDay())
                .summaryStatistics();
        return Optional.of(
                days.getCount() == 0
                        ? DateRange.EMPTY
                        : DateRange.ofEpochDays((int) days.getMin(), (int) days.getMax()));
    }

    /**
     * Returns the days on which the fact can have rows in the role: as the fact says, else from its first placed day, and days off right
     * before it, to the as-of date, or for a plan to its last placed day.
     */
    DateRange coverage(String fact, String role) {
        return lock.during(() -> {
            return coverage.computeIfAbsent(new RoleOfFact(fact, role), key -> {
                Fact of = project.facts().get(fact);
                DateRange placed = placedDays(of, role);
                int asOf = spanContext().asOf();
                Optional<Integer> from = of.covers().from().map(EpochDays::of).or(() -> firstCoveredDay(placed));
                Optional<Integer> until =
                        of.covers().until().map(EpochDays::of).or(() -> lastCoveredDay(of, placed, asOf));
                return from.isEmpty() || until.isEmpty()
                        ? DateRange.EMPTY
                        : DateRange.ofEpochDays(from.get(), of.plan() ? until.get() : Math.min(until.get(), asOf));
            });
        });
    }

    private Optional<Integer> firstCoveredDay(DateRange placed) {
        if (placed.isEmpty()) {
            return Optional.empty();
        }
        int first = placed.firstEpochDay();
        Optional<WorkingWeek> week = project.workingWeeks().values().stream().findFirst();
        while (week.isPresent()
                && first > SupportedDates.RANGE.firstEpochDay()
                && week.get().workedShare(first - 1).signum() == 0) {
            first--;
        }
        return Optional.of(first);
    }

    private static Optional<Integer> lastCoveredDay(Fact fact, DateRange placed, int asOf) {
        return fact.plan()
                ? Optional.of(placed).filter(days -> !days.isEmpty()).map(DateRange::lastEpochDay)
                : Optional.of(asOf);
    }

    /** Returns the accounts of every row of a fact. */
    public FactAccounts accounts(String fact) {
        return lock.during(() -> {
            return accountsByFact.computeIfAbsent(fact, name -> {
                List<Operand.Field> amounts = AmountColumns.of(project, names(), names().fact(name));
                return engine.accounts(name, amounts, dayContext());
            });
        });
    }

    @Override
    public void close() {
        closed = true;
        if (ownsEngine) {
            engine.close();
        }
    }

    /** Refuses what is asked after the end. */
    public void checkOpen() {
        if (closed) {
            throw new IllegalStateException(
                    "the session of the project '" + project.name() + "' is closed; open another");
        }
    }
}
