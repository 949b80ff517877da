package dev.mile.render.html;

import static java.util.Objects.requireNonNull;

import dev.mile.report.Grid;
import dev.mile.report.ReportExplanation;
import java.util.Optional;

/**
 * A report of a page.
 *
 * @param grid the report that was computed
 * @param explanation the way to its figures; empty where the page does not hold it
 */
public record PageReport(Grid grid, Optional<ReportExplanation> explanation) {
    public PageReport {
        requireNonNull(grid, "grid is null");
        requireNonNull(explanation, "explanation is null");
    }
}
