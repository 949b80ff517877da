package dev.mile.render;

import dev.mile.measure.TargetStatus;

/** A status in a sign and a word, so that no colour is needed to tell it. */
final class StatusText {
    private StatusText() {}

    static String of(TargetStatus status) {
        String sign =
                switch (status) {
                    case MET -> "●";
                    case NEAR -> "◐";
                    case MISSED -> "○";
                };
        return sign + " " + status.word();
    }
}
