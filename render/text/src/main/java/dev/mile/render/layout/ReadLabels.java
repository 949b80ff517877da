package dev.mile.render.layout;

import dev.mile.internal.EpochDays;
import dev.mile.internal.LocalFormat;
import dev.mile.report.Grid;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** How people read the labels of a grid: dates as its locale writes them, blanks as a word, no control characters. */
public final class ReadLabels {
    private final List<Grid.Key> keys;
    private final LocalFormat local;

    private ReadLabels(Grid.Header header) {
        keys = header.keys();
        local = LocalFormat.of(header.locale());
    }

    public static ReadLabels of(Grid.Header header) {
        return new ReadLabels(header);
    }

    /** Returns a label of a part of the rows. */
    public String row(int key, String label) {
        return read(label, keys.get(key).kind() == Grid.AxisKind.PERIOD);
    }

    /** Returns the last label of a row. */
    public String last(Grid.Row row) {
        int key = row.labels().size() - 1;
        return row(key, row.labels().get(key));
    }

    /** Returns all labels of a row, the coarsest first. */
    public String path(Grid.Row row) {
        return IntStream.range(0, row.labels().size())
                .mapToObj(k -> row(k, row.labels().get(k)))
                .collect(Collectors.joining(" · "));
    }

    /** Returns the label of the key of a column; an empty text if there is none. */
    public String member(Grid.Column column) {
        return column.member().map(label -> read(label, true)).orElse("");
    }

    private String read(String label, boolean mayBeDate) {
        if (label.isEmpty()) {
            return "(blank)";
        }
        String text = TextWidth.sanitizeControls(label);
        return mayBeDate ? EpochDays.parse(text).map(local::date).orElse(text) : text;
    }
}
