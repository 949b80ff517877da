package dev.mile.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.calendar.Level;
import dev.mile.fact.Condition;
import dev.mile.span.Span;
import java.math.BigDecimal;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class MeasureTest {
    private static final Measure A = Measure.named("a");
    private static final Measure B = Measure.named("b");
    private static final Measure C = Measure.named("c");

    static Stream<Arguments> texts() {
        return Stream.of(
                Arguments.of(A.minus(B).minus(C), "a - b - c"),
                Arguments.of(A.minus(B.minus(C)), "a - (b - c)"),
                Arguments.of(A.plus(B).times(C), "(a + b) * c"),
                Arguments.of(A.plus(B.times(C)), "a + b * c"),
                Arguments.of(A.dividedBy(B.times(C)), "a / (b * c)"),
                Arguments.of(A.times(B).dividedBy(C), "a * b / c"),
                Arguments.of(A.then(B).plus(C), "(a then b) + c"),
                Arguments.of(A.plus(B.then(C)), "a + (b then c)"),
                Arguments.of(A.then(B.then(C)), "a then (b then c)"),
                Arguments.of(A.plus(B).negated(), "-(a + b)"),
                Arguments.of(A.negated().negated(), "-(-a)"),
                Arguments.of(A.orElse(BigDecimal.ZERO).negated(), "-(a or 0)"),
                Arguments.of(A.then(B).orElse(BigDecimal.ONE), "(a then b) or 1"),
                Arguments.of(A.plus(B).over(Span.toDate(Level.YEAR)), "(a + b) over year to date"),
                Arguments.of(Measure.sum("s", "x").on("paid").inFull(), "sum(s.x) on paid in full"),
                Arguments.of(Measure.workingDays().per(Per.workingDay()), "working_days() per working day"),
                Arguments.of(A.per(Per.workingDay().withWeek("office")), "a per working day of office"),
                Arguments.of(A.per(Per.unit(Level.YEAR).withCalendar("retail")), "a per year in retail"),
                Arguments.of(Measure.number(new BigDecimal("1.50")).plus(A), "1.50 + a"),
                Arguments.of(A.ifFull(), "a if full"),
                Arguments.of(A.ifAny().ifFull(), "(a if any) if full"),
                Arguments.of(A.ifFull().ifAny(), "(a if full) if any"),
                Arguments.of(A.eachWith("shop", B.plus(C)), "a each shop with (b + c)"),
                Arguments.of(A.eachWith("shop", B.then(C)), "a each shop with (b then c)"),
                Arguments.of(A.eachWith("shop", B), "a each shop with b"),
                // different clauses follow one operand, in the order of the grammar
                Arguments.of(
                        A.onlyAt(Level.PERIOD)
                                .ifFull()
                                .inFull()
                                .each("shop", "item")
                                .per(Per.workingDay())
                                .across("channel")
                                .where(Condition.column("shop").is("S1"))
                                .over(Span.toDate(Level.YEAR))
                                .on("paid"),
                        "a on paid over year to date where shop = 'S1' across channel per working day each shop, item in full if"
                                + " full only at month"));
    }

    @ParameterizedTest(name = "{1}")
    @MethodSource("texts")
    void measuresPrintThemselves(Measure measure, String text) {
        assertThat(measure).hasToString(text);
    }

    static Stream<UnaryOperator<Measure>> clauses() {
        return Stream.of(
                m -> m.on("paid"),
                m -> m.over(Span.toDate(Level.YEAR)),
                m -> m.where(Condition.column("shop").is("S1")),
                m -> m.across("shop"),
                m -> m.per(Per.workingDay()),
                m -> m.each("shop"),
                m -> m.onlyAt(Level.PERIOD));
    }

    /** A clause binds to the operand at hand once; said again, it binds to all that was said before. */
    @ParameterizedTest
    @MethodSource("clauses")
    void aClauseThatIsGivenTwiceAppliesToBrackets(UnaryOperator<Measure> clause) {
        Measure once = clause.apply(A);
        assertThat(once.toString()).startsWith("a ");
        assertThat(once.inFull().toString()).startsWith("a ");
        assertThat(clause.apply(once).toString()).startsWith("(" + once + ") ");
    }

    @Test
    void stylesSayWhatPeopleRead() {
        NumberStyle plain = NumberStyle.PLAIN;
        assertThat(plain.isPercentage()).isFalse();
        assertThat(plain.withFormat("0.0%").isPercentage()).isTrue();
        assertThat(plain.withFormat("0.0").isPercentage()).isFalse();
        assertThat(plain.withUnit("EUR").unit()).contains("EUR");
        assertThat(plain.withScale(NumberStyle.Scale.THOUSAND).scale()).isEqualTo(NumberStyle.Scale.THOUSAND);
    }

    @Test
    void bandsAreOrdered() {
        BigDecimal low = new BigDecimal("0.9");
        BigDecimal high = new BigDecimal("1.1");
        assertThatThrownBy(() -> new Target("t", "a", B, new TargetBands(TargetBands.Aim.HIGH, low, high)))
                .hasMessageContaining("near");
        assertThatThrownBy(() -> new Target("t", "a", B, new TargetBands(TargetBands.Aim.LOW, high, low)))
                .hasMessageContaining("near");
        assertThatThrownBy(() ->
                        new Target("t", "a", B, new TargetBands(TargetBands.Aim.CLOSE, new BigDecimal("0.5"), high)))
                .hasMessageContaining("near");
        for (TargetBands.Aim aim : TargetBands.Aim.values()) {
            assertThat(new Target("t", "a", B, new TargetBands(aim, high, high))
                            .bands()
                            .met())
                    .isEqualTo(high);
        }
    }

    @Test
    void measuresKnowWhatTheyAreMadeOf() {
        assertThat(A.plus(B).parts()).containsExactly(A, B);
        assertThat(A.then(B).parts()).containsExactly(A, B);
        assertThat(A.negated().parts()).containsExactly(A);
        assertThat(A.orElse(BigDecimal.ONE).parts()).containsExactly(A);
        assertThat(A.on("paid").parts()).containsExactly(A);
        assertThat(A.eachWith("shop", B).parts()).containsExactly(A, B);
        assertThat(A.parts()).isEmpty();
        assertThat(A.plus(B.then(A)).over(Span.toDate(Level.YEAR)).names()).containsExactly("a", "b");
    }

    @Test
    void peopleReadLabelsUnitsAndTargets() {
        MeasureDefinition plain = MeasureDefinition.of("working_days_left", A);
        assertThat(plain.title()).isEqualTo("Working days left");
        assertThat(plain.withLabel("Days left").title()).isEqualTo("Days left");
        assertThat(plain.withStyle(NumberStyle.PLAIN.withUnit("days")).style().unit())
                .contains("days");
        NumberStyle style = NumberStyle.PLAIN.withUnit("EUR");
        assertThat(style.describe()).isEqualTo("EUR");
        assertThat(style.withScale(NumberStyle.Scale.MILLION).describe()).isEqualTo("EUR million");
        assertThat(NumberStyle.PLAIN.describe()).isEmpty();
        assertThat(NumberStyle.Scale.MILLION.digits()).isEqualTo(6);
        assertThat(NumberStyle.Scale.THOUSAND.digits()).isEqualTo(3);
        assertThat(new Target(
                        "t", "sales", B, new TargetBands(TargetBands.Aim.HIGH, new BigDecimal("1.05"), BigDecimal.ONE)))
                .hasToString("sales against b, aim high, met 105%, near 100%");
    }
}
