package dev.mile.report;

import dev.mile.MileException;
import dev.mile.SourceLocation;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;

/** Where a model file defines the elements of a project, and where the words in them stand; for messages. */
final class ElementLocations {
    private final Map<ModelElement, Map<String, SourceLocation>> elements = new EnumMap<>(ModelElement.class);
    private final Map<ModelElement, Map<String, Map<String, SourceLocation>>> words = new EnumMap<>(ModelElement.class);

    /** Adds where an element is defined. */
    void add(ModelElement element, String name, SourceLocation location) {
        elements.computeIfAbsent(element, e -> new HashMap<>()).put(name, location);
    }

    /** Adds where a word of an element stands; the first of equal ones is kept. */
    void addWord(ModelElement element, String name, String word, SourceLocation location) {
        words.computeIfAbsent(element, e -> new HashMap<>())
                .computeIfAbsent(name, n -> new HashMap<>())
                .putIfAbsent(word, location);
    }

    /** Adds all that others have. */
    void addAll(ElementLocations others) {
        others.elements.forEach((element, byName) -> byName.forEach((name, at) -> add(element, name, at)));
        others.words.forEach((element, byName) ->
                byName.forEach((name, byWord) -> byWord.forEach((word, at) -> addWord(element, name, word, at))));
    }

    boolean isEmpty() {
        return elements.isEmpty();
    }

    /** Returns where an element is defined; empty where that is not known. */
    Optional<SourceLocation> of(ModelElement element, String name) {
        return Optional.ofNullable(elements.getOrDefault(element, Map.of()).get(name));
    }

    /** Returns the error at the first word that it is about, or else at the element; the error itself where neither has a location. */
    MileException located(MileException error, ModelElement element, String name) {
        Map<String, SourceLocation> ofWords =
                words.getOrDefault(element, Map.of()).getOrDefault(name, Map.of());
        return error.values().stream()
                .filter(String.class::isInstance)
                .map(ofWords::get)
                .filter(Objects::nonNull)
                .findFirst()
                .or(() -> of(element, name))
                .map(error::withLocation)
                .orElse(error);
    }
}
