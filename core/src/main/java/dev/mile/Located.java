package dev.mile;

import java.util.Optional;

/** What a file may say: errors about it can tell where. */
public interface Located {
    /** Returns where it stands; empty where a program made it. */
    Optional<SourceLocation> location();
}
