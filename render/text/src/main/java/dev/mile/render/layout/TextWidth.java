package dev.mile.render.layout;

/** How many columns of a terminal a text takes: wide characters two, combining ones none. */
public final class TextWidth {
    /** The first sign that may take another width than one column. */
    private static final int FIRST_UNLIKE_ASCII = 0x80;

    private TextWidth() {}

    public static int of(String text) {
        int plain = 0;
        while (plain < text.length() && text.charAt(plain) < FIRST_UNLIKE_ASCII) {
            plain++;
        }
        int width = plain;
        for (int i = plain; i < text.length(); i += Character.charCount(text.codePointAt(i))) {
            width += of(text.codePointAt(i));
        }
        return width;
    }

    private static int of(int c) {
        int type = Character.getType(c);
        if (type == Character.NON_SPACING_MARK || type == Character.ENCLOSING_MARK || type == Character.FORMAT) {
            return 0;
        }
        boolean wide = (c >= 0x1100 && c <= 0x115F)
                || (c >= 0x2E80 && c <= 0xA4CF)
                || (c >= 0xAC00 && c <= 0xD7A3)
                || (c >= 0xF900 && c <= 0xFAFF)
                || (c >= 0xFE30 && c <= 0xFE6F)
                || (c >= 0xFF00 && c <= 0xFF60)
                || (c >= 0x1F300 && c <= 0x1FAFF);
        return wide ? 2 : 1;
    }

    /** Returns the text without control characters, which a terminal would obey, and without those that turn the direction of reading. */
    public static String sanitizeControls(String text) {
        StringBuilder out = new StringBuilder();
        text.codePoints().forEach(c -> out.appendCodePoint(isControl(c) ? 0xFFFD : c));
        return out.toString();
    }

    private static boolean isControl(int c) {
        return Character.isISOControl(c)
                || c >= 0x202A && c <= 0x202E
                || c >= 0x2066 && c <= 0x2069
                || c == 0x2028
                || c == 0x2029;
    }

    public static String left(String text, int width) {
        return text + " ".repeat(Math.max(0, width - of(text)));
    }

    public static String right(String text, int width) {
        return " ".repeat(Math.max(0, width - of(text))) + text;
    }
}
