package dev.mile;

import java.util.Optional;

/** What may be defined in a file, so that errors about it can say where. */
public interface Located {
    /** {@return where it is defined; empty where a program made it} */
    Optional<SourceLocation> location();
}
