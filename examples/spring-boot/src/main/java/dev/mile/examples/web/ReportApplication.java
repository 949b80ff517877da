package dev.mile.examples.web;

import dev.mile.demo.DemoProject;
import dev.mile.examples.ReportService;
import dev.mile.jackson.MileModule;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.context.annotation.Bean;

/** Starts the service over the model file of the property {@code mile.model}; over the demo where there is none. */
@SpringBootApplication
public class ReportApplication {
    /** Starts the service. */
    public static void main(String[] args) {
        SpringApplication.run(ReportApplication.class, args);
    }

    /** One service for the threads of all requests. */
    @Bean
    ReportService reports(@Value("${mile.model:}") String model) throws IOException {
        if (!model.isEmpty()) {
            return new ReportService(Path.of(model));
        }
        Path demo = Files.createTempDirectory("mile");
        DemoProject.write(demo, DemoProject.ROWS);
        return new ReportService(demo.resolve("mile.yaml"));
    }

    /** Lets controllers return grids, rows and findings. */
    @Bean
    MileModule mileModule() {
        return new MileModule();
    }
}
