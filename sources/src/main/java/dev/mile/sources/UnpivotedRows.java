package dev.mile.sources;

import dev.mile.engine.FileFormat;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;

/** Makes a row of each filled cell in a range of columns: a table with a column a month becomes one with a row a month. */
final class UnpivotedRows implements RowSink {
    private final FileFormat.Unpivot unpivot;
    private final RowSink rows;
    private List<String> names = List.of();
    private int first;
    private int last;

    UnpivotedRows(FileFormat.Unpivot unpivot, RowSink rows) {
        this.unpivot = unpivot;
        this.rows = rows;
    }

    @Override
    public void columns(List<String> columns) {
        names = columns;
        List<String> range = unpivot.range(columns);
        first = columns.indexOf(range.get(0));
        last = first + range.size() - 1;
        List<String> all = kept(columns);
        all.add(unpivot.into());
        all.add(unpivot.values());
        rows.columns(all);
    }

    private List<String> kept(List<String> values) {
        List<String> kept = new ArrayList<>(values.subList(0, first));
        kept.addAll(values.subList(last + 1, values.size()));
        return kept;
    }

    @Override
    public void row(SourceRow row) {
        for (int c = first; c <= last; c++) {
            // an empty cell says nothing
            if (!row.value(c).isBlank()) {
                rows.row(new Unpivoted(row, first, last, c, names.size(), member(row, names.get(c))));
            }
        }
    }

    private String member(SourceRow row, String column) {
        return String.join(
                "",
                unpivot.member(column, other -> row.value(names.indexOf(other)).strip(), UnaryOperator.identity()));
    }

    /**
     * The columns of a row that are not unpivoted, then the member, then the value of one that is.
     *
     * @param columns the columns of the row
     */
    private record Unpivoted(SourceRow row, int first, int last, int column, int columns, String member)
            implements SourceRow {
        private static final int MEMBER = -1;

        private int original(int c) {
            int kept = columns - (last - first + 1);
            if (c >= kept) {
                return c == kept ? MEMBER : column;
            }
            return c < first ? c : c + last - first + 1;
        }

        @Override
        public int size() {
            return columns - (last - first + 1) + 2;
        }

        @Override
        public String value(int c) {
            return original(c) == MEMBER ? member : row.value(original(c));
        }

        @Override
        public boolean isTyped(int c) {
            return original(c) != MEMBER && row.isTyped(original(c));
        }

        @Override
        public String place(int c) {
            return row.place(original(c) == MEMBER ? column : original(c));
        }
    }

    @Override
    public void rejected(String place, String why) {
        rows.rejected(place, why);
    }

    @Override
    public void afterEnd(long count) {
        rows.afterEnd(count);
    }
}
