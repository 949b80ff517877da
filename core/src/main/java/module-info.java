/** Calendars, working time, date dimensions, spans, measures and their evaluation: Mile's heart, free of files and screens. */
@SuppressWarnings("module") // Mile's other modules are compiled after this one
module dev.mile.core {
    requires transitive java.sql; // rows that a database answered
    requires static org.jspecify; // which types may be null

    exports dev.mile;
    exports dev.mile.calendar;
    exports dev.mile.workday;
    exports dev.mile.dimension;
    exports dev.mile.span;
    exports dev.mile.fact;
    exports dev.mile.measure;
    exports dev.mile.engine;
    exports dev.mile.engine.memory;
    exports dev.mile.report;
    exports dev.mile.report.distributed;
    exports dev.mile.internal to
            dev.mile.model,
            dev.mile.sources,
            dev.mile.sql.warehouse,
            dev.mile.sql.files,
            dev.mile.render.text,
            dev.mile.render.excel,
            dev.mile.render.chart,
            dev.mile.render.html,
            dev.mile.cli;
}
