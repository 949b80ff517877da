package dev.mile.examples;

import dev.mile.demo.DemoProject;
import dev.mile.measure.Measure;
import dev.mile.model.Model;
import dev.mile.render.text.JsonWriter;
import dev.mile.report.Explanation;
import dev.mile.report.Finding;
import dev.mile.report.Grid;
import dev.mile.report.ReportOptions;
import dev.mile.report.Session;
import dev.mile.sql.files.DuckDbEngine;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.locks.ReadWriteLock;
import java.util.concurrent.locks.ReentrantReadWriteLock;
import java.util.function.Function;

/** What a service keeps for the threads of its requests: one session, which is exchanged when there are new files. */
public final class ReportService implements AutoCloseable {
    private final Path file;
    private final ReadWriteLock exchange = new ReentrantReadWriteLock();
    private Session session;

    /** Opens the service over a model file. */
    public ReportService(Path file) {
        this.file = file;
        this.session = open();
    }

    /** Writes the demo into a temporary folder and prints two of its reports, computed at the same time, as JSON. */
    public static void main(String[] args) throws IOException {
        Path folder = Files.createTempDirectory("mile");
        DemoProject.write(folder, DemoProject.ROWS);
        try (ReportService service = new ReportService(folder.resolve("mile.yaml"))) {
            List<Grid> grids = List.of("budget", "shops").parallelStream()
                    .map(service::report)
                    .toList();
            for (Grid grid : grids) {
                JsonWriter.grid(grid, new PrintWriter(System.out, true));
            }
        }
    }

    private Session open() {
        Model model = Model.read(file);
        Session opened = Session.open(model.project(), () -> DuckDbEngine.over(model.schema()));
        // the files are read now, rather than while the first request waits
        opened.dimension();
        return opened;
    }

    /** Asks the session of the moment, which stays open meanwhile; any thread may do so at any time. */
    private <T> T ask(Function<Session, T> question) {
        exchange.readLock().lock();
        try {
            return question.apply(session);
        } finally {
            exchange.readLock().unlock();
        }
    }

    /** Computes a report. */
    public Grid report(String name) {
        return ask(session -> session.report(
                session.project().report(name), ReportOptions.DEFAULT.withTimeout(Duration.ofSeconds(30))));
    }

    /** Returns the names of the reports. */
    public List<String> names() {
        return ask(session -> List.copyOf(session.project().reports().keySet()));
    }

    /** Explains a measure in a period. */
    public Explanation explain(String measure, String period) {
        return ask(session -> session.explain(measure, Measure.named(measure), period));
    }

    /** Checks the model and its data. */
    public List<Finding> check() {
        return ask(Session::check);
    }

    /** Reads the model and its files anew; requests are answered from the old ones until that is done. */
    public void reload() {
        Session fresh = open();
        Session old;
        exchange.writeLock().lock();
        try {
            old = session;
            session = fresh;
        } finally {
            exchange.writeLock().unlock();
        }
        old.close();
    }

    @Override
    public void close() {
        exchange.writeLock().lock();
        try {
            session.close();
        } finally {
            exchange.writeLock().unlock();
        }
    }
}
