/** Reports, explanations and findings as JSON, for programs that use Jackson. */
module dev.mile.jackson {
    requires transitive dev.mile.core; // what is written
    requires dev.mile.render.text; // how it is written
    requires transitive com.fasterxml.jackson.databind; // who asks for it
    requires static org.jspecify; // which types may be null

    exports dev.mile.jackson;

    provides com.fasterxml.jackson.databind.Module with
            dev.mile.jackson.MileModule;
}
