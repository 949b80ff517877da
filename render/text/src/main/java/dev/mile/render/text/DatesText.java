package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import dev.mile.dimension.ColumnType;
import dev.mile.dimension.DateColumn;
import dev.mile.render.layout.TextWidth;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Writes a date dimension for a terminal; the middle of a long one is left out, with a note. */
public final class DatesText {
    private static final String GAP = "  ";

    private final AnsiStyle style;
    private final int width;

    /**
     * Returns a writer.
     *
     * @param colour whether the terminal shows colours
     * @param width how many characters a line has
     */
    public DatesText(boolean colour, int width) {
        this.style = new AnsiStyle(colour);
        this.width = width;
    }

    /**
     * {@return the table as lines}
     *
     * @param table the table
     * @param most how many days are shown at most
     */
    public String write(DatesTable table, int most) {
        requireNonNull(table, "table is null");
        List<Integer> days = new ArrayList<>();
        int all = table.days().length();
        int head = all > most ? most / 2 : all;
        for (int i = 0; i < all; i++) {
            if (i < head || i >= all - (most - head)) {
                days.add(table.days().firstEpochDay() + i);
            }
        }
        StringBuilder out = new StringBuilder();
        List<DateColumn> shown = new ArrayList<>();
        List<Integer> widths = new ArrayList<>();
        int used = 0;
        for (DateColumn column : table.columns()) {
            int needed = TextWidth.of(column.name());
            for (int day : days) {
                needed = Math.max(needed, TextWidth.of(DatesTable.text(column.value(day))));
            }
            if (used + needed + GAP.length() > width && !shown.isEmpty()) {
                break;
            }
            used += needed + GAP.length();
            shown.add(column);
            widths.add(needed);
        }
        StringBuilder header = new StringBuilder();
        for (int c = 0; c < shown.size(); c++) {
            header.append(c > 0 ? GAP : "")
                    .append(pad(shown.get(c), shown.get(c).name(), widths.get(c)));
        }
        out.append(style.bold(header.toString().stripTrailing())).append('\n');
        for (int i = 0; i < days.size(); i++) {
            if (i == head && all > most) {
                out.append(style.dim("…")).append('\n');
            }
            StringBuilder line = new StringBuilder();
            for (int c = 0; c < shown.size(); c++) {
                String text =
                        TextWidth.sanitizeControls(DatesTable.text(shown.get(c).value(days.get(i))));
                line.append(c > 0 ? GAP : "").append(pad(shown.get(c), text, widths.get(c)));
            }
            out.append(line.toString().stripTrailing()).append('\n');
        }
        out.append('\n');
        int columnCount = table.dimension().columns().size();
        String more = shown.size() < columnCount
                ? ", " + shown.size() + " of " + columnCount
                        + " columns; choose with --columns, or write all with -o dates.csv"
                : "";
        out.append(style.dim(String.format(Locale.ROOT, "%,d days, %s%s.", all, table.days(), more)))
                .append('\n');
        return out.toString();
    }

    private static String pad(DateColumn column, String text, int width) {
        boolean number = column.type() == ColumnType.INTEGER || column.type() == ColumnType.NUMBER;
        return number ? TextWidth.right(text, width) : TextWidth.left(text, width);
    }
}
