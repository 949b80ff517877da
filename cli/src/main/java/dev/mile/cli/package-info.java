/**
 * The command line: one class a command, what they share, and the way from an error to an exit code. Called by the launcher only;
 * calls all other modules. Results go to standard output, everything else to standard error.
 */
@NullMarked
package dev.mile.cli;

import org.jspecify.annotations.NullMarked;
