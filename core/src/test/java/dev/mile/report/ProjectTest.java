package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.MileException;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.fact.Fact;
import dev.mile.measure.Measure;
import java.time.Month;
import org.junit.jupiter.api.Test;

/** What a project promises to whoever builds one. */
class ProjectTest {
    private static Project.Builder builder() {
        return Project.named("Fernhollow")
                .calendar("fiscal", FiscalCalendar.startingIn(Month.APRIL))
                .fact(Fact.of("sales", "ordered", "day"))
                .measure("sales", Measure.sum("sales", "amount"));
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
}
