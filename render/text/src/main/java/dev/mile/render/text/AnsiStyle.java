package dev.mile.render.text;

/** Bold, dim and coloured text for terminals that show it. */
final class AnsiStyle {
    private final boolean on;

    AnsiStyle(boolean on) {
        this.on = on;
    }

    String bold(String text) {
        return wrap(1, text);
    }

    String dim(String text) {
        return wrap(2, text);
    }

    String colour(int code, String text) {
        return wrap(code, text);
    }

    private String wrap(int code, String text) {
        return on ? "\u001b[" + code + "m" + text + "\u001b[0m" : text;
    }
}
