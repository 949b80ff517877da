package dev.mile.sources;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import java.math.BigDecimal;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The format of numbers, given by an example: {@code 1.234,56}. Its decimal and thousands marks are those of all; signs before or
 * behind, brackets for negatives, a currency sign or code, a percent sign and blanks are understood in any case. Immutable.
 */
public final class NumberExample {
    /** A blank between digits: space, no-break space, narrow no-break space. */
    private static final String BLANKS = " \u00a0\u202f";

    private static final String APOSTROPHES = "'\u2019";
    private static final String MINUS_SIGNS = "-\u2212";
    private static final int NONE = 0;

    private static final Pattern WESTERN = Pattern.compile("[1-9][0-9]{0,2}(\\|[0-9]{3})+");
    private static final Pattern INDIAN = Pattern.compile("[1-9][0-9]?(\\|[0-9]{2})*\\|[0-9]{3}");

    /** Longer ones are no amounts, and patterns that repeat a group take the stack. */
    private static final int MAX_DIGITS = 200;

    private final String example;
    private final char decimal;
    private final char thousands;
    private final boolean indian;

    private NumberExample(String example, char decimal, char thousands, boolean indian) {
        this.example = example;
        this.decimal = decimal;
        this.thousands = thousands;
        this.indian = indian;
    }

    /**
     * {@return how numbers are written, as the example shows}
     *
     * @param example a number as a file has it
     * @throws ModelException if it is no number, or could be read in two ways
     */
    public static NumberExample of(String example) {
        requireNonNull(example, "example is null");
        String digits = bare(example).map(Bare::digits).orElseThrow(() -> notANumber(example));
        StringBuilder marks = new StringBuilder();
        digits.chars().filter(c -> c < '0' || c > '9').forEach(c -> marks.append(kind((char) c)));
        if (marks.isEmpty()) {
            return new NumberExample(example, (char) NONE, (char) NONE, false);
        }
        char last = marks.charAt(marks.length() - 1);
        char first = marks.charAt(0);
        if (first != last) {
            NumberExample found = new NumberExample(example, last, first, isIndian(digits, last));
            return found.read(example).map(value -> found).orElseThrow(() -> notANumber(example));
        }
        boolean canBeDecimal = marks.length() == 1 && (last == '.' || last == ',');
        NumberExample grouped = new NumberExample(example, counterpart(last), last, isIndian(digits, (char) NONE));
        boolean canBeThousands = grouped.read(example).isPresent();
        if (canBeDecimal && canBeThousands) {
            char other = counterpart(last);
            throw ModelException.of(
                    "the example '%s' can be read in two ways, as %s and as %s; copy a number that tells, such as '1%s234%s50' or"
                            + " '1234%s5'",
                    example,
                    digits.replace(Character.toString(last), ""),
                    digits.replace(last, '.'),
                    last,
                    other,
                    last);
        }
        if (canBeDecimal) {
            return new NumberExample(example, last, (char) NONE, false);
        }
        if (!canBeThousands) {
            throw notANumber(example);
        }
        return grouped;
    }

    private static boolean isIndian(String digits, char decimal) {
        String whole = decimal == NONE ? digits : digits.substring(0, lastIndexOf(digits, decimal));
        String bars = bars(whole, null);
        return bars.length() <= MAX_DIGITS
                && bars.chars().filter(c -> c == '|').count() > 1
                && INDIAN.matcher(bars).matches()
                && !WESTERN.matcher(bars).matches();
    }

    private static int lastIndexOf(String digits, char mark) {
        for (int i = digits.length() - 1; i >= 0; i--) {
            if (kind(digits.charAt(i)) == mark) {
                return i;
            }
        }
        return digits.length();
    }

    private static ModelException notANumber(String example) {
        return ModelException.of(
                "'%s' is not an example of a number; copy one from the file, such as '1.234,56' or '1,234.56'",
                example);
    }

    /** The mark of decimals where the other of the two groups thousands; none beside blanks and apostrophes. */
    private static char counterpart(char mark) {
        return mark == '.' ? ',' : mark == ',' ? '.' : (char) NONE;
    }

    /** Marks of one kind are one: every blank is a blank. */
    private static char kind(char c) {
        return BLANKS.indexOf(c) >= 0 ? ' ' : APOSTROPHES.indexOf(c) >= 0 ? '\'' : c;
    }

    /** {@return the example} */
    public String example() {
        return example;
    }

    /**
     * {@return the number; empty where the text is not written like the example}
     *
     * @param text a value of a file
     */
    public Optional<BigDecimal> read(String text) {
        requireNonNull(text, "text is null");
        return bare(text).flatMap(this::value);
    }

    /**
     * {@return the number as 1234.56; empty where the text is not written like the example}
     *
     * @param text a value of a file
     */
    public Optional<String> plain(String text) {
        requireNonNull(text, "text is null");
        String quick = quick(text);
        return quick == null ? read(text).map(BigDecimal::toPlainString) : Optional.of(quick);
    }

    /** Returns the number of a text that has nothing but digits, marks and a minus sign in front; null for others, which take longer. */
    private @Nullable String quick(String text) {
        int length = text.length();
        int begin = length > 0 && text.charAt(0) == '-' ? 1 : 0;
        int digits = 0;
        int group = -1;
        int point = -1;
        StringBuilder plain = new StringBuilder(length + 1);
        plain.append(text, 0, begin);
        for (int i = begin; i < length; i++) {
            char c = text.charAt(i);
            if (c >= '0' && c <= '9') {
                plain.append(c);
                digits++;
            } else if (c == decimal && point < 0 && i > begin && i + 1 < length) {
                point = i;
                plain.append('.');
            } else if (c == thousands
                    && !indian
                    && point < 0
                    && digits > 0
                    && (group < 0 ? i - begin <= 3 : i - group == 4)) {
                group = i;
            } else {
                return null;
            }
        }
        int end = point < 0 ? length : point;
        boolean grouped = group < 0 || end - group == 4 && text.charAt(begin) != '0';
        return digits > 0 && grouped ? plain.toString() : null;
    }

    private Optional<BigDecimal> value(Bare bare) {
        String digits = bare.digits();
        int point = decimal == NONE ? digits.length() : indexOf(digits, decimal);
        String whole = digits.substring(0, point);
        String fraction = point == digits.length() ? "" : digits.substring(point + 1);
        boolean bareFraction = point < digits.length() && fraction.isEmpty();
        if (whole.isEmpty() && fraction.isEmpty() || bareFraction || !isDigits(fraction)) {
            return Optional.empty();
        }
        String bars = bars(whole, thousands == NONE ? null : thousands);
        boolean plain = isDigits(whole);
        boolean wellGrouped = thousands != NONE
                && bars.length() <= MAX_DIGITS
                && (WESTERN.matcher(bars).matches()
                        || indian && INDIAN.matcher(bars).matches());
        if (!plain && !wellGrouped) {
            return Optional.empty();
        }
        String number = (whole.isEmpty() ? "0" : bars.replace("|", "")) + (fraction.isEmpty() ? "" : "." + fraction);
        BigDecimal value = new BigDecimal(number).movePointLeft(bare.percent() ? 2 : 0);
        return Optional.of(bare.negative() ? value.negate() : value);
    }

    private static int indexOf(String digits, char mark) {
        for (int i = 0; i < digits.length(); i++) {
            if (kind(digits.charAt(i)) == mark) {
                return i;
            }
        }
        return digits.length();
    }

    private static boolean isDigits(String text) {
        return text.chars().allMatch(c -> c >= '0' && c <= '9');
    }

    /** Returns the digits with a bar for each mark; for each mark of one kind where it is given. */
    private static String bars(String whole, @Nullable Character mark) {
        StringBuilder bars = new StringBuilder();
        for (char c : whole.toCharArray()) {
            boolean isMark = mark == null ? c < '0' || c > '9' : kind(c) == mark;
            bars.append(isMark ? '|' : c);
        }
        return bars.toString();
    }

    // ---- what stands around the digits

    /** The digits and marks of a number, and what its signs say. */
    private record Bare(String digits, boolean negative, boolean percent) {}

    private static final Pattern AROUND =
            Pattern.compile("(?<before>[^0-9]*?)(?<digits>(?:(?<!\\p{L})[.,])?[0-9](?:.*[0-9])?)(?<behind>[^0-9]*)");
    private static final Pattern CURRENCY =
            Pattern.compile("\\p{Sc}|[A-Z]{3}|[A-Z]{1,2}\\p{Sc}|Fr\\.|kr\\.?|z\u0142|K\u010d");

    private static Optional<Bare> bare(String text) {
        Matcher parts = AROUND.matcher(text.strip());
        if (!parts.matches()) {
            return Optional.empty();
        }
        String before = withoutBlanks(parts.group("before"));
        String behind = withoutBlanks(parts.group("behind"));
        int signs = 0;
        boolean negative = false;
        if (before.startsWith("(") && behind.endsWith(")")) {
            before = before.substring(1);
            behind = behind.substring(0, behind.length() - 1);
            negative = true;
            signs++;
        }
        StringBuilder rest = new StringBuilder();
        boolean percent = false;
        for (String side : new String[] {before, behind}) {
            StringBuilder left = new StringBuilder();
            for (char c : side.toCharArray()) {
                if (c == '+' || MINUS_SIGNS.indexOf(c) >= 0) {
                    negative |= c != '+';
                    signs++;
                } else if (c == '%' && !percent) {
                    percent = true;
                } else {
                    left.append(c);
                }
            }
            rest.append(left);
        }
        boolean understood = rest.isEmpty() || CURRENCY.matcher(rest).matches();
        return signs > 1 || !understood
                ? Optional.empty()
                : Optional.of(new Bare(parts.group("digits"), negative, percent));
    }

    private static String withoutBlanks(String text) {
        StringBuilder rest = new StringBuilder();
        for (char c : text.toCharArray()) {
            if (BLANKS.indexOf(c) < 0) {
                rest.append(c);
            }
        }
        return rest.toString();
    }

    @Override
    public String toString() {
        return example;
    }
}
