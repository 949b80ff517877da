package dev.mile.model;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;

/** The JSON Schema of the model file, for editors that complete and check it. */
public final class ModelSchema {
    private ModelSchema() {}

    /** {@return the schema as JSON text (draft 2020-12)} */
    public static String json() {
        try (InputStream in = ModelSchema.class.getResourceAsStream("mile.schema.json")) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
