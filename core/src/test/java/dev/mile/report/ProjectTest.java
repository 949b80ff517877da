package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.MileException;
import dev.mile.SourceLocation;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.measure.Measure;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What a project promises to those who build one. */
class ProjectTest {
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
    void buildersTakeWhatAModelSays() {
        SourceLocation place = SourceLocation.of("mile.yaml", 7, 3);
        Report report = Report.of("r", List.of("year"), List.of("sales"));
        Project project = builder()
                .asOf(LocalDate.parse("2026-03-31"))
                .locale(Locale.GERMAN)
                .weekStarts(DayOfWeek.SUNDAY)
                .dates(DateBound.at(LocalDate.parse("2025-01-01")), DateBound.fromFacts())
                .report(report)
                .location(Project.Element.MEASURE, "sales", place)
                .build();
        assertThat(project.name()).isEqualTo("Fernhollow");
        assertThat(project.asOf()).contains(LocalDate.parse("2026-03-31"));
        assertThat(project.locale()).isEqualTo(Locale.GERMAN);
        assertThat(project.weekStarts()).isEqualTo(DayOfWeek.SUNDAY);
        assertThat(project.location(Project.Element.MEASURE, "sales")).contains(place);
        assertThat(project.location(Project.Element.TARGET, "sales")).isEmpty();
        assertThat(project.reports()).containsExactly(Map.entry("r", report));
        Project copy = project.toBuilder().build();
        assertThat(copy).isEqualTo(project).hasSameHashCodeAs(project);
        assertThat(copy.location(Project.Element.MEASURE, "sales")).contains(place);
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
