/** Grids, explanations and date dimensions as texts: terminal, CSV, JSON, SQL, iCalendar. Nothing is computed here. */
@SuppressWarnings("module") // the other modules of this kind are compiled after this one
module dev.mile.render.text {
    requires transitive dev.mile.core; // grids and date dimensions
    requires transitive com.fasterxml.jackson.core; // JSON, also into a document of the caller
    requires net.sf.biweekly; // the close calendar
    requires static org.jspecify; // which types may be null

    exports dev.mile.render.text;
    exports dev.mile.render.layout to
            dev.mile.render.excel,
            dev.mile.render.chart,
            dev.mile.render.html;
}
