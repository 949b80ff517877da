package dev.mile.measure;

import static java.util.Objects.requireNonNull;

import java.util.Optional;

/**
 * A measure with its name.
 *
 * @param name {@code [a-z][a-z0-9_]*}
 * @param expression what it is
 * @param label how people read it; empty for the name in words
 * @param style how its numbers are written
 */
public record MeasureDefinition(String name, Measure expression, Optional<String> label, NumberStyle style) {
    public MeasureDefinition {
        requireNonNull(name, "name is null");
        requireNonNull(expression, "expression is null");
        requireNonNull(label, "label is null");
        requireNonNull(style, "style is null");
    }

    /** Returns a measure without label, format or unit. */
    public static MeasureDefinition of(String name, Measure expression) {
        requireNonNull(name, "name is null");
        requireNonNull(expression, "expression is null");
        return new MeasureDefinition(name, expression, Optional.empty(), NumberStyle.PLAIN);
    }

    /** Returns the measure with a label. */
    public MeasureDefinition withLabel(String text) {
        requireNonNull(text, "text is null");
        return new MeasureDefinition(name, expression, Optional.of(text), style);
    }

    /** Returns the measure with another style of its numbers. */
    public MeasureDefinition withStyle(NumberStyle newStyle) {
        requireNonNull(newStyle, "newStyle is null");
        return new MeasureDefinition(name, expression, label, newStyle);
    }

    /** Returns the label, or the name in words. */
    public String title() {
        return label.orElseGet(() -> name.replace('_', ' '));
    }
}
