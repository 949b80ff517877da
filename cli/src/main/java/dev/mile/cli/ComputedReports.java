package dev.mile.cli;

import dev.mile.render.GridPage;
import dev.mile.report.Grid;
import dev.mile.report.Report;
import dev.mile.report.Session;
import java.util.List;
import java.util.stream.IntStream;

/**
 * Reports that were computed and are written together.
 *
 * @param title what people read above them
 * @param reports the reports
 * @param grids the reports, computed, in the same order
 * @param session what they were computed with
 */
record ComputedReports(String title, List<Report> reports, List<Grid> grids, Session session) {
    /** About so many figures of a report are explained in a page; beyond it the page would be large. */
    private static final int MOST_EXPLAINED = 4_000;

    /** Returns the reports with the way to their figures, for a page. */
    List<GridPage.Report> explained() {
        return IntStream.range(0, reports.size())
                .mapToObj(i ->
                        new GridPage.Report(grids.get(i), session.explain(reports.get(i), MOST_EXPLAINED)))
                .toList();
    }
}
