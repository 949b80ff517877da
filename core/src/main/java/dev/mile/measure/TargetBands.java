package dev.mile.measure;

import static java.util.Objects.requireNonNull;

import java.io.Serializable;
import java.math.BigDecimal;
import java.util.Locale;
import java.util.Optional;

/**
 * How values are compared with goals: {@code 1.05} with {@link TargetBands.Aim#HIGH} means at least the goal + 5 % of its size, so that
 * zero and negative goals work.
 *
 * @param aim which way is good
 * @param met the share of the goal from which it is met
 * @param near the share from which it is near
 */
public record TargetBands(TargetBands.Aim aim, BigDecimal met, BigDecimal near) implements Serializable {
    /** Which values are good. */
    public enum Aim {
        /** The more the better. */
        HIGH,
        /** The less the better. */
        LOW,
        /** The nearer the better, on either side. */
        CLOSE;

        /** {@return the word of the model file} */
        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    public TargetBands {
        requireNonNull(aim, "aim is null");
        requireNonNull(met, "met is null");
        requireNonNull(near, "near is null");
    }

    /** Returns whether what is met is near too. */
    boolean isOrdered() {
        return switch (aim) {
            case HIGH -> met.compareTo(near) >= 0;
            case LOW -> met.compareTo(near) <= 0;
            case CLOSE -> distance(met).compareTo(distance(near)) <= 0;
        };
    }

    private static BigDecimal distance(BigDecimal share) {
        return share.subtract(BigDecimal.ONE).abs();
    }

    /**
     * {@return the status of the value against the goal; empty if one of them is undefined or unknown}
     *
     * @param value the value
     * @param goal the goal
     */
    public Optional<TargetStatus> status(Value value, Value goal) {
        requireNonNull(value, "value is null");
        requireNonNull(goal, "goal is null");
        // nothing counts as zero beside the goal
        Value measured = value.orZero();
        Value against = goal.orZero();
        if (measured.isBlank() || against.isBlank()) {
            return Optional.empty();
        }
        if (reaches(measured.decimal(), against.decimal(), met)) {
            return Optional.of(TargetStatus.MET);
        }
        return Optional.of(
                reaches(measured.decimal(), against.decimal(), near) ? TargetStatus.NEAR : TargetStatus.MISSED);
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
