package dev.mile.model;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.engine.DataSchema;
import dev.mile.engine.Warehouse;
import dev.mile.report.Project;
import java.io.IOException;
import java.nio.charset.CharacterCodingException;
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
        requireNonNull(file, "file is null");
        try {
            return parse(Files.readString(file), file);
        } catch (NoSuchFileException e) {
            throw ModelException.of(
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
     * Reads a model from a text; paths in it are relative to the folder of the file.
     *
     * @param text the text
     * @param file the file
     * @return the model
     */
    public static Model parse(String text, Path file) {
        requireNonNull(text, "text is null");
        requireNonNull(file, "file is null");
        ModelReader.Parsed parsed = new ModelReader(file).read(YamlNode.parse(text, file));
        return new Model(parsed.project(), parsed.schema(), parsed.warehouses());
    }
}
