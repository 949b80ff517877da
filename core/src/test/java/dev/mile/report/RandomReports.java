package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.fact.Condition;
import dev.mile.fact.Engine;
import dev.mile.fact.Fact;
import dev.mile.fact.Operand;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.measure.Value;
import dev.mile.span.Span;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.MonthDay;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.BiFunction;

/** One random project: calendar, rows, measures and a report; checked cell by cell against the {@link SlowEvaluator}. */
final class RandomReports {
    private static final int MEASURES = 12;
    private static final LocalDate FIRST = LocalDate.of(2022, 11, 1);
    private static final int DAYS = 600;

    private final long seed;
    private final Random random;
    private final Map<String, Rows> rows = new HashMap<>();
    private Project project;
    private FiscalCalendar calendar;
    private final List<String> names = new ArrayList<>();

    RandomReports(long seed) {
        this.seed = seed;
        this.random = new Random(seed);
        build();
    }

    private <T> T one(List<T> of) {
        return of.get(random.nextInt(of.size()));
    }

    private void build() {
        calendar = random.nextBoolean()
                ? FiscalCalendar.startingOn(one(List.of(Month.values())), one(List.of(1, 6, 15, 28)))
                : FiscalCalendar.weeks(one(List.of("4-5-4", "13x4", "none")))
                        .endingNearest(one(List.of(DayOfWeek.values())), MonthDay.of(one(List.of(1, 9)), 30));
        Rows sales = Rows.of("ordered:date,dispatched:date,shop,channel,order,units:number,amount:number");
        for (int i = 0; i < 150; i++) {
            LocalDate day = FIRST.plusDays(random.nextInt(DAYS));
            sales.add(
                    random.nextInt(20) == 0 ? "" : day.toString(),
                    random.nextInt(5) == 0
                            ? ""
                            : day.plusDays(random.nextInt(40)).toString(),
                    one(List.of("S1", "S2", "S3")),
                    one(List.of("web", "shop", "")),
                    "O" + random.nextInt(90),
                    Integer.toString(random.nextInt(9) - 2),
                    random.nextInt(12) == 0
                            ? ""
                            : BigDecimal.valueOf(random.nextInt(20_000) - 4_000, 2)
                                    .toPlainString());
        }
        Rows plan = Rows.of("day:date,shop,amount:number");
        for (int i = 0; i < 60; i++) {
            plan.add(
                    FIRST.plusDays(random.nextInt(DAYS + 120)).toString(),
                    one(List.of("S1", "S2")),
                    Integer.toString(random.nextInt(500)));
        }
        rows.put("sales", sales);
        rows.put("plan", plan);
        Project.Builder builder = Project.named("random " + seed)
                .asOf(FIRST.plusDays(400 + random.nextInt(150)))
                .calendar("c", calendar)
                .dates(RangeEnd.on(FIRST.plusDays(30)), RangeEnd.on(FIRST.plusDays(DAYS)))
                .fact(Fact.of("sales", "ordered", "ordered").dated("dispatched", "dispatched"))
                .fact(Fact.of("plan", "for", "day").asPlan());
        for (int i = 0; i < MEASURES; i++) {
            // a measure may name those before it
            Measure measure = measure(3);
            builder.measure("m" + i, measure);
            names.add("m" + i);
        }
        project = builder.build();
    }

    private Measure measure(int depth) {
        if (depth > 0 && random.nextInt(3) == 0) {
            Measure a = measure(depth - 1);
            Measure b = measure(depth - 1);
            return switch (random.nextInt(6)) {
                case 0 -> a.plus(b);
                case 1 -> a.minus(b);
                case 2 -> a.dividedBy(b);
                case 3 -> a.negated().orElse(BigDecimal.ZERO);
                case 4 -> a.then(b);
                default -> clauses(a.minus(b));
            };
        }
        if (!names.isEmpty() && random.nextInt(6) == 0) {
            return clauses(Measure.named(one(names)));
        }
        return clauses(
                switch (random.nextInt(12)) {
                    case 0 -> Measure.avg("sales", "amount");
                    case 1 -> Measure.min("sales", "amount");
                    case 2 -> Measure.max("sales", "units");
                    case 3 -> Measure.first("sales", "units");
                    case 4 -> Measure.last("sales", "amount");
                    case 5 -> Measure.distinct("sales", "order");
                    case 6 -> Measure.count("sales");
                    case 7, 8 -> Measure.sum("plan", "amount");
                    case 9 -> Measure.days();
                    default -> Measure.sum("sales", "amount");
                });
    }

    private Measure clauses(Measure m) {
        Measure with = m;
        if (m.toString().contains("sales.") && random.nextInt(4) == 0) {
            with = with.on("dispatched");
        }
        if (random.nextInt(2) == 0) {
            Span span = step();
            with = with.over(random.nextInt(3) == 0 ? span.then(step()) : span);
        }
        if (random.nextInt(5) == 0 && onlySales(m)) {
            Condition web = Condition.equal("channel", "web");
            with = with.where(
                    one(List.of(web, new Condition.Not(web), new Condition.IsBlank(new Operand.Name("channel")))));
        }
        if (random.nextInt(7) == 0) {
            with = with.across("shop");
        }
        if (m instanceof Measure.Aggregate && random.nextInt(7) == 0) {
            with = with.each("shop");
        }
        if (m instanceof Measure.Aggregate a && a.how() != Measure.Aggregation.AVG && random.nextInt(7) == 0) {
            with = with.per(Per.unit(one(List.of(Level.DAY, Level.WEEK, Level.YEAR))));
        }
        if (random.nextInt(6) == 0) {
            with = with.inFull();
        }
        if (random.nextInt(8) == 0) {
            with = with.ifFull();
        }
        return random.nextInt(12) == 0 ? with.onlyAt(Level.WEEK) : with;
    }

    private static boolean onlySales(Measure m) {
        return m instanceof Measure.Aggregate a && a.fact().equals("sales");
    }

    private Span step() {
        List<Level> units = calendar.levels();
        Level unit = one(units);
        int n = 1 + random.nextInt(3);
        return switch (random.nextInt(13)) {
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
    }

    void check(BiFunction<Project, Map<String, Rows>, Engine> engines) {
        Level level = one(calendar.levels().stream().filter(l -> l != Level.DAY).toList());
        List<String> parts = random.nextBoolean() ? List.of(level.word(), "shop") : List.of(level.word());
        Report report = Report.of("r", parts, names);
        report = new Report(
                "r",
                "",
                report.rows(),
                List.of(),
                names,
                report.where(),
                report.when(),
                "",
                true,
                report.sort(),
                report.top(),
                true,
                "");
        try (Session session = Session.open(project, engines.apply(project, rows))) {
            Grid grid = session.report(report);
            SlowEvaluator slow = new SlowEvaluator(project, rows, session.frame(""));
            assertThat(grid.rows()).isNotEmpty();
            for (Grid.Row row : grid.rows()) {
                boolean timed = !row.labels().isEmpty();
                DateRange days = timed
                        ? calendar.parse(row.labels().get(0), level)
                                .map(CalendarPeriod::range)
                                .orElseThrow()
                        : session.dimension().range();
                Map<String, String> members =
                        row.labels().size() > 1 ? Map.of("shop", row.labels().get(1)) : Map.of();
                for (int m = 0; m < names.size(); m++) {
                    Measure measure = project.measures().get(names.get(m)).is();
                    Value expected = slow.value(measure, days, members, timed ? level : null);
                    assertThat(row.values().get(m))
                            .as("seed %d, %s, %s in %s: %s", seed, names.get(m), row.labels(), calendar, measure)
                            .isEqualTo(expected);
                }
            }
        }
    }
}
