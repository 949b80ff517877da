/** Reads the model file and the measure language into the types of the core, and describes the file by a JSON Schema. */
module dev.mile.model {
    requires transitive dev.mile.core; // the types that it makes
    requires org.snakeyaml.engine.v2; // YAML 1.2 with the place of every node
    requires de.siegmar.fastcsv; // closures, events and period ends
    requires net.sf.biweekly; // holidays as iCalendar
    requires static org.jspecify; // which types may be null

    exports dev.mile.model;
}
