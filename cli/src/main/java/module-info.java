/** The command line {@code mile}. */
module dev.mile.cli {
    requires dev.mile.core;
    requires dev.mile.model;
    requires dev.mile.sources; // how files seem to be written, for drafts
    requires dev.mile.sql.files;
    requires dev.mile.render.text;
    requires dev.mile.render.excel;
    requires dev.mile.render.chart;
    requires dev.mile.render.html;
    requires dev.mile.demo;
    requires java.desktop; // the viewer of `--open`
    requires info.picocli; // commands, options, help
    requires static org.jspecify; // which types may be null

    uses dev.mile.engine.EngineProvider; // engines that are not built in

    opens dev.mile.cli to
            info.picocli; // options are fields
}
