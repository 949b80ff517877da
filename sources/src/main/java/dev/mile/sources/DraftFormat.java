package dev.mile.sources;

import dev.mile.engine.FileFormat;
import java.util.List;
import java.util.Optional;

/**
 * How a file seems to be written, for the first draft of a model.
 *
 * @param format the format by which all of it can be read
 * @param doubts what the data leave open, a sentence each
 * @param months the months or years that its columns stand for, where it has a column for each
 */
public record DraftFormat(FileFormat format, List<String> doubts, Optional<Wide> months) {
    /** What the columns of a wide table stand for. */
    public enum Wide {
        /** Months by short names: Jan. */
        SHORT_MONTHS,
        /** Months by full names: January. */
        MONTHS,
        /** Years: 2026. */
        YEARS
    }

    public DraftFormat {
        doubts = List.copyOf(doubts);
    }
}
