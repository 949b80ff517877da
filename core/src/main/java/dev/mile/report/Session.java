package dev.mile.report;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.StoppedException;
import dev.mile.dimension.DateDimension;
import dev.mile.dimension.ExcludedDates;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.fact.Condition;
import dev.mile.measure.Measure;
import dev.mile.report.distributed.DistributedReport;
import dev.mile.report.plan.CompiledReport;
import dev.mile.report.run.DrillDown;
import dev.mile.report.run.Explainer;
import dev.mile.report.run.FactDaysReader;
import dev.mile.report.run.ProjectChecker;
import dev.mile.report.run.ProjectData;
import dev.mile.report.run.ReportRunner;
import dev.mile.report.run.SharedPasses;
import dev.mile.report.run.TimeLimit;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.DoubleConsumer;
import java.util.function.Supplier;

/**
 * A project and the engine that holds its rows: what reports are computed with.
 *
 * <pre>{@code
 * try (Session session = Session.open(project, engine)) {
 *     Grid grid = session.report("trading");
 * }
 * }</pre>
 *
 * <p>Answers of the engine are cached while the session is open. Safe for use by several threads at once: what they ask first at the
 * same time is asked of the engine once.
 */
public final class Session implements AutoCloseable {
    /** What fraction of the memory the totals of a report may take at once. */
    private static final int MEMORY_SHARE = 4;

    private final ProjectData data;
    private volatile DoubleConsumer progress = fraction -> {};
    private volatile long maxHeldBytes = Runtime.getRuntime().maxMemory() / MEMORY_SHARE;

    private Session(ProjectData data) {
        this.data = data;
    }

    /**
     * Opens a session over an engine, which stays open when the session is closed: other sessions may use it, at the same time too.
     *
     * @param project the project
     * @param engine the engine that holds its rows
     * @return the session
     */
    public static Session open(Project project, Engine engine) {
        return new Session(data(project, engine, false, Optional.empty()));
    }

    /**
     * Opens a session over an engine as of another day than the project says.
     *
     * @param project the project
     * @param engine the engine that holds its rows; it stays open when the session is closed
     * @param asOf the last day for which actuals count
     * @return the session
     */
    public static Session open(Project project, Engine engine, LocalDate asOf) {
        return new Session(data(project, engine, false, Optional.of(requireNonNull(asOf, "asOf is null"))));
    }

    /**
     * Opens a session over an engine of its own, which is closed with it.
     *
     * @param project the project
     * @param engine opens the engine that holds its rows
     * @return the session
     */
    public static Session open(Project project, Supplier<? extends Engine> engine) {
        return new Session(data(project, opened(engine), true, Optional.empty()));
    }

    /**
     * Opens a session over an engine of its own, which is closed with it, as of another day than the project says.
     *
     * @param project the project
     * @param engine opens the engine that holds its rows
     * @param asOf the last day for which actuals count
     * @return the session
     */
    public static Session open(Project project, Supplier<? extends Engine> engine, LocalDate asOf) {
        requireNonNull(asOf, "asOf is null");
        return new Session(data(project, opened(engine), true, Optional.of(asOf)));
    }

    private static Engine opened(Supplier<? extends Engine> engine) {
        return requireNonNull(engine, "engine is null").get();
    }

    private static ProjectData data(Project project, Engine engine, boolean ownsEngine, Optional<LocalDate> asOf) {
        requireNonNull(project, "project is null");
        requireNonNull(engine, "engine is null");
        return new ProjectData(project, engine, ownsEngine, asOf);
    }

    /** {@return the project} */
    public Project project() {
        return data.project();
    }

    /**
     * {@return the date dimension; its range is found in the facts where the project says so}
     *
     * @throws MileException if no fact has a usable date, or the range ends before it begins
     */
    public DateDimension dimension() {
        return data.dimension();
    }

    /** {@return the dates that were excluded when the range was found in the facts; none where it was given} */
    public List<ExcludedDates> excludedDates() {
        return data.excludedDates();
    }

    /**
     * {@return an example of a row with a date that was left out, as it stands in its source; empty if none is known}
     *
     * @param excluded the dates that were left out of the range
     */
    public Optional<String> example(ExcludedDates excluded) {
        return data.example(requireNonNull(excluded, "excluded is null"));
    }

    /** {@return the last day for which actuals count; empty if there is no fact to determine it} */
    public Optional<LocalDate> asOf() {
        return data.asOf();
    }

    /** {@return what engines know of days} */
    public DayContext dayContext() {
        return data.dayContext();
    }

    /**
     * {@return the accounts of every row of a fact}
     *
     * @param fact the fact
     */
    public FactAccounts accounts(String fact) {
        return data.accounts(requireNonNull(fact, "fact is null"));
    }

    /**
     * Registers a progress listener in place of any before. It receives the fraction of a report that is done, from 0 to 1, and 1 at
     * its end; in between, where an engine knows how many groups there are.
     *
     * @param listener the listener
     */
    public void onProgress(DoubleConsumer listener) {
        progress = requireNonNull(listener, "listener is null");
    }

    /**
     * Limits how many bytes, about, the totals of a report may take at once; a share of the memory unless this says otherwise. A report
     * that needs more is computed one member after the other, and its figures are the same.
     *
     * @param bytes the limit, from 0
     * @throws ModelException if it is negative
     */
    public void limitHeldBytes(long bytes) {
        if (bytes < 0) {
            throw ModelException.of("%d bytes cannot be a limit; give 0 or more", bytes);
        }
        maxHeldBytes = bytes;
    }

    /**
     * Computes the report of the name.
     *
     * @param name the name
     * @return the report, computed
     * @throws MileException as {@link #report(Report)} does, and if the project has no such report
     */
    public Grid report(String name) {
        requireNonNull(name, "name is null");
        return report(project().report(name));
    }

    /**
     * Computes a report.
     *
     * @param report the report
     * @return the report, computed
     * @throws MileException if the report names something unknown, or data cannot be read
     * @throws IllegalStateException if the session is closed
     */
    public Grid report(Report report) {
        requireNonNull(report, "report is null");
        return report(report, ReportOptions.DEFAULT);
    }

    /**
     * Computes a report.
     *
     * @param report the report
     * @param options how it is computed
     * @return the report, computed
     * @throws MileException if the report names something unknown, or data cannot be read
     * @throws StoppedException if it takes longer than the options allow, or the thread is interrupted
     */
    public Grid report(Report report, ReportOptions options) {
        requireNonNull(report, "report is null");
        requireNonNull(options, "options is null");
        GridCollector grid = new GridCollector();
        report(report, options, grid);
        return grid.grid();
    }

    /**
     * Computes a report and hands its rows over as they are done, so that one longer than the memory can be written.
     *
     * @param report the report
     * @param sink where rows go
     * @throws MileException if the report names something unknown, or data cannot be read
     */
    public void report(Report report, GridSink sink) {
        report(report, ReportOptions.DEFAULT, sink);
    }

    /**
     * Computes a report as {@link #report(Report, GridSink)} does.
     *
     * @param report the report
     * @param options how it is computed
     * @param sink where rows go
     * @throws MileException if the report names something unknown, or data cannot be read
     * @throws StoppedException if it takes longer than the options allow, or the thread is interrupted
     */
    public void report(Report report, ReportOptions options, GridSink sink) {
        requireNonNull(report, "report is null");
        requireNonNull(options, "options is null");
        requireNonNull(sink, "sink is null");
        ReportRunner runner = runner(options);
        stoppable(options.timeout(), () -> {
            try {
                return runner.run(report, sink);
            } catch (MileException e) {
                throw located(e, report);
            }
        });
    }

    /** Does something that an interrupt or a limit of time may stop. */
    private static <T> T stoppable(Optional<Duration> timeout, Supplier<T> work) {
        Supplier<T> watched = () -> {
            try {
                return work.get();
            } catch (StoppedException e) {
                throw e;
            } catch (RuntimeException e) {
                // files and drivers have words of their own for an interrupt
                throw Thread.currentThread().isInterrupted() ? StoppedException.interrupted(e) : e;
            }
        };
        return timeout.map(limit -> TimeLimit.within(limit, watched)).orElseGet(watched);
    }

    private ReportRunner runner(ReportOptions options) {
        data.checkOpen();
        return new ReportRunner(data, options.windows(), maxHeldBytes, progress);
    }

    /**
     * Computes several reports. What they ask of a fact by the same role and groups is answered by one pass over its rows.
     *
     * @param reports the reports
     * @return the reports, computed, in the same order
     * @throws MileException if a report names something unknown, or data cannot be read
     */
    public List<Grid> reports(List<Report> reports) {
        return reports(reports, ReportOptions.DEFAULT);
    }

    /**
     * Computes several reports as {@link #reports(List)} does.
     *
     * @param reports the reports
     * @param options how they are computed
     * @return the reports, computed, in the same order
     * @throws MileException if a report names something unknown, or data cannot be read
     * @throws StoppedException if all together take longer than the options allow, or the thread is interrupted
     */
    public List<Grid> reports(List<Report> reports, ReportOptions options) {
        requireNonNull(reports, "reports is null");
        requireNonNull(options, "options is null");
        ReportRunner runner = runner(options);
        return stoppable(options.timeout(), () -> grids(reports, runner));
    }

    private List<Grid> grids(List<Report> reports, ReportRunner runner) {
        List<CompiledReport> compiled = new ArrayList<>();
        for (Report report : reports) {
            try {
                compiled.add(runner.compile(report));
            } catch (MileException e) {
                throw located(e, report);
            }
        }
        SharedPasses passes = runner.passes(compiled);
        List<Grid> grids = new ArrayList<>();
        for (int i = 0; i < compiled.size(); i++) {
            GridCollector grid = new GridCollector();
            try {
                runner.run(compiled.get(i), passes, grid);
            } catch (MileException e) {
                throw located(e, reports.get(i));
            }
            grids.add(grid.grid());
        }
        return grids;
    }

    /** Says where the report stands in its file; one that was changed since, by an option say, stands in none. */
    private MileException located(MileException e, Report report) {
        return Optional.ofNullable(project().reports().get(report.name()))
                .filter(report::equals)
                .map(unchanged -> project().located(e, ModelElement.REPORT, unchanged.name()))
                .orElse(e);
    }

    /**
     * {@return the report of the parts of one period, at the next level that the report or its calendar has}
     *
     * @param report the report
     * @param period its label
     * @throws MileException if no calendar has the period, or it is a day
     */
    public Report drill(Report report, String period) {
        requireNonNull(report, "report is null");
        requireNonNull(period, "period is null");
        return DrillDown.into(report, period, data.spanContext(report.calendar()));
    }

    /**
     * Explains the figure of a measure in a period: the days of each step, the rows found, each operand's value.
     *
     * @param text how the measure was asked for
     * @param measure the measure
     * @param at the label of a period, or a date
     * @return the explanation
     * @throws MileException if a name or the period is unknown
     */
    public Explanation explain(String text, Measure measure, String at) {
        requireNonNull(text, "text is null");
        requireNonNull(measure, "measure is null");
        requireNonNull(at, "at is null");
        return explain(text, measure, at, ExplainOptions.DEFAULT);
    }

    /**
     * Explains a figure as {@link #explain(String, Measure, String)} does, of some rows or in another calendar.
     *
     * @param text how the measure was asked for
     * @param measure the measure
     * @param at the label of a period, or a date
     * @param options how it is computed
     * @return the explanation
     */
    public Explanation explain(String text, Measure measure, String at, ExplainOptions options) {
        requireNonNull(text, "text is null");
        requireNonNull(measure, "measure is null");
        requireNonNull(at, "at is null");
        requireNonNull(options, "options is null");
        data.checkOpen();
        return new Explainer(data, options.calendar()).explain(text, measure, at, options.where());
    }

    /**
     * Explains what a report shows: once for each measure and period, of all members together.
     *
     * @param report the report
     * @param mostFigures how many measures and periods there may be, since each explanation takes memory
     * @return the explanations; empty if there are more
     * @throws MileException if the report names something unknown
     */
    public Optional<ReportExplanation> explain(Report report, int mostFigures) {
        requireNonNull(report, "report is null");
        data.checkOpen();
        return new Explainer(data, report.calendar()).explain(report, mostFigures);
    }

    /**
     * {@return what the facts that a report shows have on each day, all their rows, whatever its conditions}
     *
     * @param report the report
     * @throws MileException if the report names something unknown, or data cannot be read
     */
    public List<FactDays> factDays(Report report) {
        requireNonNull(report, "report is null");
        try {
            return new FactDaysReader(data).read(runner(ReportOptions.DEFAULT).compile(report));
        } catch (MileException e) {
            throw located(e, report);
        }
    }

    /** Which rows an explanation is of, and in which calendar. Immutable. */
    public record ExplainOptions(Optional<Condition> where, Optional<String> calendar) {
        /** All rows, in the project's first calendar. */
        public static final ExplainOptions DEFAULT = new ExplainOptions(Optional.empty(), Optional.empty());

        public ExplainOptions {
            requireNonNull(where, "where is null");
            requireNonNull(calendar, "calendar is null");
        }

        /**
         * {@return the options for the rows for which a condition holds}
         *
         * @param condition the condition
         */
        public ExplainOptions withWhere(Condition condition) {
            return new ExplainOptions(Optional.of(condition), calendar);
        }

        /**
         * {@return the options with another calendar of steps that name none}
         *
         * @param name the name
         */
        public ExplainOptions withCalendar(String name) {
            return new ExplainOptions(where, Optional.of(name));
        }
    }

    /**
     * Checks the model and its data, and returns what was found, in no order of severity.
     *
     * @return what was found
     */
    public List<Finding> check() {
        data.checkOpen();
        return new ProjectChecker(data).check();
    }

    /**
     * Compiles a report so that the machines of a cluster can evaluate its rows; for cluster engines.
     *
     * @param report the report
     * @return the report, compiled
     * @throws MileException if the report needs what only one machine can compute: sorted rows, the first rows only, or members side
     *     by side
     */
    public DistributedReport distribute(Report report) {
        requireNonNull(report, "report is null");
        try {
            return DistributedReport.of(report, data);
        } catch (MileException e) {
            throw located(e, report);
        }
    }

    /** Closes the session, and its engine where it opened that itself. Nothing is computed afterwards. */
    @Override
    public void close() {
        data.close();
    }
}
