package dev.mile.measure;

import static java.util.Objects.requireNonNull;

import dev.mile.internal.Labels;
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

    /**
     * {@return a measure without label, format or unit}
     *
     * @param name the name
     * @param expression the expression
     */
    public static MeasureDefinition of(String name, Measure expression) {
        requireNonNull(name, "name is null");
        requireNonNull(expression, "expression is null");
        return new MeasureDefinition(name, expression, Optional.empty(), NumberStyle.PLAIN);
    }

    /**
     * {@return the measure with a label}
     *
     * @param text the text
     */
    public MeasureDefinition withLabel(String text) {
        requireNonNull(text, "text is null");
        return new MeasureDefinition(name, expression, Optional.of(text), style);
    }

    /**
     * {@return the measure with another style of its numbers}
     *
     * @param newStyle how numbers are written
     */
    public MeasureDefinition withStyle(NumberStyle newStyle) {
        requireNonNull(newStyle, "newStyle is null");
        return new MeasureDefinition(name, expression, label, newStyle);
    }

    /** {@return the label, or the name in words} */
    public String title() {
        return label.orElseGet(() -> Labels.of(name));
    }
}
