package dev.mile.cli;

import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Table;
import dev.mile.model.Model;
import dev.mile.render.text.GridText;
import dev.mile.report.Project;
import dev.mile.report.Session;
import dev.mile.sql.files.DuckDbEngine;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Calendar;
import java.util.List;

/**
 * Makes ready, on another processor while the command line is read, what every report needs: the embedded database is loaded,
 * and a report of one row is computed, since Java loads classes when they are first used. What goes wrong here goes wrong again
 * if it is asked to.
 */
final class WarmUp {
    private static final String MODEL =
            """
            mile: 1
            calendars: {c: {year_starts: april 1, labels: {month: "{mon} {civil_year}"}}}
            working: {w: {rest: [sunday], holidays: [{name: h, on: may 1, moved: next working day}]}}
            facts: {f: {source: f.csv, dates: {d: day}, keep: "x > 0"}}
            measures: {a: sum(f.x), b: a over year to date, c: (a - b) / b, d: a over 1 year back if full, e: a per working day}
            reports: {r: {rows: [year, month], show: [a, b, c, d, e]}}
            """;

    private boolean stopped;

    private WarmUp() {}

    /** Begins. */
    static WarmUp begin() {
        WarmUp warmUp = new WarmUp();
        Thread thread = new Thread(warmUp::run, "mile warm-up");
        thread.setDaemon(true);
        thread.setUncaughtExceptionHandler((t, e) -> {});
        thread.start();
        return warmUp;
    }

    /** Ends it, before the program ends: a library must not be unloaded while it is loaded. */
    synchronized void end() {
        stopped = true;
    }

    private void run() {
        Project project = model();
        load();
        report(project);
    }

    private synchronized void load() {
        if (!stopped) {
            DuckDbEngine.warmUp();
        }
    }

    static Project model() {
        // dates of calendar files
        Calendar.getInstance();
        return Model.parse(MODEL, Path.of("mile.yaml")).project();
    }

    static String report(Project project) {
        Table rows = Table.ofRows(1)
                .date("day", List.of(LocalDate.parse("2026-04-01")))
                .number("x", List.of(BigDecimal.ONE));
        MemoryEngine engine = MemoryEngine.over(project).rows("f", rows);
        try (Session session = Session.open(project, engine)) {
            return new GridText(false, Integer.MAX_VALUE).write(session.report("r"));
        }
    }
}
