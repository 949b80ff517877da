package dev.mile.render.layout;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * The straight line, or the exponential curve, that fits the values of consecutive periods best: ordinary least squares on the
 * values, or on their logarithms. The first period has the place 1; blanks are left out.
 *
 * @param exponential whether it is a curve {@code a * e^(b * n)} rather than a line {@code a + b * n}
 * @param intercept the value at place 0
 * @param slope the slope, or the growth rate
 * @param rSquared the coefficient of determination (R squared), from 0 to 1, of what was fitted: the values or their logarithms
 */
public record Trend(boolean exponential, double intercept, double slope, double rSquared) {
    private static final int LEAST_VALUES = 3;

    /** Returns the line; empty for fewer than three values. Blanks are null. */
    public static Optional<Trend> linear(List<Double> values) {
        return fitted(values, false);
    }

    /** Returns the curve; empty for fewer than three values, or where one is not above zero. */
    public static Optional<Trend> exponential(List<Double> values) {
        return values.stream().anyMatch(v -> v != null && v <= 0) ? Optional.empty() : fitted(values, true);
    }

    private static Optional<Trend> fitted(List<Double> values, boolean exponential) {
        int n = 0;
        double meanX = 0;
        double meanY = 0;
        for (int i = 0; i < values.size(); i++) {
            if (values.get(i) != null) {
                n++;
                meanX += i + 1;
                meanY += y(values.get(i), exponential);
            }
        }
        if (n < LEAST_VALUES) {
            return Optional.empty();
        }
        meanX /= n;
        meanY /= n;
        double xx = 0;
        double xy = 0;
        double yy = 0;
        for (int i = 0; i < values.size(); i++) {
            if (values.get(i) != null) {
                double x = i + 1 - meanX;
                double y = y(values.get(i), exponential) - meanY;
                xx += x * x;
                xy += x * y;
                yy += y * y;
            }
        }
        double slope = xy / xx;
        double start = meanY - slope * meanX;
        // a flat row of values is fitted perfectly by a flat line
        double fit = yy == 0 ? 1 : xy * xy / (xx * yy);
        return Optional.of(new Trend(exponential, exponential ? Math.exp(start) : start, slope, fit));
    }

    /** Returns the line and the curve of a series, in the scale that people read; none where too little is known of it. */
    public static List<Trend> of(ChartData.Series series) {
        // a part of a period, at either end, is no evidence
        List<Double> known = new ArrayList<>();
        series.whole().forEach(value -> known.add(value == null ? null : series.scaled(value)));
        return Stream.of(linear(known), exponential(known))
                .flatMap(Optional::stream)
                .toList();
    }

    private static double y(double value, boolean exponential) {
        return exponential ? Math.log(value) : value;
    }

    /** Returns the fitted value at the place, 1 for the first period. */
    public double at(int place) {
        return exponential ? intercept * Math.exp(slope * place) : intercept + slope * place;
    }

    /** Returns the equation and R squared: {@code y = 1,204.5 + 12.3 n, R² = 0.81}. */
    public String equation(Locale locale) {
        return exponential
                ? String.format(locale, "y = %s e^(%.4f n), R² = %.2f", digits(intercept, locale), slope, rSquared)
                : String.format(
                        locale,
                        "y = %s %s %s n, R² = %.2f",
                        digits(intercept, locale),
                        slope < 0 ? "−" : "+",
                        digits(Math.abs(slope), locale),
                        rSquared);
    }

    private static String digits(double value, Locale locale) {
        return Math.abs(value) >= 10_000 ? String.format(locale, "%,.0f", value) : String.format(locale, "%.4g", value);
    }
}
