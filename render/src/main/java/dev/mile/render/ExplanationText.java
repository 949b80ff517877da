package dev.mile.render;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import dev.mile.report.Explanation;
import java.util.Locale;

/** Writes an explanation for a terminal. */
public final class ExplanationText {
    private static final int PER_LINE = 7;

    private final AnsiStyle style;
    private final boolean dates;

    /**
     * Returns a writer.
     *
     * @param colour whether the terminal shows colours
     * @param dates whether the days looked at are listed, each
     */
    public ExplanationText(boolean colour, boolean dates) {
        this.style = new AnsiStyle(colour);
        this.dates = dates;
    }

    /**
     * {@return the explanation as lines}
     *
     * @param e the explanation
     */
    public String write(Explanation e) {
        requireNonNull(e, "e is null");
        StringBuilder out = new StringBuilder();
        out.append(style.bold(TextWidth.sanitizeControls(e.measure()) + " at " + e.cell()))
                .append(" = ")
                .append(shown(e.root()))
                .append('\n');
        out.append(style.dim("the cell: " + days(e.days())
                        + e.asOf().map(day -> "; actuals as of " + day).orElse("")))
                .append("\n\n");
        part(e.root(), 0, out);
        if (!e.notes().isEmpty()) {
            out.append('\n');
            e.notes().forEach(note -> out.append(style.dim(TextWidth.sanitizeControls(note)))
                    .append('\n'));
        }
        return out.toString();
    }

    private static String shown(Explanation.Operand part) {
        return part.value().isBlank()
                ? part.reason().orElse("blank")
                : part.value().toString();
    }

    private static String days(DateRange range) {
        return range.isEmpty() ? "no days" : range.first() + " to " + range.last();
    }

    private void part(Explanation.Operand part, int depth, StringBuilder out) {
        String indent = "  ".repeat(depth);
        out.append(indent)
                .append(TextWidth.sanitizeControls(part.text()))
                .append(" = ")
                .append(style.bold(shown(part)))
                .append('\n');
        int widest = part.steps().stream()
                .mapToInt(s -> TextWidth.of(s.step()))
                .max()
                .orElse(0);
        for (Explanation.StepResult step : part.steps()) {
            String working = step.workingDays()
                    .map(days -> ", " + days.toPlainString() + " working")
                    .orElse("");
            out.append(indent)
                    .append("    ")
                    .append(TextWidth.left(step.step(), widest))
                    .append("  ")
                    .append(
                            step.days().isEmpty()
                                    ? "no days"
                                    : String.format(
                                            Locale.ROOT,
                                            "%s to %s  %,d %s%s",
                                            step.days().first(),
                                            step.days().last(),
                                            step.days().length(),
                                            step.days().length() == 1 ? "day" : "days",
                                            working))
                    .append('\n');
        }
        if (part.rows().isPresent()) {
            out.append(indent)
                    .append("    ")
                    .append(style.dim(TextWidth.sanitizeControls(part.rows().get()) + ": "
                            + Messages.quantity(part.rowCount(), "row")))
                    .append('\n');
        }
        if (dates && !part.steps().isEmpty()) {
            list(part.steps().get(part.steps().size() - 1).days(), indent + "    ", out);
        }
        part.operands().forEach(inner -> part(inner, depth + 1, out));
    }

    private static void list(DateRange days, String indent, StringBuilder out) {
        for (int i = 0; i < days.length(); i++) {
            out.append(i % PER_LINE == 0 ? indent : " ").append(EpochDays.toDate(days.firstEpochDay() + i));
            out.append(i % PER_LINE == PER_LINE - 1 || i == days.length() - 1 ? "\n" : "");
        }
    }
}
