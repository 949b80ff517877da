package dev.mile.render.layout;

import dev.mile.report.Grid;
import java.util.List;
import java.util.stream.IntStream;

/** The columns that people see: a target beside its own measure, or beside what it is measured against, does not repeat them. */
public final class ShownColumns {
    private ShownColumns() {}

    /** Returns the indexes of the columns, in order. */
    public static List<Integer> of(Grid.Header header) {
        return IntStream.range(0, header.columns().size())
                .filter(c -> !isRepeated(header.columns().get(c), header.columns()))
                .boxed()
                .toList();
    }

    private static boolean isRepeated(Grid.Column column, List<Grid.Column> all) {
        return all.stream()
                .filter(other -> other.role() == Grid.ColumnRole.MEASURE
                        && other.member().equals(column.member()))
                .anyMatch(other -> switch (column.role()) {
                    case VALUE ->
                        other.definition().equals(column.definition())
                                && other.label().equals(column.label());
                    case AGAINST -> other.name().equals(column.definition());
                    case MEASURE, STATUS -> false;
                });
    }
}
