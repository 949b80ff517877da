package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.Level;
import java.util.Optional;

/**
 * The periods that the rows of a plan are about: {@code year}, {@code month in retail}.
 *
 * @param level the level
 * @param calendar the calendar; empty for the first of the model
 */
public record Grain(Level level, Optional<String> calendar) {
    public Grain {
        requireNonNull(level, "level is null");
        requireNonNull(calendar, "calendar is null");
    }

    /**
     * {@return the periods of a level of the first calendar}
     *
     * @param level the level
     */
    public static Grain of(Level level) {
        requireNonNull(level, "level is null");
        return new Grain(level, Optional.empty());
    }

    /**
     * {@return the periods of the level of another calendar}
     *
     * @param name the name
     */
    public Grain withCalendar(String name) {
        requireNonNull(name, "name is null");
        return new Grain(level, Optional.of(name));
    }

    /** Returns the grain as the model writes it. */
    @Override
    public String toString() {
        return level.word() + calendar.map(name -> " in " + name).orElse("");
    }
}
