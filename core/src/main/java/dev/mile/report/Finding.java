package dev.mile.report;

import static java.util.Objects.requireNonNull;

import dev.mile.SourceLocation;
import dev.mile.internal.Messages;
import java.util.Optional;

/**
 * Something that a check found.
 *
 * @param severity how bad it is
 * @param subject what it is about: {@code sales by ordered}, {@code growth}
 * @param location where that is in the model; empty if unknown
 * @param text what was found
 * @param remedy what to do about it; empty where the text says it
 */
public record Finding(
        Severity severity, String subject, Optional<SourceLocation> location, String text, Optional<String> remedy) {
    /** How bad a finding is, worst first. */
    public enum Severity {
        /** Wrong numbers, or none, come of it. */
        ERROR,
        /** Somebody should look at it. */
        WARNING,
        /** Good to know. */
        NOTE
    }

    public Finding {
        requireNonNull(severity, "severity is null");
        subject = Messages.limited(Messages.escaped(requireNonNull(subject, "subject is null")));
        requireNonNull(location, "location is null");
        text = Messages.limited(Messages.escaped(requireNonNull(text, "text is null")));
        requireNonNull(remedy, "remedy is null");
    }

    /** {@return where to look: the location, or else the subject} */
    public String where() {
        return location.map(SourceLocation::toString).orElse(subject);
    }
}
