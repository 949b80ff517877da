/** Grids and date dimensions made ready to read: terminal, CSV, JSON. Nothing is computed here. */
module dev.mile.render {
    requires transitive dev.mile.core; // grids and date dimensions
    requires com.fasterxml.jackson.core; // JSON

    exports dev.mile.render;
}
