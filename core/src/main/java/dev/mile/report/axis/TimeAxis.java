package dev.mile.report.axis;

/** An axis that places cells in time. */
public interface TimeAxis extends Axis {}
