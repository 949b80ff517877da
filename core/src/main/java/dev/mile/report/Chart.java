package dev.mile.report;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.internal.Messages;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * How a report is drawn.
 *
 * @param kind what kind of chart
 * @param show the measures drawn, of those that the report shows; all that fit where empty
 * @param worstFirst whether the bars of a status chart come by their status, the worst first, and not in the order of the rows
 */
public record Chart(Kind kind, List<String> show, boolean worstFirst) {
    /** The kinds of charts. */
    public enum Kind {
        /** Lines over time, solid up to the as-of date and dashed after it. */
        LINES,
        /** Two lines over time and their running difference, the third measure, as columns under them. */
        GAP,
        /** Bars by member, the best first. */
        RANKING,
        /** One line a year over the periods of the year. */
        YEARS,
        /** Values beside their goals, with the status of a target. */
        STATUS,
        /** Values over time with the straight line and the exponential curve that fit them best. */
        TREND;

        /** {@return the word of the model file} */
        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }

        /**
         * {@return the kind of the word}
         *
         * @param word the word
         * @throws MileException if there is none
         */
        public static Kind parse(String word) {
            List<String> words = Arrays.stream(values()).map(Kind::word).toList();
            int at = words.indexOf(word.strip());
            if (at < 0) {
                throw ModelException.of("'%s' is not a kind of chart%s", word, Messages.didYouMean(word, words));
            }
            return values()[at];
        }
    }

    /**
     * Checks the order.
     *
     * @throws MileException if bars other than those of statuses are to come by their status
     */
    public Chart {
        show = List.copyOf(show);
        if (worstFirst && kind != Kind.STATUS) {
            throw ModelException.of(
                    "a %s chart has no statuses to come worst first; only a status chart has", kind.word());
        }
    }

    /**
     * A chart in the order of the rows.
     *
     * @param kind what kind of chart
     * @param show the measures drawn, of those that the report shows; all that fit where empty
     */
    public Chart(Kind kind, List<String> show) {
        this(kind, show, false);
    }
}
