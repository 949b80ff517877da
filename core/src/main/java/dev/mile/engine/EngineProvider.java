package dev.mile.engine;

import java.util.Map;

/** Opens an engine that is found on the class path by its name, with {@link java.util.ServiceLoader}. */
public interface EngineProvider {
    /** {@return the name, such as {@code spark}} */
    String name();

    /**
     * Opens an engine over the sources of a model.
     *
     * @param schema the facts and lookups, and where their rows are
     * @param settings further settings by name, such as {@code master}
     * @return the engine
     * @throws dev.mile.MileException if a source or a setting does not suit this engine
     */
    Engine open(DataSchema schema, Map<String, String> settings);
}
