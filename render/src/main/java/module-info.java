/** Grids, explanations and date dimensions made ready to read. Nothing is computed here. */
module dev.mile.render {
    requires transitive dev.mile.core; // grids and date dimensions
    requires com.fasterxml.jackson.core; // JSON
    requires org.apache.poi.ooxml; // workbooks
    requires java.desktop; // pictures
    requires org.jfree.jfreechart; // charts
    requires org.apache.xmlgraphics.batik.svggen; // charts as SVG
    requires net.sf.biweekly; // the close calendar
    requires static transitive org.jspecify; // which types may be null

    exports dev.mile.render;
}
