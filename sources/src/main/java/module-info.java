/** How offices write their files: numbers and dates by example, encodings and separators. */
module dev.mile.sources {
    requires transitive dev.mile.core; // how a model says that a file is written
    requires de.siegmar.fastcsv; // texts with separators and quotes
    requires com.fasterxml.aalto; // the parts of workbooks
    requires java.xml;
    requires org.apache.poi.ooxml; // workbooks
    requires org.apache.poi.ooxml.schemas;
    requires org.apache.poi.poi;
    requires org.apache.xmlbeans;
    requires org.apache.logging.log4j; // through which the library for workbooks logs
    requires static org.jspecify; // which types may be null

    exports dev.mile.sources;
}
