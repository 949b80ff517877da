package dev.mile.sql.files;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.regex.PatternSyntaxException;

/** Finds the files that a source names: one, or those of a pattern. */
public final class SourceFiles {
    private SourceFiles() {}

    static boolean isPattern(String location) {
        return location.contains("*") || location.contains("?") || location.contains("[");
    }

    /** Returns whether the files can be listed one by one: only the last part of the path may be a pattern. */
    static boolean known(String location) {
        int slash = location.lastIndexOf('/');
        return !isPattern(location) || slash > 0 && !isPattern(location.substring(0, slash));
    }

    /**
     * {@return whether the files are known one by one, and there}
     *
     * @param location where it is
     */
    public static boolean there(String location) {
        requireNonNull(location, "location is null");
        return known(location)
                && !of(location).isEmpty()
                && of(location).stream().allMatch(Files::isRegularFile);
    }

    /**
     * {@return the files in the order of their names}
     *
     * @param location where it is
     */
    public static List<Path> of(String location) {
        requireNonNull(location, "location is null");
        if (!isPattern(location)) {
            return List.of(path(location));
        }
        int slash = location.lastIndexOf('/');
        Path folder = path(location.substring(0, slash));
        List<Path> found = new ArrayList<>();
        if (!Files.isDirectory(folder)) {
            return found;
        }
        try (DirectoryStream<Path> files = Files.newDirectoryStream(folder, pattern(location.substring(slash + 1)))) {
            files.forEach(found::add);
        } catch (PatternSyntaxException e) {
            throw DataException.of(
                            "'%s' is no pattern of file names: %s; in one, * and ? stand for characters, and [a-c] for one of several",
                            location.substring(slash + 1), e.getDescription())
                    .withCause(e);
        } catch (IOException e) {
            throw DataException.of("the folder %s cannot be read: %s", folder, e.getMessage())
                    .withCause(e);
        }
        Collections.sort(found);
        return found;
    }

    static Path path(String location) {
        try {
            return Path.of(location);
        } catch (InvalidPathException e) {
            throw DataException.of("'%s' cannot be the name of a file: %s", location, e.getReason())
                    .withCause(e);
        }
    }

    /** Returns a pattern of Java, in which braces and backslashes would mean something that they do not mean to the database. */
    private static String pattern(String pattern) {
        return pattern.replace("\\", "\\\\").replace("{", "\\{").replace("}", "\\}");
    }
}
