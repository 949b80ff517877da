package dev.mile.render.layout;

import dev.mile.internal.LocalFormat;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.text.DecimalFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** How numbers of a column read: by its format, or by what its values need. */
public final class NumberFormatter {
    private final DecimalFormat format;
    private final Optional<PlainDecimals> plain;
    private final int digits;

    private NumberFormatter(DecimalFormat format, Optional<PlainDecimals> plain, int digits) {
        this.format = format;
        this.plain = plain;
        this.digits = digits;
    }

    public static NumberFormatter of(Grid.Column column, List<Value> values, Locale locale) {
        String pattern = column.style().format().orElse("");
        int digits = column.style().scale().digits();
        if (pattern.isEmpty() && digits > 0) {
            pattern = "#,##0.0";
        } else if (pattern.isEmpty()) {
            // cents come in twos
            pattern = values.stream().allMatch(NumberFormatter::isWhole) ? "#,##0" : "#,##0.00";
        }
        DecimalFormat format = LocalFormat.of(locale).numbers(pattern);
        format.setRoundingMode(RoundingMode.HALF_UP);
        if (!pattern.contains(";")) {
            // as finance prints them
            format.setNegativePrefix("(" + format.getPositivePrefix());
            format.setNegativeSuffix(format.getPositiveSuffix() + ")");
        }
        return new NumberFormatter(format, PlainDecimals.of(format, pattern), digits);
    }

    private String exact(BigDecimal number) {
        return plain.isPresent() ? plain.get().of(number) : format.format(number);
    }

    private static boolean isWhole(Value value) {
        return value.isBlank()
                || (value.isExact()
                        ? value.decimal().stripTrailingZeros().scale() <= 0
                        : value.toDouble() == Math.rint(value.toDouble()));
    }

    public String of(Value value) {
        if (value.isBlank()) {
            return "";
        }
        String text = value.isExact()
                ? exact(value.decimal().movePointLeft(digits))
                : format.format(value.toDouble() / Math.pow(10, digits));
        // what rounds to nothing has no sign
        return text.startsWith("(") && text.chars().noneMatch(c -> Character.digit(c, 10) > 0)
                ? text.substring(1, text.length() - 1)
                : text;
    }
}
