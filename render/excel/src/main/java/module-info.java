/** Grids and date dimensions as workbooks. */
module dev.mile.render.excel {
    requires transitive dev.mile.core; // grids
    requires transitive dev.mile.render.text; // the columns of date dimensions
    requires org.apache.poi.ooxml; // workbooks
    requires org.apache.commons.compress; // the archive that a workbook is
    requires org.apache.logging.log4j; // through which the library for workbooks logs
    requires static org.jspecify; // which types may be null

    exports dev.mile.render.excel;
}
