/**
 * How grids are laid out for people, whatever they are written into: labels and numbers as they read, the columns that are shown,
 * widths, and the data of charts. Hidden: used by the packages that write grids only.
 *
 * <p>All types are immutable. No argument may be null.
 */
@NullMarked
package dev.mile.render.layout;

import org.jspecify.annotations.NullMarked;
