package dev.mile.measure;

import dev.mile.MileException;
import java.io.Serializable;
import java.math.BigDecimal;
import java.util.Locale;
import java.util.Optional;

/**
 * A measure held against another or a constant: {@code met: 105%} with {@link Aim#HIGH} means at least against + 5 % of its size,
 * so that zero and negative goals work.
 *
 * @param name its name in reports
 * @param measure the measure
 * @param against the goal, a name of a measure or a constant
 * @param aim which way is good
 * @param met the share of the goal, 1.05 for 105 %, from which it is met
 * @param near the share from which it is near
 * @param place where it stands, for messages; may be empty
 */
public record Target(
        String name, String measure, Measure against, Aim aim, BigDecimal met, BigDecimal near, String place) {

    /** Which values are good. */
    public enum Aim {
        /** The more the better. */
        HIGH,
        /** The less the better. */
        LOW,
        /** The nearer the better, on either side. */
        CLOSE
    }

    /** How it stands. */
    public enum Status {
        /** At or beyond what counts as met. */
        MET("met"),
        /** At or beyond what counts as near. */
        NEAR("near"),
        /** Neither. */
        MISSED("missed");

        private final String word;

        Status(String word) {
            this.word = word;
        }

        /** Returns the status whose place among all the value is. */
        public static Status of(Value place) {
            return values()[place.decimal().intValueExact()];
        }

        /** Returns how people read it. */
        public String word() {
            return word;
        }
    }

    public Target {
        boolean ordered =
                switch (aim) {
                    case HIGH -> met.compareTo(near) >= 0;
                    case LOW -> met.compareTo(near) <= 0;
                    case CLOSE -> away(met).compareTo(away(near)) <= 0;
                };
        if (!ordered) {
            throw MileException.invalidModel(
                    "the target '%s' is near before it is met: met %s, near %s, aim %s; `met` is the stricter of the two",
                    name, percent(met), percent(near), aim.name().toLowerCase(Locale.ROOT));
        }
    }

    /** Returns it in words: {@code sales against sales_ly, aim high, met 105%, near 100%}. */
    @Override
    public String toString() {
        return measure + " against " + against + ", aim " + aim.name().toLowerCase(Locale.ROOT) + ", met "
                + percent(met) + ", near " + percent(near);
    }

    private static BigDecimal away(BigDecimal share) {
        return share.subtract(BigDecimal.ONE).abs();
    }

    private static String percent(BigDecimal share) {
        return share.movePointRight(2).stripTrailingZeros().toPlainString() + "%";
    }

    /** Returns how values are held against goals. */
    public TargetBands bands() {
        return new TargetBands(aim, met, near);
    }

    /** Returns how the value stands against the goal; empty where one of them is blank. */
    public Optional<Status> status(Value value, Value goal) {
        return bands().status(value, goal);
    }

    /**
     * How values are held against goals.
     *
     * @param aim which way is good
     * @param met the share of the goal from which it is met
     * @param near the share from which it is near
     */
    public record TargetBands(Aim aim, BigDecimal met, BigDecimal near) implements Serializable {
        /** Returns how the value stands against the goal; empty where one of them is blank. */
        public Optional<Status> status(Value value, Value goal) {
            if (value.isBlank() || goal.isBlank()) {
                return Optional.empty();
            }
            if (reaches(value.decimal(), goal.decimal(), met)) {
                return Optional.of(Status.MET);
            }
            return Optional.of(reaches(value.decimal(), goal.decimal(), near) ? Status.NEAR : Status.MISSED);
        }

        private boolean reaches(BigDecimal value, BigDecimal goal, BigDecimal share) {
            BigDecimal margin = share.subtract(BigDecimal.ONE).multiply(goal.abs());
            return switch (aim) {
                case HIGH -> value.compareTo(goal.add(margin)) >= 0;
                case LOW -> value.compareTo(goal.add(margin)) <= 0;
                case CLOSE -> value.subtract(goal).abs().compareTo(margin.abs()) <= 0;
            };
        }
    }
}
