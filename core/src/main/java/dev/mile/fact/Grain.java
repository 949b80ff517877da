package dev.mile.fact;

import dev.mile.calendar.Level;

/**
 * The periods that the rows of a plan are about: {@code year}, {@code month in retail}.
 *
 * @param level the level
 * @param calendar the calendar's name; empty for the first of the model
 */
public record Grain(Level level, String calendar) {
    @Override
    public String toString() {
        return level.word() + (calendar.isEmpty() ? "" : " in " + calendar);
    }
}
