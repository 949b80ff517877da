package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;
import dev.mile.internal.EpochDays;
import dev.mile.internal.LocalFormat;
import dev.mile.render.layout.TextWidth;
import dev.mile.report.Explanation;
import java.math.BigDecimal;
import java.util.Locale;

/** Writes an explanation for a terminal. */
public final class ExplanationText {
    private static final int PER_LINE = 7;

    private final AnsiStyle style;
    private final boolean dates;
    private final LocalFormat local;

    /**
     * Returns a writer.
     *
     * @param colour whether the terminal shows colours
     * @param dates whether the days looked at are listed, each
     * @param locale the language of numbers and dates
     */
    public ExplanationText(boolean colour, boolean dates, Locale locale) {
        this.style = new AnsiStyle(colour);
        this.dates = dates;
        this.local = LocalFormat.of(requireNonNull(locale, "locale is null"));
    }

    /**
     * {@return the explanation as lines}
     *
     * @param e the explanation
     */
    public String write(Explanation e) {
        requireNonNull(e, "e is null");
        StringBuilder out = new StringBuilder();
        out.append(style.bold(TextWidth.sanitizeControls(e.measure() + " at " + e.cell())))
                .append(" = ")
                .append(shown(e.root()))
                .append('\n');
        out.append(style.dim("the cell: " + days(e.days())
                        + e.asOf()
                                .map(day -> "; actuals as of " + local.date(day))
                                .orElse("")))
                .append("\n\n");
        part(e.root(), 0, out);
        if (!e.notes().isEmpty()) {
            out.append('\n');
            e.notes().forEach(note -> out.append(style.dim(TextWidth.sanitizeControls(note)))
                    .append('\n'));
        }
        return out.toString();
    }

    private String shown(Explanation.Operand part) {
        return part.value().isBlank()
                ? part.reason().orElse("blank")
                : local.exact(new BigDecimal(part.value().toString()));
    }

    private String days(DateRange range) {
        return range.isEmpty() ? "no days" : local.range(range.first(), range.last());
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
                    .map(days -> ", " + local.exact(days) + " working")
                    .orElse("");
            out.append(indent)
                    .append("    ")
                    .append(TextWidth.left(step.step(), widest))
                    .append("  ")
                    .append(
                            step.days().isEmpty()
                                    ? "no days"
                                    : local.range(
                                                    step.days().first(),
                                                    step.days().last())
                                            + "  "
                                            + local.quantity(step.days().length(), "day")
                                            + working)
                    .append('\n');
        }
        if (part.rows().isPresent()) {
            out.append(indent)
                    .append("    ")
                    .append(style.dim(TextWidth.sanitizeControls(part.rows().get()) + ": "
                            + local.quantity(part.rowCount(), "row")))
                    .append('\n');
        }
        if (dates && !part.steps().isEmpty()) {
            list(part.steps().get(part.steps().size() - 1).days(), indent + "    ", out);
        }
        part.operands().forEach(inner -> part(inner, depth + 1, out));
    }

    private void list(DateRange days, String indent, StringBuilder out) {
        for (int i = 0; i < days.length(); i++) {
            out.append(i % PER_LINE == 0 ? indent : " ").append(local.date(EpochDays.toDate(days.firstEpochDay() + i)));
            out.append(i % PER_LINE == PER_LINE - 1 || i == days.length() - 1 ? "\n" : "");
        }
    }
}
