package dev.mile.sources;

import dev.mile.ModelException;
import dev.mile.engine.FileFormat;
import dev.mile.internal.Messages;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Makes a row of each filled cell in a range of columns: a table with a column a month becomes one with a row a month. */
final class UnpivotedRows implements RowSink {
    private static final Pattern NAME = Pattern.compile("\\{([^}]*)}");
    private static final String COLUMN = "column";

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
        first = indexOf(unpivot.first());
        last = indexOf(unpivot.last());
        if (last < first) {
            throw ModelException.of(
                    "`unpivot` takes the columns %s..%s, and %s comes first in the file; turn them round",
                    unpivot.first(), unpivot.last(), unpivot.last());
        }
        Matcher named = NAME.matcher(unpivot.as());
        while (named.find()) {
            if (!named.group(1).equals(COLUMN)) {
                indexOf(named.group(1));
            }
        }
        List<String> all = kept(columns);
        all.add(unpivot.into());
        all.add(unpivot.values());
        Set<String> different = new HashSet<>(all);
        if (different.size() < all.size()) {
            throw ModelException.of(
                    "`unpivot` makes the columns %s and %s, of which the file has one already; give another name",
                    unpivot.into(), unpivot.values());
        }
        rows.columns(all);
    }

    private int indexOf(String name) {
        int index = names.indexOf(name);
        if (index < 0) {
            throw ModelException.of(
                    "`unpivot` names the column '%s', which the file lacks%s",
                    name, Messages.didYouMean(name, new LinkedHashSet<>(names)));
        }
        return index;
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
        Matcher named = NAME.matcher(unpivot.as());
        StringBuilder member = new StringBuilder();
        while (named.find()) {
            String name = named.group(1);
            String text = name.equals(COLUMN)
                    ? column
                    : row.value(names.indexOf(name)).strip();
            named.appendReplacement(member, Matcher.quoteReplacement(text));
        }
        return named.appendTail(member).toString();
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
    public void behind(long count) {
        rows.behind(count);
    }
}
