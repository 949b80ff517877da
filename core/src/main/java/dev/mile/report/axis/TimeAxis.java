package dev.mile.report.axis;

/** An axis that places cells in time. */
public sealed interface TimeAxis extends Axis permits DayAxis, RecentAxis {}
