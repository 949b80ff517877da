/** Reports as one page that answers, with its charts. */
module dev.mile.render.html {
    requires transitive dev.mile.core; // grids and explanations
    requires dev.mile.render.text; // how grids read
    requires com.fasterxml.jackson.core; // the data of the page
    requires static org.jspecify; // which types may be null

    exports dev.mile.render.html;
}
