package dev.mile.examples;

import dev.mile.demo.DemoProject;
import dev.mile.model.Model;
import dev.mile.render.text.GridCsv;
import dev.mile.report.Grid;
import dev.mile.report.Session;
import dev.mile.sql.files.DuckDbEngine;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Budget against actual of this fiscal year, from a model file and its CSV files, written as CSV. */
public final class ModelFromFile {
    private ModelFromFile() {}

    /** Writes the demo into a temporary folder and prints its budget report as CSV. */
    public static void main(String[] args) throws IOException {
        Path folder = Files.createTempDirectory("mile");
        DemoProject.write(folder, DemoProject.ROWS);
        GridCsv.write(compute(folder.resolve("mile.yaml"), "budget"), true, System.out);
    }

    static Grid compute(Path file, String report) {
        Model model = Model.read(file);
        try (Session session = Session.open(model.project(), () -> DuckDbEngine.over(model.schema()))) {
            return session.report(report);
        }
    }
}
