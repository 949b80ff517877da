package dev.mile.sources;

import org.apache.logging.log4j.Level;
import org.apache.logging.log4j.LogManager;
import org.apache.logging.log4j.status.StatusLogger;

/**
 * The log of the library for workbooks. Where a program has no logging of its own, the library's logging facade would complain about that
 * at its console.
 */
@SuppressWarnings("deprecation") // the way that all versions of the facade know
final class PoiLog {
    static {
        StatusLogger console = StatusLogger.getLogger();
        Level level = console.getLevel();
        console.setLevel(Level.OFF);
        LogManager.getFactory(); // looks for logging, and finds it or complains
        console.setLevel(level);
    }

    private PoiLog() {}

    /** Lets the facade look for logging before the library does. */
    static void prepare() {
        // by the class's start
    }
}
