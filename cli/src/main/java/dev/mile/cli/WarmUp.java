package dev.mile.cli;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.render.text.GridText;
import dev.mile.report.DateBound;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.span.Span;
import dev.mile.sql.files.DuckDbEngine;
import dev.mile.workday.WorkingWeek;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import java.util.TimeZone;

/**
 * Makes ready, on another processor while the command line is read, what reports need: the embedded database is loaded where rows are to
 * be read, and a report of one row is computed, since Java loads classes when they are first used. What goes wrong here goes wrong again
 * if it is asked to.
 */
final class WarmUp {
    private static final LocalDate DAY = LocalDate.of(2026, 4, 1);

    /** Endings of files that are not read without the database. */
    private static final List<String> DATABASE_READS = List.of(".csv", ".tsv", ".txt", ".xlsx", ".json", ".ndjson");

    private boolean stopped;

    private final boolean readsRows;

    private WarmUp(boolean readsRows) {
        this.readsRows = readsRows;
    }

    /**
     * Begins.
     *
     * @param readsRows whether it is known already that rows are read
     */
    static WarmUp begin(boolean readsRows) {
        WarmUp warmUp = new WarmUp(readsRows);
        Thread thread = new Thread(warmUp::run, "mile warm-up");
        thread.setDaemon(true);
        thread.setUncaughtExceptionHandler((t, e) -> {});
        thread.start();
        return warmUp;
    }

    /**
     * Returns whether a model may have sources that only the database reads. It is a guess by what stands in the file, which costs nothing, and
     * whichever way it goes the report is the same.
     */
    static boolean mayNeedDatabase(Path model) {
        try {
            String text = Files.readString(model);
            return !text.contains(".parquet") || DATABASE_READS.stream().anyMatch(text::contains);
        } catch (IOException e) {
            return false;
        }
    }

    /** Ends it, before the program ends: a library must not be unloaded while it is loaded. */
    synchronized void end() {
        stopped = true;
    }

    private void run() {
        prepareForStore();
        Project project = project();
        load();
        report(project);
    }

    /** Has Java set up digests, by which kept answers are looked up, and the time zone of the machine, on which kept holidays depend. */
    private static void prepareForStore() {
        try {
            MessageDigest.getInstance("SHA-256");
            TimeZone.getDefault();
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    private synchronized void load() {
        if (readsRows && !stopped) {
            DuckDbEngine.warmUp();
        }
    }

    /** Returns a project that is built, since the model is read meanwhile. */
    static Project project() {
        Measure sales = Measure.named("a");
        Measure lastYear = sales.over(Span.back(1, Level.YEAR));
        return Project.named("w")
                .calendar("c", FiscalCalendar.startingIn(Month.APRIL))
                .working(WorkingWeek.named("w").rest(DayOfWeek.SUNDAY).build())
                .dates(DateBound.at(DAY), DateBound.at(DAY))
                .asOf(DAY)
                .fact(Fact.of("f", "d", "day"))
                .measure("a", Measure.sum("f", "x"))
                .measure("b", sales.over(Span.toDate(Level.YEAR)))
                .measure("c", sales.minus(lastYear).dividedBy(lastYear))
                .measure("d", sales.per(Per.workingDay()))
                .report(Report.of("r", List.of("year", "month"), List.of("a", "b", "c", "d")))
                .build();
    }

    static String report(Project project) {
        Table rows = Table.ofRows(1).date("day", List.of(DAY)).number("x", List.of(BigDecimal.ONE));
        MemoryEngine engine = MemoryEngine.over(project).rows("f", rows);
        try (Session session = Session.open(project, engine)) {
            return new GridText(false, Integer.MAX_VALUE).write(session.report("r"));
        }
    }
}
