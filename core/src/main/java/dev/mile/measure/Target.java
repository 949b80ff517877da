package dev.mile.measure;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import java.math.BigDecimal;

/**
 * Compares a measure with a goal: another measure or a constant.
 *
 * @param name its name in reports
 * @param measure the name of the measure
 * @param against the goal, a name of a measure or a constant
 * @param bands from where on it is met, and near
 */
public record Target(String name, String measure, Measure against, TargetBands bands) {

    public Target {
        requireNonNull(name, "name is null");
        requireNonNull(measure, "measure is null");
        requireNonNull(against, "against is null");
        requireNonNull(bands, "bands is null");
        if (!bands.isOrdered()) {
            throw ModelException.of(
                    "the target '%s' is near before it is met: met %s, near %s, aim %s; met is the stricter of the two",
                    name,
                    percent(bands.met()),
                    percent(bands.near()),
                    bands.aim().word());
        }
    }

    /** Returns it in words: {@code sales against sales_ly, aim high, met 105%, near 100%}. */
    @Override
    public String toString() {
        return measure + " against " + against + ", aim " + bands.aim().word() + ", met " + percent(bands.met())
                + ", near " + percent(bands.near());
    }

    private static String percent(BigDecimal share) {
        return share.movePointRight(2).stripTrailingZeros().toPlainString() + "%";
    }
}
