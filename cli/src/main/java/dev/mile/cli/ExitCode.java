package dev.mile.cli;

/** Exit codes of the commands besides 0. */
final class ExitCode {
    /** {@code check} found something. */
    static final int FINDINGS = 1;

    /** The model or the command line is wrong. */
    static final int USAGE = 2;

    /** Data could not be read. */
    static final int DATA = 3;

    /** Mile itself failed. */
    static final int INTERNAL = 4;

    private ExitCode() {}
}
