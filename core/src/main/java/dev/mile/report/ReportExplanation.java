package dev.mile.report;

import static java.util.Objects.requireNonNull;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * The way to the figures of a report, one for each measure and period, of all members together: which days each step gives and how
 * many rows were found there does not depend on the member that a row shows.
 */
public final class ReportExplanation {
    /**
     * Where in time a figure is.
     *
     * @param rows the labels of the periods of its row, without those of members
     * @param column the label of the periods of its column; an empty text where columns show no time
     */
    public record Place(List<String> rows, String column) {
        public Place {
            rows = List.copyOf(rows);
        }
    }

    private final Map<Place, List<Explanation>> byPlace;
    private final int width;

    /**
     * Returns the explanations.
     *
     * @param byPlace for each place the explanations of all that the report shows
     * @param width how many columns the report has for each key of its columns
     */
    public ReportExplanation(Map<Place, List<Explanation>> byPlace, int width) {
        this.byPlace = Map.copyOf(byPlace);
        this.width = width;
    }

    /**
     * {@return where in time a row is}
     *
     * @param header the header of the report
     * @param row a row
     * @param column one of the columns of values
     */
    public static Place place(Grid.Header header, Grid.Row row, int column) {
        requireNonNull(header, "header is null");
        requireNonNull(row, "row is null");
        List<String> times = IntStream.range(0, row.labels().size())
                .filter(k -> header.keys().get(k).kind() != Grid.AxisKind.MEMBER)
                .mapToObj(row.labels()::get)
                .toList();
        return new Place(times, header.columns().get(column).member().orElse(""));
    }

    /**
     * {@return the explanation of a figure; empty where its columns show members, or the cell has no days}
     *
     * @param header the header of the report
     * @param row a row; not the rest that `top` leaves out, whose figure has other members
     * @param column one of the columns of values
     */
    public Optional<Explanation> of(Grid.Header header, Grid.Row row, int column) {
        return Optional.ofNullable(byPlace.get(place(header, row, column))).map(all -> all.get(column % width));
    }
}
