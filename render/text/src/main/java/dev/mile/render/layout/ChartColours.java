package dev.mile.render.layout;

import dev.mile.measure.TargetStatus;
import java.util.List;

/** The colours of charts, as red, green and blue in 24 bits: those of Okabe and Ito, which colour-blind people can tell apart. */
public final class ChartColours {
    /** Lines of more points than this have no marks. */
    public static final int MOST_MARKED = 26;

    private static final List<Integer> SERIES =
            List.of(0x0072B2, 0xC44E00, 0x007A5A, 0xA8508A, 0xA86F00, 0x4FAFE0, 0x4D4D4D, 0x5B5BD6);

    private ChartColours() {}

    /** Returns the colour of a series; they come again after the eighth. */
    public static int of(int series) {
        return SERIES.get(series % SERIES.size());
    }

    /** Returns the colour of a status, which is always shown with its sign and word. */
    public static int of(TargetStatus status) {
        return of(
                switch (status) {
                    case MET -> 0;
                    case NEAR -> 4;
                    case MISSED -> 1;
                });
    }
}
