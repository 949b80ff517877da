package dev.mile.cli;

import dev.mile.render.html.PageReport;
import dev.mile.render.text.GridChanges;
import dev.mile.report.FactDays;
import dev.mile.report.Grid;
import dev.mile.report.Report;
import dev.mile.report.ReportExplanation;
import dev.mile.report.Session;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.stream.IntStream;

/**
 * Reports that were computed and are written together.
 *
 * @param title what people read above them
 * @param names the names of their files in a folder
 * @param grids the reports, computed, in the same order
 * @param explanations the way to the figures of each
 * @param days what the facts of a single report have on each day; empty where nobody asked
 */
record ComputedReports(
        String title,
        List<String> names,
        List<Grid> grids,
        IntFunction<Optional<ReportExplanation>> explanations,
        List<FactDays> days) {
    /** About so many figures of a report are explained in a page; beyond it the page would be large. */
    private static final int MOST_EXPLAINED = 4_000;

    /** Returns reports of a session. */
    static ComputedReports of(
            String title, List<Report> reports, List<Grid> grids, Session session, List<FactDays> days) {
        return new ComputedReports(
                title,
                reports.stream().map(Report::name).toList(),
                grids,
                i -> session.explain(reports.get(i), MOST_EXPLAINED),
                days);
    }

    /** Returns what changed in a report. */
    static ComputedReports of(String name, GridChanges changes) {
        List<Grid> grids = new ArrayList<>(List.of(changes.cells()));
        grids.addAll(changes.days());
        List<String> names = new ArrayList<>(List.of(name));
        for (int i = 0; i < changes.days().size(); i++) {
            names.add(name + "-days" + (i == 0 ? "" : "-" + (i + 1)));
        }
        return new ComputedReports(changes.cells().title(), names, grids, i -> Optional.empty(), List.of());
    }

    /** Returns one of the reports by itself. */
    ComputedReports only(int i) {
        return new ComputedReports(
                grids.get(i).title(), List.of(names.get(i)), List.of(grids.get(i)), at -> explanations.apply(i), days);
    }

    /** Returns the reports with the way to their figures, for a page. */
    List<PageReport> explained() {
        return IntStream.range(0, grids.size())
                .mapToObj(i -> new PageReport(grids.get(i), explanations.apply(i)))
                .toList();
    }
}
