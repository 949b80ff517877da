package dev.mile.engine;

/**
 * Rows of one date of a role.
 *
 * @param role the role
 * @param day the epoch day; it may lie far outside the days that Mile knows
 * @param rows how many
 */
public record DateCount(String role, long day, long rows) {}
