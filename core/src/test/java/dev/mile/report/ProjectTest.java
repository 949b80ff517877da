package dev.mile.report;

import static dev.mile.fact.Condition.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.ErrorCode;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.measure.Target;
import dev.mile.measure.TargetBands;
import dev.mile.span.Span;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Stream;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What a project promises to those who build one. */
class ProjectTest {
    private static final TargetBands BANDS =
            new TargetBands(TargetBands.Aim.HIGH, BigDecimal.ONE, new BigDecimal("0.9"));

    private static Project.Builder builder() {
        return Project.named("Fernhollow")
                .calendar("fiscal", FiscalCalendar.startingIn(Month.APRIL))
                .fact(Fact.of("sales", "ordered", "day"))
                .measure("sales", Measure.sum("sales", "amount"));
    }

    @Test
    void packsNameReportsThatThereAreAndNoReportIsCalledAsOne() {
        Project.Builder reports = Project.named("p")
                .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
                .report(Report.of("a", List.of("year"), List.of("m")))
                .report(Report.of("b", List.of("year"), List.of("m")));
        Project project = reports.pack(Pack.of("both", "b", "a")).build();
        assertThat(project.packs().get("both").reports()).containsExactly("b", "a");
        assertThat(project.toBuilder().build()).isEqualTo(project);
        assertThatThrownBy(() -> project.toBuilder().pack(Pack.of("a", "b")).build())
                .hasMessage("'a' is the name of a report too; give the pack another name");
        assertThatThrownBy(() -> project.toBuilder().pack(Pack.of("c", "sales")).build())
                .hasMessage("unknown report 'sales'; known: a, b");
        assertThatThrownBy(() -> Pack.of("c")).hasMessage("the pack 'c' has no report; name at least one");
    }

    @Test
    void nothingIsAddedToABuiltProject() {
        Project.Builder builder = builder();
        Project project = builder.build();
        assertThatThrownBy(() -> builder.measure("more", Measure.days()))
                .isInstanceOf(IllegalStateException.class)
                .hasMessage(
                        "the project 'Fernhollow' is built already; begin another one with Project.named, or take project.toBuilder()");
        assertThat(project.measures()).containsOnlyKeys("sales");
        assertThatThrownBy(() -> project.measures().clear()).isInstanceOf(UnsupportedOperationException.class);
    }

    @Test
    void aNameIsGivenOnce() {
        assertThatThrownBy(() -> builder().measure("sales", Measure.days()))
                .isInstanceOf(MileException.class)
                .hasMessage("the project 'Fernhollow' has two measures named 'sales'; give one of them another name");
    }

    @Test
    void projectsThatSayTheSameAreEqual() {
        assertThat(builder().build())
                .isEqualTo(builder().build())
                .hasSameHashCodeAs(builder().build())
                .isEqualTo(builder().build().toBuilder().build())
                .isNotEqualTo(builder().measure("days", Measure.days()).build())
                .hasToString("Fernhollow (1 calendar, 1 fact, 1 measure, 0 reports)");
    }

    @Test
    void aCycleAmongMeasuresIsRefusedThoughNoReportShowsThem() {
        assertThatThrownBy(() -> builder()
                        .measure("a", Measure.named("sales").plus(Measure.named("b")))
                        .measure("b", Measure.named("c").negated())
                        .measure("c", Measure.named("b"))
                        .build())
                .hasMessage("the measure 'b' refers to itself: b -> c -> b; define one of them without the others");
    }

    @Test
    void allFaultsAreFoundAtOnceWithTheirPlaces() {
        SourceLocation place = SourceLocation.of("mile.yaml", 9, 3);
        Project.Builder broken = builder()
                .measure("a", Measure.named("b"))
                .measure("b", Measure.named("a"))
                .measure(
                        "c",
                        Measure.named("salse").over(Span.back(1, Level.YEAR).withCalendar("retial")))
                .measure(
                        "d",
                        Measure.named("sales").on("pait").per(Per.workingDay().withWeek("w")))
                .measure("e", Measure.count("stock"))
                .target(new Target("t", "salse", Measure.named("goal"), BANDS))
                .report(Report.of("r", List.of("year"), List.of("sales", "t", "x"))
                        .withCalendar("moon"))
                .pack(Pack.of("p", "r", "q"))
                .location(ModelElement.REPORT, "r", place);
        assertThat(broken.validate())
                .extracting(finding -> finding.where() + ": " + finding.text())
                .containsExactly(
                        "a: the measure 'a' refers to itself: a -> b -> a; define one of them without the others",
                        "p: unknown report 'q'; known: r",
                        "c: unknown calendar 'retial'; known: fiscal",
                        "c: unknown measure 'salse'; did you mean 'sales'?",
                        "d: unknown working week 'w'; there are none",
                        "d: the fact 'sales' has no date role 'pait'; known: ordered",
                        "e: unknown fact 'stock'; known: sales",
                        "t: unknown measure 'salse'; did you mean 'sales'?",
                        "t: unknown measure 'goal'; known: sales, a, b, c, d, e",
                        "mile.yaml:9:3: unknown measure or target 'x'; known: sales, a, b, c, d, e, t",
                        "mile.yaml:9:3: unknown calendar 'moon'; known: fiscal");
        assertThat(builder().validate()).isEmpty();
        assertThat(builder().build().validate()).isEmpty();
    }

    @Test
    void anErrorSpeaksToCallersAndToWhoeverWroteTheModel() {
        assertThatThrownBy(() -> Project.named("p").build()).isInstanceOfSatisfying(ModelException.class, error -> {
            assertThat(error)
                    .hasMessage("the project has no calendar; give it the rule of your year, such as"
                            + " calendar(\"fiscal\", FiscalCalendar.startingIn(APRIL))");
            String model =
                    "the model has no calendar; add `calendars: {fiscal: {year_starts: april 1}}`, or the rule of"
                            + " your year";
            assertThat(error.inModelWords()).hasMessage(model).isInstanceOf(ModelException.class);
            assertThat(error.withLocation(SourceLocation.of("mile.yaml", 1, 1))).hasMessage("mile.yaml:1:1: " + model);
            assertThat(error.code()).isEqualTo(ErrorCode.INVALID_MODEL);
        });
    }

    static Stream<Arguments> refusals() {
        return Stream.of(
                Arguments.of(
                        (ThrowingCallable) () -> column("shop").in(),
                        "`shop in ()` names no values; no row would be kept, so give at least one"),
                Arguments.of(
                        (ThrowingCallable) () -> column("shop").is(1.5),
                        "a condition cannot compare with 1.5 (Double); give it a text, a LocalDate, a BigDecimal, a whole number, an enum constant or a column"),
                Arguments.of(
                        (ThrowingCallable) () -> column(" "),
                        "the name of a column is empty; name one, such as net_amount"),
                Arguments.of(
                        (ThrowingCallable)
                                () -> new Condition.And(List.of(column("a").isBlank())),
                        "`and` joins two conditions or more, and there is 1"),
                Arguments.of(
                        (ThrowingCallable) () -> new Condition.Or(List.of()),
                        "`or` joins two conditions or more, and there are 0"),
                Arguments.of(
                        (ThrowingCallable) () -> Measure.named("sales").across(),
                        "the clauses of `sales` say nothing: no dimension or no step is named"),
                Arguments.of(
                        (ThrowingCallable) () -> Measure.named("sales").over(Span.NONE),
                        "the clauses of `sales` say nothing: no dimension or no step is named"),
                Arguments.of(
                        (ThrowingCallable) () -> Measure.named("sales").each("shop", ""),
                        "`each` has an empty name of a dimension; name one, such as shops.region"),
                Arguments.of(
                        (ThrowingCallable) () -> Measure.named(""),
                        "the name of a measure is empty; give the name of one that the project has"),
                Arguments.of(
                        (ThrowingCallable)
                                () -> Measure.aggregate(Measure.Aggregation.SUM, "sales", RowExpression.number(5)),
                        "`5` names no column of the fact 'sales'; write it as fact.column, such as sales.units"));
    }

    @ParameterizedTest
    @MethodSource("refusals")
    void whatMakesNoSenseIsRefusedWhenItIsMade(ThrowingCallable made, String message) {
        assertThatThrownBy(made).isInstanceOf(ModelException.class).hasMessage(message);
    }

    @Test
    void conditionsReadAsInTheLanguage() {
        assertThat(column("shops.opened")
                        .before(LocalDate.parse("2020-01-01"))
                        .and(column("channel").lower().in("web", "post"))
                        .and(column("units")
                                .atLeast(3)
                                .or(column("note").isNotBlank())
                                .not()))
                .hasToString(
                        "shops.opened < '2020-01-01' and lower(channel) in ('web', 'post') and not (units >= 3 or not"
                                + " (note is blank))");
        assertThat(Measure.aggregate(
                        Measure.Aggregation.SUM,
                        "sales",
                        RowExpression.column("units")
                                .times(RowExpression.column("price").orElse(BigDecimal.ZERO))))
                .hasToString("sum(sales.units * (sales.price or 0))");
        assertThat(Measure.number(-5).plus(Measure.count("a fact").on("then")))
                .hasToString("-5 + count(\"a fact\") on \"then\"");
    }

    @Test
    void buildersTakeWhatAModelSays() {
        SourceLocation place = SourceLocation.of("mile.yaml", 7, 3);
        Report report = Report.of("r", List.of("year"), List.of("sales"));
        Project project = builder()
                .asOf(LocalDate.parse("2026-03-31"))
                .locale(Locale.GERMAN)
                .weekStarts(DayOfWeek.SUNDAY)
                .dates(DateBound.at(LocalDate.parse("2025-01-01")), DateBound.fromFacts())
                .report(report)
                .location(ModelElement.MEASURE, "sales", place)
                .build();
        assertThat(project.name()).isEqualTo("Fernhollow");
        assertThat(project.asOf()).contains(LocalDate.parse("2026-03-31"));
        assertThat(project.locale()).isEqualTo(Locale.GERMAN);
        assertThat(project.weekStarts()).isEqualTo(DayOfWeek.SUNDAY);
        assertThat(project.location(ModelElement.MEASURE, "sales")).contains(place);
        assertThat(project.location(ModelElement.TARGET, "sales")).isEmpty();
        assertThat(project.reports()).containsExactly(Map.entry("r", report));
        Project copy = project.toBuilder().build();
        assertThat(copy).isEqualTo(project).hasSameHashCodeAs(project);
        assertThat(copy.location(ModelElement.MEASURE, "sales")).contains(place);
        assertThat(builder().build()).isNotEqualTo(project).doesNotHaveSameHashCodeAs(project);
        assertThatThrownBy(() -> builder()
                        .fact(Fact.of("stock", "on", "day").withLink("shop", "shops"))
                        .build())
                .hasMessageContaining("the fact 'stock' links 'shop' to the unknown lookup 'shops'");
    }

    @Test
    void reportsAreCopiedWithAChange() {
        Report report = Report.of("r", List.of("year", "shop"), List.of("sales", "growth"));
        assertThat(report).isEqualTo(Report.of("r", List.of("year", "shop"), List.of("sales", "growth")));
        assertThat(report).hasSameHashCodeAs(Report.of("r", List.of("year", "shop"), List.of("sales", "growth")));
        assertThat(report).hasToString("r: sales, growth by year, shop").isNotEqualTo("r");
        assertThat(Report.of("all", List.of(), List.of("sales"))).hasToString("all: sales");
        assertThat(report.withTitle("Sales").title()).contains("Sales");
        assertThat(report.withBars(List.of("sales")).bars()).containsExactly("sales");
        assertThat(report.withTitle("Sales")).isNotEqualTo(report);
    }

    @Test
    void anEngineOverAnotherProjectIsRefused() {
        Project project = builder().build();
        Project other = builder().fact(Fact.of("stock", "on", "day")).build();
        Project changed = Project.named("Fernhollow")
                .calendar("fiscal", FiscalCalendar.startingIn(Month.APRIL))
                .fact(Fact.of("sales", "ordered", "date"))
                .build();
        assertThatThrownBy(() -> Session.open(other, MemoryEngine.over(project)))
                .hasMessage("the engine does not know the fact 'stock'; open it over the project that it is used with");
        assertThatThrownBy(() -> Session.open(changed, MemoryEngine.over(project)))
                .hasMessage(
                        "the engine has another definition of the fact 'sales'; open it over the project that it is used with");
    }
}
