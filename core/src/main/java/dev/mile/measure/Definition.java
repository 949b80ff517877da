package dev.mile.measure;

import static java.util.Objects.requireNonNull;

/**
 * A measure with its name.
 *
 * @param name {@code [a-z][a-z0-9_]*}
 * @param is what it is
 * @param label how people read it; the name with spaces where empty
 * @param format a decimal pattern of the JDK; empty for the default
 * @param place where it stands, for messages; may be empty
 */
public record Definition(String name, Measure is, String label, String format, String place) {
    public Definition {
        requireNonNull(name, "name is null");
        requireNonNull(is, "is is null");
        requireNonNull(label, "label is null");
        requireNonNull(format, "format is null");
        requireNonNull(place, "place is null");
    }

    public static Definition of(String name, Measure is) {
        return new Definition(name, is, "", "", "");
    }

    /** Returns the label, or the name in words. */
    public String title() {
        return label.isEmpty() ? name.replace('_', ' ') : label;
    }
}
