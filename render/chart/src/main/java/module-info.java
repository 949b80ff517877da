/** Grids as pictures: PNG and SVG. */
module dev.mile.render.chart {
    requires transitive dev.mile.core; // grids
    requires dev.mile.render.text; // how grids read
    requires java.desktop; // pictures
    requires org.jfree.jfreechart; // charts
    requires org.apache.xmlgraphics.batik.svggen; // charts as SVG
    requires static org.jspecify; // which types may be null

    exports dev.mile.render.chart;
}
