package dev.mile.examples;

import dev.mile.demo.DemoProject;
import dev.mile.model.Model;
import dev.mile.render.text.JsonWriter;
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

/** What a service keeps for the threads of its requests: one session, which is exchanged when there are new files. */
public final class ReportService implements AutoCloseable {
    private final Path file;
    private final ReadWriteLock exchange = new ReentrantReadWriteLock();
    private Session session;

    /** Opens the service over a model file. */
    ReportService(Path file) {
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

    /** Computes a report; any thread may call it at any time. */
    Grid report(String name) {
        exchange.readLock().lock();
        try {
            return session.report(
                    session.project().report(name), ReportOptions.DEFAULT.withTimeout(Duration.ofSeconds(30)));
        } finally {
            exchange.readLock().unlock();
        }
    }

    /** Reads the model and its files anew; requests are answered from the old ones until that is done. */
    void reload() {
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
