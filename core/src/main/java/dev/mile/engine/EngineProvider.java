package dev.mile.engine;

import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import java.time.ZoneId;
import java.util.Map;

/** Opens an engine that is found on the class path by its name, with {@link java.util.ServiceLoader}. */
public interface EngineProvider {
    /** Returns the name, such as {@code spark}. */
    String name();

    /**
     * Opens an engine over the sources of a model.
     *
     * @param sources where the rows of each fact and lookup are, by name
     * @param zone the zone in which timestamps have their day
     * @param settings what else was said, by name, such as {@code master}
     * @throws dev.mile.MileException if a source or a setting is none for this engine
     */
    Engine open(
            Map<String, Fact> facts,
            Map<String, Lookup> lookups,
            Map<String, Source> sources,
            ZoneId zone,
            Map<String, String> settings);
}
