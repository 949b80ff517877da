/** Calendars, working time, date dimensions, spans, measures and their evaluation: Mile's heart, free of files and screens. */
module dev.mile.core {
    exports dev.mile.calendar;
    exports dev.mile.workday;
    exports dev.mile.dimension;
    exports dev.mile.span;
    exports dev.mile.fact;
    exports dev.mile.measure;
    exports dev.mile.report;
}
