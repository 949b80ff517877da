package dev.mile.report;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Reports that are handed on together: one workbook with a sheet each, one page with all of them, a folder of files.
 *
 * @param name its name
 * @param title what people read above its reports; empty for its name in words
 * @param reports the names of its reports, in order, at least one, each once
 */
public record Pack(String name, Optional<String> title, List<String> reports) {
    /**
     * Checks the reports.
     *
     * @throws ModelException if there is none, or one is there twice
     */
    public Pack {
        requireNonNull(name, "name is null");
        requireNonNull(title, "title is null");
        reports = List.copyOf(reports);
        if (reports.isEmpty()) {
            throw ModelException.of("the pack '%s' has no report; name at least one", name);
        }
        Set<String> seen = new LinkedHashSet<>();
        for (String report : reports) {
            if (!seen.add(report)) {
                throw ModelException.of("the pack '%s' names the report '%s' twice; name it once", name, report);
            }
        }
    }

    /**
     * {@return a pack without a title}
     *
     * @param name its name
     * @param reports the names of its reports
     */
    public static Pack of(String name, String... reports) {
        return new Pack(name, Optional.empty(), List.of(reports));
    }
}
