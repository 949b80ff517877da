/** How offices write their files: numbers and dates by example, encodings and separators. */
module dev.mile.sources {
    requires transitive dev.mile.core; // how a model says that a file is written
    requires de.siegmar.fastcsv; // texts with separators and quotes
    requires static transitive org.jspecify; // which types may be null

    exports dev.mile.sources;
}
