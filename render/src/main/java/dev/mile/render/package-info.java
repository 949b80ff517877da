/**
 * Grids and date dimensions made ready to read: terminal, CSV, JSON, pages, workbooks, charts. Numbers come from the grid; nothing is computed here. Called
 * by the command line and by Java programs; calls the core.
 *
 * <p>Writers that take rows as they come are used once; the others have no state and are safe for use by several threads. No argument may be null.
 */
@NullMarked
package dev.mile.render;

import org.jspecify.annotations.NullMarked;
