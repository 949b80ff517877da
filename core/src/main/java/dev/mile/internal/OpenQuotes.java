package dev.mile.internal;

import java.io.IOException;
import java.io.Reader;
import java.util.OptionalInt;

/** Finds quotes of a text with separators that are not closed: readers take the rest of the file as one value then. */
public final class OpenQuotes {
    private OpenQuotes() {}

    /**
     * Returns the line in which quotes open that never close; empty where all close.
     *
     * @param text the text, from its first line on
     * @param separator what stands between values
     */
    public static OptionalInt line(Reader text, char separator) throws IOException {
        int opened = 0;
        int line = 1;
        boolean begins = true;
        for (int c = text.read(); c >= 0; c = text.read()) {
            if (c == '"' && (opened > 0 || begins)) {
                opened = opened > 0 ? 0 : line;
            }
            // a quote within a quoted value is written twice: it closes, and opens again
            begins = opened == 0 && (c == separator || c == '\n' || c == '\r' || c == '"' || c == '\uFEFF');
            line += c == '\n' ? 1 : 0;
        }
        return opened > 0 ? OptionalInt.of(opened) : OptionalInt.empty();
    }
}
