package dev.mile.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.MileException;
import dev.mile.calendar.Level;
import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.TextFunction;
import dev.mile.measure.Clauses;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.span.Span;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** Random measures of the whole grammar print themselves so that they read back as the same objects. */
class LanguageLawsTest {
    /** Draws measures, spans and conditions. */
    private static final class Draw {
        private final Random random;

        private Draw(long seed) {
            random = new Random(seed);
        }

        @SafeVarargs
        private <T> T one(T... of) {
            return of[random.nextInt(of.length)];
        }

        private boolean now() {
            return random.nextInt(3) == 0;
        }

        private BigDecimal number() {
            return BigDecimal.valueOf(random.nextInt(100_000), random.nextInt(4));
        }

        /** Negative ones, and those that are written with fewer digits than they have, too. */
        private BigDecimal signed() {
            BigDecimal number = now() ? new BigDecimal("12E+3") : number();
            return now() ? number.negate() : number;
        }

        /** Names that read as words of the language among them. */
        private String name() {
            return one("shop", "or", "in", "full", "Net amount", "say \"so\"", "1st", "größe", "then", "as_of");
        }

        private Operand.Name column() {
            return new Operand.Name(one(
                    "sales.units",
                    "sales.net_amount",
                    "sales.say \"so\"",
                    "sales.Net Amount",
                    "sales.or",
                    "sales.größe"));
        }

        private RowExpression row(int depth) {
            if (depth > 0 && now()) {
                return new RowExpression.Arithmetic(row(depth - 1), one(RowExpression.Sign.values()), row(depth - 1));
            }
            if (depth > 0 && now()) {
                return new RowExpression.OrElse(row(depth - 1), signed());
            }
            if (now()) {
                RowExpression.TimeUnit unit = one(RowExpression.TimeUnit.values());
                var elapsed = RowExpression.Elapsed.of(
                        unit,
                        new Operand.Name("sales.ordered"),
                        now() ? Operand.Name.AS_OF : new Operand.Name("sales.paid"));
                return unit == RowExpression.TimeUnit.WORKING_DAYS && now() ? elapsed.withWeek(name()) : elapsed;
            }
            return now() ? new RowExpression.Constant(signed()) : new RowExpression.Value(column());
        }

        private Measure aggregate() {
            RowExpression of = row(2);
            // an aggregate needs a column that tells its fact
            RowExpression named = of.toString().contains("sales.") ? of : new RowExpression.Value(column());
            return new Measure.Aggregate(one(Measure.Aggregation.values()), "sales", Optional.of(named));
        }

        private Span span() {
            Level unit = one(Level.values());
            int n = 1 + random.nextInt(40);
            Span step = one(
                    Span.toDate(unit),
                    Span.last(n, unit),
                    Span.trailing(n, unit),
                    Span.previous(n, unit),
                    Span.next(n, unit),
                    Span.whole(unit),
                    Span.back(n, unit),
                    Span.ahead(n, unit),
                    Span.current(unit),
                    Span.allToDate(),
                    Span.before(),
                    Span.firstDay(),
                    Span.lastDay(),
                    Span.soFar(),
                    Span.toCome(),
                    Span.today(),
                    Span.yesterday());
            step = now() ? step.withCalendar(name()) : step;
            return now() ? step.then(span()) : step;
        }

        private Operand value() {
            return now() ? new Operand.Number(signed()) : new Operand.Text(one("x", "it's", "", "a b", "50%"));
        }

        private Condition condition(int depth) {
            Operand name = one(
                    new Operand.Name(one("channel", "shops.region", "sales.units", "weekday_name", name())),
                    new Operand.Changed(one(TextFunction.values()), new Operand.Name("channel")),
                    Condition.column(RowExpression.elapsed(RowExpression.TimeUnit.DAYS, "sales.a", "sales.b"))
                            .operand(),
                    value());
            if (depth > 0 && now()) {
                List<Condition> parts = new ArrayList<>();
                for (int i = 0; i < 2 + random.nextInt(2); i++) {
                    parts.add(condition(depth - 1));
                }
                return new Condition.Or(parts);
            }
            if (depth > 0 && now()) {
                return condition(depth - 1).and(condition(depth - 1));
            }
            return switch (random.nextInt(6)) {
                case 0 -> new Condition.IsBlank(name);
                case 1 -> new Condition.Like(name, one("N%", "_x", "it's"));
                case 2 -> new Condition.In(name, List.of(value(), value()));
                case 3 -> new Condition.Between(name, value(), value());
                case 4 -> condition(depth > 0 ? depth - 1 : 0).not();
                default -> new Condition.Compare(name, one(Condition.Comparison.values()), value());
            };
        }

        private Clauses clauses() {
            Clauses c = Clauses.NONE;
            c = now() ? c.withOn(name()) : c;
            c = now() ? c.withOver(span()) : c;
            c = now() ? c.withWhere(condition(2)) : c;
            c = now() ? c.withAcross(List.of(name(), "shops.region")) : c;
            c = now()
                    ? c.withPer(one(
                            Per.workingDay(),
                            Per.unit(one(Level.values())),
                            Per.workingDay().withWeek(name()),
                            Per.unit(Level.WEEK).withCalendar(name())))
                    : c;
            c = now() ? c.withEach(List.of(name())) : c;
            c = now() ? c.withInFull() : c;
            c = now() ? now() ? c.withIfFull() : c.withIfAny() : c;
            return now() ? c.withOnlyAt(one(Level.values())) : c;
        }

        private Measure measure(int depth) {
            if (depth == 0) {
                return switch (random.nextInt(6)) {
                    case 0 -> Measure.named(now() ? "sum(sales.x)" : name());
                    case 1 -> Measure.number(signed());
                    case 2 -> Measure.count(name());
                    case 3 -> one(Measure.days(), Measure.workingDays(), Measure.workingDays(name()));
                    default -> aggregate();
                };
            }
            Measure of = measure(depth - 1);
            return switch (random.nextInt(8)) {
                case 0 -> of.plus(measure(depth - 1));
                case 1 -> of.minus(measure(depth - 1));
                case 2 -> of.times(measure(depth - 1));
                case 3 -> of.dividedBy(measure(depth - 1));
                case 4 -> of.negated();
                case 5 -> of.orElse(signed());
                case 6 -> of.then(measure(depth - 1));
                default -> {
                    Clauses c = clauses();
                    Optional<Measure> factor =
                            c.each().isEmpty() || now() ? Optional.empty() : Optional.of(measure(depth - 1));
                    yield c.equals(Clauses.NONE) ? of : new Measure.Qualified(of, c, factor);
                }
            };
        }
    }

    @Property(tries = 3_000, seed = "20260814")
    void measuresReadBackAsTheSame(@ForAll @IntRange(max = 1_000_000) int seed) {
        Measure measure = new Draw(seed).measure(4);
        assertThat(MeasureLanguage.measure(measure.toString()))
                .as(measure.toString())
                .isEqualTo(measure);
    }

    @Property(tries = 1_000, seed = "20260814")
    void spansAndConditionsReadBackAsTheSame(@ForAll @IntRange(max = 1_000_000) int seed) {
        Draw draw = new Draw(seed);
        Span span = draw.span();
        assertThat(MeasureLanguage.span(span.toString())).isEqualTo(span);
        Condition condition = draw.condition(3);
        assertThat(MeasureLanguage.condition(condition.toString()))
                .as(condition.toString())
                .isEqualTo(condition);
    }

    /** Whatever is typed, the answer is a measure or an error that shows the text, or a part of it, and a character in it. */
    @Property(tries = 3_000, seed = "20260814")
    void brokenTextsGetAnErrorWithAPlace(
            @ForAll @IntRange(max = 1_000_000) int seed, @ForAll @IntRange(max = 60) int at, @ForAll char typed) {
        String text = new Draw(seed).measure(3).toString();
        int place = Math.min(at, text.length());
        String broken = text.substring(0, place) + typed + text.substring(place);
        try {
            MeasureLanguage.measure(broken);
        } catch (MileException e) {
            assertThat(e.getMessage()).startsWith("`").contains("`, character ");
        }
    }

    @Test
    void textsThatEndTooSoonSayWhatIsMissing() {
        assertThatThrownBy(() -> MeasureLanguage.measure(""))
                .hasMessageContaining("character 1: found the end; expected a number, the name of a measure");
        assertThatThrownBy(() -> MeasureLanguage.condition("shop ="))
                .hasMessageContaining("character 7: found the end; expected a name, a number or a text");
        assertThatThrownBy(() -> MeasureLanguage.span("1 year back,"))
                .hasMessageContaining("character 13: found the end; expected a step");
    }
}
