package dev.mile.engine;

/**
 * Where the rows of a fact or lookup are, for engines that read them.
 *
 * @param location a file or a glob; empty for a table
 * @param table a table of a warehouse; empty for files
 * @param warehouse the connection that has the table; empty for files
 * @param place where the model says so, for messages
 */
public record Source(String location, String table, String warehouse, String place) {}
