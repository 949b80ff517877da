/**
 * Measures and targets: what people say, as a tree that prints itself back in the language, and the plan made of it, in which every
 * name is looked up and every aggregate knows its fact, its role, its rows and its span. Called by reports and by the model reader;
 * calls spans and facts.
 *
 * <p>All types are immutable and safe for use by several threads. No argument may be null unless its description says so.
 */
package dev.mile.measure;
