package dev.mile.model;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.engine.DataSchema;
import dev.mile.engine.Warehouse;
import dev.mile.report.Project;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.Map;

/**
 * A model file, read.
 *
 * @param project what it says
 * @param schema its facts and lookups, and where their rows are
 * @param warehouses the connections to databases, by name
 */
public record Model(Project project, DataSchema schema, Map<String, Warehouse> warehouses) {
    public Model {
        warehouses = Map.copyOf(warehouses);
    }

    /**
     * Reads a model file.
     *
     * @param file the file
     * @return what was read
     * @throws MileException with file, line and column, for anything that is not as docs/guide.md has it
     */
    public static Model read(Path file) {
        return read(file, HolidayCache.NONE);
    }

    /**
     * Reads a model file, and its iCalendar files only where the cache does not know them.
     *
     * @param file the file
     * @param holidays where the days of iCalendar files are kept
     * @return what was read
     * @throws MileException with file, line and column, for anything that is not as docs/guide.md has it
     */
    public static Model read(Path file, HolidayCache holidays) {
        requireNonNull(file, "file is null");
        requireNonNull(holidays, "holidays is null");
        try {
            return parse(Files.readString(file), file, holidays);
        } catch (NoSuchFileException e) {
            throw ModelException.of("there is no model file %s", file)
                    .withModelWords(
                            "there is no model file %s; name one with -f FILE, draft one with `mile new DATA.csv`, or see one with"
                                    + " `mile demo`",
                            file)
                    .withCause(e);
        } catch (CharacterCodingException e) {
            throw ModelException.of("%s: the file is not UTF-8; save it as UTF-8", file.getFileName())
                    .withCause(e);
        } catch (IOException e) {
            throw ModelException.of("%s: cannot be read: %s", file, e.getMessage())
                    .withCause(e);
        }
    }

    /**
     * Reads a model from a text; paths in it are relative to the working folder.
     *
     * @param text the text
     * @return the model
     * @throws MileException with line and column, for anything that is not as docs/guide.md has it
     */
    public static Model parse(String text) {
        return parse(text, Path.of("mile.yaml"));
    }

    /**
     * Reads a model from a stream of UTF-8; paths in it are relative to the working folder.
     *
     * @param in the stream, which stays open
     * @param name what messages call it, such as {@code mile.yaml}
     * @return the model
     * @throws MileException with line and column, for anything that is not as docs/guide.md has it
     */
    public static Model read(InputStream in, String name) {
        requireNonNull(in, "in is null");
        requireNonNull(name, "name is null");
        try {
            return parse(
                    StandardCharsets.UTF_8
                            .newDecoder()
                            .decode(ByteBuffer.wrap(in.readAllBytes()))
                            .toString(),
                    Path.of(name));
        } catch (CharacterCodingException e) {
            throw ModelException.of("%s: the text is not UTF-8; save it as UTF-8", name)
                    .withCause(e);
        } catch (IOException e) {
            throw ModelException.of("%s: cannot be read: %s", name, e.getMessage())
                    .withCause(e);
        }
    }

    /**
     * Reads a model from a resource of the class path, such as one that a service carries with its code; paths in it are relative to the
     * working folder.
     *
     * @param beside a class in whose package the resource is, unless its name begins with a slash
     * @param resource the name of the resource
     * @return the model
     * @throws MileException if there is no such resource, and with line and column, for anything that is not as docs/guide.md has it
     */
    public static Model resource(Class<?> beside, String resource) {
        requireNonNull(beside, "beside is null");
        requireNonNull(resource, "resource is null");
        try (InputStream in = beside.getResourceAsStream(resource)) {
            if (in == null) {
                throw ModelException.of(
                        "there is no resource '%s' beside the class %s; in a module, its package must be open",
                        resource, beside.getName());
            }
            return read(in, resource.substring(resource.lastIndexOf('/') + 1));
        } catch (IOException e) {
            throw ModelException.of("%s: cannot be read: %s", resource, e.getMessage())
                    .withCause(e);
        }
    }

    /**
     * Reads a model from a text; paths in it are relative to the folder of the file.
     *
     * @param text the text
     * @param file the file
     * @return the model
     * @throws MileException with line and column, for anything that is not as docs/guide.md has it
     */
    public static Model parse(String text, Path file) {
        requireNonNull(text, "text is null");
        requireNonNull(file, "file is null");
        return parse(text, file, HolidayCache.NONE);
    }

    private static Model parse(String text, Path file, HolidayCache holidays) {
        ModelReader.Parsed parsed = new ModelReader(file, holidays).read(YamlNode.parse(text, file));
        return new Model(parsed.project(), parsed.schema(), parsed.warehouses());
    }
}
