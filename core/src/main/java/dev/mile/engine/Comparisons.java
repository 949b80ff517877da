package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** What may be compared with what, for all engines alike. */
public final class Comparisons {
    /** Texts by code point, as databases sort UTF-8; blanks (null) last. */
    public static final Comparator<String> BY_CODE_POINT = Comparator.nullsLast((a, b) -> {
        int n = Math.min(a.length(), b.length());
        for (int i = 0; i < n; i++) {
            char x = a.charAt(i);
            char y = b.charAt(i);
            if (x != y) {
                boolean sx = Character.isSurrogate(x);
                boolean sy = Character.isSurrogate(y);
                return sx == sy ? Character.compare(x, y) : sx ? 1 : -1;
            }
        }
        return Integer.compare(a.length(), b.length());
    });

    /** Groups by their members, the first column first. */
    public static final Comparator<String[]> BY_MEMBERS = (a, b) -> {
        for (int i = 0; i < a.length; i++) {
            int c = BY_CODE_POINT.compare(a[i], b[i]);
            if (c != 0) {
                return c;
            }
        }
        return 0;
    };

    private Comparisons() {}

    /**
     * {@return the type in which the operands of one comparison meet}
     *
     * @param condition the condition
     * @param operands the operands
     * @param days what is known of days
     * @throws MileException if a text would be compared with a number, or a date with something that is no date
     */
    public static ValueType commonType(Condition condition, List<Operand> operands, @Nullable DayContext days) {
        requireNonNull(condition, "condition is null");
        requireNonNull(operands, "operands is null");
        checkDayAttributes(condition, operands);
        ValueType met = null;
        Operand first = null;
        for (Operand operand : operands) {
            ValueType type = type(operand, days);
            if (type == ValueType.FLOATING) {
                type = ValueType.NUMBER;
            }
            if (type == ValueType.BLANK_ONLY) {
                continue;
            }
            if (met == null || met == type) {
                met = type;
                first = first == null ? operand : first;
            } else if (dateText(met, operand) || dateText(type, first)) {
                met = ValueType.DATE;
            } else {
                throw ModelException.of(
                        "`%s` compares %s with %s; %s",
                        condition, describe(first, met), describe(operand, type), remedy(met, type));
            }
        }
        return met == null ? ValueType.BLANK_ONLY : met;
    }

    /** Refuses what only some engines could tell: databases know no calendars, so they get the answer for each day. */
    private static void checkDayAttributes(Condition condition, List<Operand> operands) {
        boolean attribute = operands.stream().map(Operand::innermost).anyMatch(Operand.DayAttribute.class::isInstance);
        if (attribute && !operands.stream().map(Operand::innermost).allMatch(Operand::isSameForAllRowsOfADay)) {
            throw ModelException.of(
                    "`%s` compares an attribute of the day with a column of the row; compare each with a constant",
                    condition);
        }
    }

    private static boolean dateText(ValueType type, Operand other) {
        return type == ValueType.DATE
                && other instanceof Operand.Text t
                && EpochDays.parse(t.value()).isPresent();
    }

    private static String describe(Operand operand, ValueType type) {
        return "a " + type.name().toLowerCase(Locale.ROOT) + " (" + operand + ")";
    }

    private static String remedy(ValueType a, ValueType b) {
        return a == ValueType.DATE || b == ValueType.DATE
                ? "write dates as '2026-04-01'"
                : "write numbers without quotes and texts in single quotes";
    }

    /**
     * {@return the type of the operand, whose names have been looked up}
     *
     * @param operand the operand
     * @param days what is known of days
     */
    public static ValueType type(Operand operand, @Nullable DayContext days) {
        requireNonNull(operand, "operand is null");
        if (operand instanceof Operand.Field f) {
            return f.type();
        }
        if (operand instanceof Operand.Computed computed) {
            return computed.of().floating() ? ValueType.FLOATING : ValueType.NUMBER;
        }
        if (operand instanceof Operand.Changed changed) {
            ValueType of = type(changed.of(), days);
            if (of != ValueType.TEXT && of != ValueType.BLANK_ONLY) {
                throw ModelException.of(
                        "`%s` takes a text, and %s holds %s",
                        changed, changed.of(), of.name().toLowerCase(Locale.ROOT) + "s");
            }
            return of;
        }
        if (operand instanceof Operand.DayAttribute a) {
            return days.attributeType(a.column());
        }
        if (operand instanceof Operand.RowDate || operand instanceof Operand.Date) {
            return ValueType.DATE;
        }
        return operand instanceof Operand.Number ? ValueType.NUMBER : ValueType.TEXT;
    }

    /**
     * {@return whether the text matches the pattern, where % matches any text and _ one character}
     *
     * @param text the text
     * @param pattern the pattern, with % for any text and _ for one character
     */
    public static boolean like(String text, String pattern) {
        requireNonNull(text, "text is null");
        requireNonNull(pattern, "pattern is null");
        int[] t = text.codePoints().toArray();
        int[] p = pattern.codePoints().toArray();
        int at = 0;
        int in = 0;
        int star = -1;
        int mark = 0;
        while (at < t.length) {
            if (in < p.length && p[in] == '%') {
                star = in++;
                mark = at;
            } else if (in < p.length && (p[in] == '_' || p[in] == t[at])) {
                in++;
                at++;
            } else if (star >= 0) {
                in = star + 1;
                at = ++mark;
            } else {
                return false;
            }
        }
        while (in < p.length && p[in] == '%') {
            in++;
        }
        return in == p.length;
    }
}
