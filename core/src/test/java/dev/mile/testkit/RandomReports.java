package dev.mile.testkit;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.Engine;
import dev.mile.fact.Condition;
import dev.mile.fact.CoveredDays;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Spread;
import dev.mile.internal.EpochDays;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.measure.Value;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.report.When;
import dev.mile.report.distributed.DistributedRows;
import dev.mile.span.Span;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.MonthDay;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.function.BiFunction;

/**
 * Random projects over the same random rows, calendars and working weeks: other measures, as-of dates and reports each time, checked
 * cell by cell against the {@link ReferenceEvaluator}.
 */
final class RandomReports {
    private static final int MEASURES = 6;

    /** About so many cells of a report are compared, drawn at random, so that there is time for many reports. */
    private static final int CELLS = 60;

    private static final LocalDate FIRST = LocalDate.of(2022, 11, 1);
    private static final int DAYS = 420;
    private static final List<String> DIMENSIONS = List.of("shop", "channel", "shops.region", "areas.manager");

    private final long seed;
    private final Random random;
    private final Map<String, TestRows> rows = new LinkedHashMap<>();
    private final CalendarPair calendars;
    private final CalendarPair others;
    private final FiscalCalendar calendar;
    private final Set<DayOfWeek> rest;
    private final Map<LocalDate, BigDecimal> shares = new LinkedHashMap<>();
    private final List<Fact> facts = new ArrayList<>();
    private final List<String> names = new ArrayList<>();
    private int cells;

    RandomReports(long seed) {
        this.seed = seed;
        this.random = new Random(seed);
        calendars = calendar();
        others = calendar();
        calendar = calendars.tested();
        rest = EnumSet.of(DayOfWeek.SUNDAY, one(List.of(DayOfWeek.values())));
        for (int i = 0; i < 20; i++) {
            shares.put(day(DAYS), one(List.of(BigDecimal.ZERO, new BigDecimal("0.5"), BigDecimal.ONE)));
        }
        facts();
    }

    private <T> T one(List<T> of) {
        return of.get(random.nextInt(of.size()));
    }

    private boolean chance(int in) {
        return random.nextInt(in) == 0;
    }

    /** A calendar and the slow one that it is checked by. */
    private record CalendarPair(FiscalCalendar tested, ReferenceCalendar reference) {}

    private CalendarPair calendar() {
        if (random.nextBoolean()) {
            Month month = one(List.of(Month.values()));
            int day = one(List.of(1, 6, 15, 28));
            return new CalendarPair(FiscalCalendar.startingOn(month, day), ReferenceCalendar.startingOn(month, day));
        }
        String pattern = one(List.of("4-5-4", "13x4", "none"));
        DayOfWeek ends = one(List.of(DayOfWeek.values()));
        MonthDay nearest = MonthDay.of(one(List.of(1, 9)), 30);
        return new CalendarPair(
                FiscalCalendar.weeks(pattern).endingNearest(ends, nearest),
                ReferenceCalendar.weeks(pattern, ends, nearest));
    }

    private WorkingWeek week() {
        WorkingWeek.Builder week = WorkingWeek.named("w");
        rest.forEach(week::rest);
        shares.forEach((day, share) -> week.specialDay(day, "Closed", share));
        return week.build();
    }

    private BigDecimal worked(int epochDay) {
        LocalDate day = LocalDate.ofEpochDay(epochDay);
        return shares.getOrDefault(day, rest.contains(day.getDayOfWeek()) ? BigDecimal.ZERO : BigDecimal.ONE);
    }

    private LocalDate day(int within) {
        return FIRST.plusDays(random.nextInt(within));
    }

    private String amount(int size) {
        return BigDecimal.valueOf(random.nextInt(size) - size / 5, random.nextInt(3))
                .toPlainString();
    }

    // ---- rows

    private void facts() {
        rows.put("areas", TestRows.of("area,manager", "A,Ash", "B,Birch"));
        rows.put("shops", TestRows.of("shop,region,area", "S1,North,A", "S2,South,B", "S3,North,"));
        TestRows sales =
                TestRows.of("ordered:date,dispatched:date,shop,channel,order,units:number,price:number,amount:number");
        for (int i = 0; i < 60; i++) {
            LocalDate day = day(DAYS);
            sales.add(
                    chance(20) ? "" : day.toString(),
                    chance(5) ? "" : day.plusDays(random.nextInt(90) - 5).toString(),
                    one(List.of("S1", "S2", "S3", "S9")),
                    one(List.of("web", "counter", "")),
                    "O" + random.nextInt(30),
                    Integer.toString(random.nextInt(9) - 2),
                    amount(5_000),
                    chance(12) ? "" : amount(20_000));
        }
        TestRows planned = TestRows.of("day:date,shop,amount:number");
        for (int i = 0; i < 25; i++) {
            planned.add(day(DAYS + 90).toString(), one(List.of("S1", "S2")), Integer.toString(random.nextInt(500)));
        }
        Level grain = calendar.levels().contains(Level.PERIOD) ? one(List.of(Level.YEAR, Level.PERIOD)) : Level.YEAR;
        TestRows budget = TestRows.of("of,shop,amount:number");
        for (int i = 0; i < 8; i++) {
            int day = (int) day(DAYS).toEpochDay();
            String label = calendar.label(grain, calendar.ordinal(grain, day));
            budget.add(chance(12) ? "FY20X" : label, one(List.of("S1", "S2", "S9")), amount(90_000));
        }
        rows.put("sales", sales);
        rows.put("plan", planned);
        rows.put("budget", budget);
        Fact actual = Fact.of("sales", "ordered", "ordered")
                .withDate("dispatched", "dispatched")
                .withLink("shop", "shops");
        if (chance(3)) {
            actual = actual.withCoveredDays(CoveredDays.from(day(120)));
        }
        facts.add(chance(3) ? actual.withFilter(condition(List.of("channel", "sales.units"))) : actual);
        Fact plan = Fact.of("plan", "for", "day").asPlan();
        facts.add(
                chance(3)
                        ? plan.withCoveredDays(CoveredDays.from(day(90)).withUntil(FIRST.plusDays(DAYS + 200)))
                        : plan);
        Spread spread = one(List.of(Spread.DAYS, Spread.WORKING_DAYS, Spread.like("sales", "amount")));
        facts.add(Fact.of("budget", "of", "of").withLink("shop", "shops").withGrain(Grain.of(grain), spread));
    }

    // ---- conditions

    private Condition condition(List<String> of) {
        if (chance(4)) {
            return new Condition.Not(condition(of));
        }
        if (chance(5)) {
            List<Condition> two = List.of(condition(of), condition(of));
            return random.nextBoolean() ? new Condition.And(two) : new Condition.Or(two);
        }
        String name = one(of);
        Operand value = new Operand.Name(name);
        if (chance(6) && !name.equals("weekday_name") && !name.equals("month")) {
            return new Condition.IsBlank(value);
        }
        if (name.equals("sales.units") || name.equals("month")) {
            Operand n = new Operand.Number(BigDecimal.valueOf(random.nextInt(9) - (name.equals("month") ? 0 : 2)));
            Operand high = new Operand.Number(BigDecimal.valueOf(5));
            return switch (random.nextInt(3)) {
                case 0 -> new Condition.Between(value, n, high);
                case 1 -> new Condition.In(value, List.of(n, high));
                default -> new Condition.Compare(value, one(List.of(Condition.Comparison.values())), n);
            };
        }
        List<String> texts =
                switch (name) {
                    case "channel" -> List.of("web", "counter");
                    case "shop" -> List.of("S1", "S2", "S9");
                    case "shops.region" -> List.of("North", "South");
                    case "areas.manager" -> List.of("Ash", "Birch");
                    default -> List.of("Monday", "Tuesday", "Friday");
                };
        Operand text = new Operand.Text(one(texts));
        return switch (random.nextInt(4)) {
            case 0 -> new Condition.In(value, List.of(text, new Operand.Text(one(texts))));
            case 1 -> new Condition.Like(value, one(List.of("S%", "%o%", "_e%", "%y")));
            default -> new Condition.Compare(value, one(List.of(Condition.Comparison.values())), text);
        };
    }

    private Condition condition() {
        return condition(List.of(
                "channel",
                "sales.units",
                "shop",
                "shops.region",
                "areas.manager",
                "weekday_name",
                "weekday_name",
                "month"));
    }

    // ---- measures

    private Measure measure(int depth) {
        if (depth > 0 && chance(3)) {
            Measure a = measure(depth - 1);
            Measure b = measure(depth - 1);
            return switch (random.nextInt(6)) {
                case 0 -> a.plus(b);
                case 1 -> a.times(b).minus(b);
                case 2 -> a.dividedBy(b);
                case 3 -> a.negated().orElse(BigDecimal.ZERO);
                case 4 -> a.then(b);
                default -> clauses(a.minus(b));
            };
        }
        return clauses(!names.isEmpty() && chance(6) ? Measure.named(one(names)) : aggregate());
    }

    private Measure aggregate() {
        return switch (random.nextInt(16)) {
            case 0 -> Measure.avg("sales", "amount");
            case 1 -> Measure.min("sales", "amount");
            case 2 -> Measure.max("sales", "units");
            case 3 -> Measure.first("sales", "units");
            case 4 -> Measure.last("sales", "amount");
            case 5 -> Measure.distinct("sales", "order");
            case 6 -> Measure.count("sales");
            case 7 -> Measure.sum("plan", "amount");
            case 8, 9 -> one(List.of(Measure.sum("budget", "amount"), Measure.last("budget", "amount")));
            case 10 -> one(List.of(Measure.days(), Measure.workingDays()));
            case 11, 12 -> of(elapsed());
            case 13 ->
                of(new RowExpression.Arithmetic(
                        column("units"),
                        sign(),
                        random.nextBoolean()
                                ? new RowExpression.OrElse(column("amount"), BigDecimal.ONE)
                                : column("price")));
            default -> Measure.sum("sales", "amount");
        };
    }

    private RowExpression.Sign sign() {
        return one(List.of(RowExpression.Sign.PLUS, RowExpression.Sign.MINUS, RowExpression.Sign.TIMES));
    }

    private Measure of(RowExpression e) {
        Measure.Aggregation how = one(List.of(
                Measure.Aggregation.SUM,
                Measure.Aggregation.AVG,
                Measure.Aggregation.MAX,
                Measure.Aggregation.MIN,
                Measure.Aggregation.COUNT,
                Measure.Aggregation.LAST));
        return new Measure.Aggregate(how, "sales", Optional.of(e));
    }

    private static RowExpression column(String name) {
        return new RowExpression.Value(new Operand.Name("sales." + name));
    }

    private RowExpression elapsed() {
        return RowExpression.Elapsed.of(
                one(List.of(RowExpression.TimeUnit.values())),
                new Operand.Name("sales.ordered"),
                chance(3) ? Operand.Name.AS_OF : new Operand.Name("sales.dispatched"));
    }

    private Measure clauses(Measure m) {
        Measure with = m;
        // an aggregate of sales, not a condition that names one of its columns
        if (m.toString().matches(".*\\w\\(sales.*") && chance(4)) {
            with = with.on("dispatched");
        }
        if (random.nextBoolean()) {
            Span span = step();
            with = with.over(chance(3) ? span.then(step()) : span);
        }
        if (chance(4)) {
            with = with.where(condition());
        }
        if (chance(7)) {
            with = with.across(one(List.of("shop", "shops.region", "weekday_name")));
        }
        if (m.toString().contains("sum(sales.") && chance(6)) {
            with = chance(4)
                    ? with.each("shop", "channel")
                    : chance(3) ? with.eachWith(one(DIMENSIONS), aggregate()) : with.each(one(DIMENSIONS));
        }
        if (m instanceof Measure.Aggregate && chance(6)) {
            Per unit = Per.unit(one(List.of(Level.DAY, Level.WEEK, Level.YEAR)));
            with = with.per(chance(2) ? Per.workingDay() : unit);
        }
        if (chance(6)) {
            with = with.inFull();
        }
        if (chance(8)) {
            with = random.nextBoolean() ? with.ifFull() : with.ifAny();
        }
        return chance(12) ? with.onlyAt(Level.WEEK) : with;
    }

    private Span step() {
        boolean elsewhere = chance(8);
        Level unit = one((elsewhere ? others.tested() : calendar).levels());
        int n = 1 + random.nextInt(3);
        Span span =
                switch (random.nextInt(13)) {
                    case 0 -> Span.toDate(unit);
                    case 1 -> Span.last(n, unit);
                    case 2 -> Span.trailing(n, unit);
                    case 3 -> Span.previous(n, unit);
                    case 4 -> Span.next(n, unit);
                    case 5 -> Span.whole(unit);
                    case 6 -> Span.ahead(n, unit);
                    case 7 -> Span.allToDate();
                    case 8 -> Span.before();
                    case 9 -> one(List.of(Span.firstDay(), Span.lastDay()));
                    case 10 -> one(List.of(Span.soFar(), Span.toCome()));
                    case 11 -> one(List.of(Span.today(), Span.yesterday(), Span.current(unit)));
                    default -> Span.back(n, unit);
                };
        return elsewhere && span.steps().get(0).countedIn().isPresent() ? span.withCalendar("d") : span;
    }

    // ---- reports

    private Project project() {
        Project.Builder builder = Project.named("random " + seed)
                .asOf(FIRST.plusDays(200 + random.nextInt(250)))
                .calendar("c", calendar)
                .calendar("d", others.tested())
                .dates(DateBound.at(FIRST.plusDays(30)), DateBound.at(FIRST.plusDays(DAYS)))
                .lookup(new Lookup("shops", "shop", Map.of("area", "areas")))
                .lookup(new Lookup("areas", "area", Map.of()));
        builder.working(week());
        facts.forEach(builder::fact);
        names.clear();
        for (int i = 0; i < MEASURES; i++) {
            // a measure may name those before it
            builder.measure("m" + i, measure(3));
            names.add("m" + i);
        }
        return builder.build();
    }

    /** Checks projects with random reports over one engine. */
    void check(int projects, BiFunction<Project, Map<String, TestRows>, Engine> engines) {
        try (Engine engine = new MemoizingEngine(engines.apply(project(), rows))) {
            for (int i = 0; i < projects; i++) {
                check(project(), engine, i);
            }
            assertThat(cells).as("cells compared").isGreaterThan(CELLS / 8 * projects);
        }
    }

    private void check(Project project, Engine engine, int number) {
        Report report = report(number);
        // not closed, since others use the engine
        Session session = Session.open(project, engine);
        if (number % 2 == 0) {
            // one member at a time, however few there are
            session.limitHeldBytes(1);
        }
        Grid grid = session.report(report);
        ReferenceDays days = new ReferenceDays(
                Map.of("c", calendars.reference(), "d", others.reference()),
                this::worked,
                EpochDays.of(session.asOf().orElseThrow()),
                session.dimension().range());
        ReferenceRows slowRows = new ReferenceRows(project, rows, days);
        ReferenceEvaluator slow = new ReferenceEvaluator(project, slowRows, days);
        ReferenceReport expected = new ReferenceReport(project, report, slowRows, slow, days);
        String context = String.format(
                "seed %d, project %d, %s, %s%n%s",
                seed, number, report, calendar, project.measures().values());
        checkRows(grid, report, expected, context);
        checkCells(project, grid, report, expected, slow, context);
        // every engine is asked for the same totals again
        boolean ordered = report.sort().isPresent() || report.top().isPresent();
        if (seed % 8 == 4 && !ordered && !report.columns().contains(new Report.NamedAxis("channel"))) {
            checkParted(session, report, grid);
        }
        if (number % 5 == 3) {
            checkTogether(session, report, grid);
        }
        // sorting asks nothing else of an engine, and each such report is computed four times
        if (seed % 8 == 0 && number % 10 == 0) {
            checkSorted(session, report);
        }
    }

    private Report report(int number) {
        Level level = one(calendar.levels().stream().filter(l -> l != Level.DAY).toList());
        List<String> parts = new ArrayList<>(List.of(level.word()));
        if (random.nextBoolean()) {
            parts.add(random.nextInt(parts.size() + 1), one(List.of("shop", "shops.region", "weekday_name")));
        }
        List<Report.AxisSpec> columns =
                chance(4) ? List.of(new Report.NamedAxis(one(List.of("channel", "month")))) : List.of();
        // a level named twice would say the same
        if (parts.contains("month") || !calendar.levels().contains(Level.PERIOD)) {
            columns = columns.contains(new Report.NamedAxis("month")) ? List.of() : columns;
        }
        Report report = Report.of("r", parts, names).withColumns(columns).withEmptyRows(chance(4));
        if (chance(4)) {
            report = report.withWhere(condition());
        }
        if (chance(4)) {
            LocalDate from = day(DAYS);
            return report.withWhen(new When.Dates(DateRange.of(from, from.plusDays(random.nextInt(150)))));
        }
        if (!report.keepEmpty() && chance(3)) {
            report = report.withSort(new Report.Sort(one(names), random.nextBoolean()));
        }
        return !report.keepEmpty() && chance(4)
                ? report.withTop(new Report.Top(1 + random.nextInt(3), one(names)))
                : report;
    }

    /** Checks which rows there are, and their order. */
    /** Reports that share passes over facts say what each says by itself. */
    private void checkTogether(Session session, Report report, Grid grid) {
        session.limitHeldBytes(Long.MAX_VALUE);
        Report first = report.withMeasures(report.show().subList(0, 1));
        Report coarse = report.withRows(
                report.rows().subList(0, Math.min(1, report.rows().size())));
        assertThat(session.reports(List.of(first, report, coarse)))
                .as("seed %d, %s", seed, report.rows())
                .isEqualTo(List.of(session.report(first), grid, session.report(coarse)));
    }

    private static void checkRows(Grid grid, Report report, ReferenceReport expected, String context) {
        List<List<String>> shown = grid.rows().stream()
                .filter(row -> row.kind() == Grid.RowKind.LEAF || row.kind() == Grid.RowKind.REST)
                .map(Grid.Row::labels)
                .toList();
        if (report.keepEmpty()) {
            // which members occur depends on what the engine was asked for; all with rows do
            assertThat(shown).as(context).containsAll(expected.labels());
            assertThat(expected.rowKeys()).as(context).containsAll(shown);
        } else {
            assertThat(shown).as(context).isEqualTo(expected.labels());
        }
    }

    private void checkCells(
            Project project,
            Grid grid,
            Report report,
            ReferenceReport expected,
            ReferenceEvaluator slow,
            String context) {
        List<String> parts = report.rows().stream()
                .map(axis -> ((Report.NamedAxis) axis).text())
                .toList();
        for (Grid.Row row : grid.rows()) {
            if (row.kind() == Grid.RowKind.REST) {
                continue;
            }
            for (int c = 0; c < grid.columns().size(); c++) {
                if (random.nextInt(grid.rows().size() * grid.columns().size()) >= CELLS) {
                    continue;
                }
                Grid.Column column = grid.columns().get(c);
                Map<String, String> labels = new LinkedHashMap<>();
                for (int part = 0; part < row.labels().size(); part++) {
                    labels.put(parts.get(part), row.labels().get(part));
                }
                if (!report.columns().isEmpty()) {
                    labels.put(
                            ((Report.NamedAxis) report.columns().get(0)).text(),
                            column.member().orElseThrow());
                }
                Measure measure = project.measures().get(column.name()).expression();
                Optional<ReferenceEvaluator.Place> place = expected.place(labels);
                Value value = place.isPresent() ? slow.value(measure, place.get(), report.where()) : Value.UNKNOWN;
                cells++;
                assertThat(row.values().get(c))
                        .as("%s in %s: %s; %s", column.name(), labels, measure, context)
                        .isEqualTo(value);
            }
        }
    }

    /** Rows are the same where each machine has the groups of some members. */
    private void checkParted(Session session, Report report, Grid grid) {
        List<String> expected = DistributedRows.ofGrid(grid);
        if (!expected.isEmpty()) {
            assertThat(DistributedRows.evaluate(session.distribute(report)))
                    .as("seed %d, %s", seed, report.rows())
                    .isEqualTo(expected);
        }
    }

    /** Sorted rows are the same however many groups are held. */
    private void checkSorted(Session session, Report report) {
        Report.Sort order = new Report.Sort(report.show().get(0), chance(2));
        for (Optional<Report.Top> top : List.of(Optional.<Report.Top>empty(), Optional.of(new Report.Top(2, "m1")))) {
            Report sorted = top.map(report.withSort(order)::withTop).orElse(report.withSort(order));
            session.limitHeldBytes(1);
            List<Grid.Row> few = session.report(sorted).rows();
            session.limitHeldBytes(Long.MAX_VALUE);
            assertThat(few)
                    .as("seed %d, %s, %s", seed, sorted.rows(), top)
                    .isEqualTo(session.report(sorted).rows());
        }
    }
}
