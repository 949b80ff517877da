package dev.mile.report.axis;

import java.util.Optional;

/** An axis of time whose key is a function of the day. */
public interface DayAxis extends TimeAxis {
    /** Returns the key of the epoch day; empty where the day has no place on the axis. A blank attribute is {@link BlankKey#BLANK}. */
    Optional<Object> key(int epochDay);
}
