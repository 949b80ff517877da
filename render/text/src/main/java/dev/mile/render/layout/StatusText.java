package dev.mile.render.layout;

import dev.mile.measure.TargetStatus;

/** A status as a sign and a word, so that it can be read without colour. */
public final class StatusText {
    private StatusText() {}

    public static String of(TargetStatus status) {
        String sign =
                switch (status) {
                    case MET -> "●";
                    case NEAR -> "◐";
                    case MISSED -> "○";
                };
        return sign + " " + status.word();
    }
}
