package dev.mile.render.excel;

import java.io.IOException;
import java.io.OutputStream;
import java.io.Writer;

/** Writes text as UTF-8, for one thread: a sheet is written in pieces of a few letters, for each of which Java's own writers take a lock and copy twice. */
final class Utf8Writer extends Writer {
    private static final int SIZE = 1 << 16;

    /** The most bytes of a letter. */
    private static final int LONGEST = 4;

    /** What Java's own writers put for half a letter whose other half is missing. */
    private static final int REPLACEMENT = '?';

    private final OutputStream out;
    private final byte[] bytes = new byte[SIZE];
    private int size;

    /** The first half of a letter of two, or 0. */
    private char high;

    Utf8Writer(OutputStream out) {
        this.out = out;
    }

    @Override
    public void write(String text, int offset, int length) throws IOException {
        for (int i = offset; i < offset + length; i++) {
            write(text.charAt(i));
        }
    }

    @Override
    public void write(String text) throws IOException {
        write(text, 0, text.length());
    }

    @Override
    public void write(char[] text, int offset, int length) throws IOException {
        for (int i = offset; i < offset + length; i++) {
            write(text[i]);
        }
    }

    @Override
    public void write(int letter) throws IOException {
        write((char) letter);
    }

    private void write(char c) throws IOException {
        if (size > SIZE - LONGEST) {
            drain();
        }
        if (c < 0x80 && high == 0) {
            bytes[size++] = (byte) c;
        } else {
            letter(c);
        }
    }

    private void letter(char c) throws IOException {
        if (high != 0) {
            char first = high;
            high = 0;
            if (Character.isLowSurrogate(c)) {
                encode(Character.toCodePoint(first, c));
                return;
            }
            encode(REPLACEMENT);
            write(c);
        } else if (Character.isHighSurrogate(c)) {
            high = c;
        } else {
            encode(Character.isLowSurrogate(c) ? REPLACEMENT : c);
        }
    }

    private void encode(int letter) throws IOException {
        if (size > SIZE - LONGEST) {
            drain();
        }
        if (letter < 0x80) {
            bytes[size++] = (byte) letter;
        } else if (letter < 0x800) {
            bytes[size++] = (byte) (0xC0 | letter >> 6);
            bytes[size++] = continued(letter);
        } else if (letter < 0x10000) {
            bytes[size++] = (byte) (0xE0 | letter >> 12);
            bytes[size++] = continued(letter >> 6);
            bytes[size++] = continued(letter);
        } else {
            bytes[size++] = (byte) (0xF0 | letter >> 18);
            bytes[size++] = continued(letter >> 12);
            bytes[size++] = continued(letter >> 6);
            bytes[size++] = continued(letter);
        }
    }

    private static byte continued(int bits) {
        return (byte) (0x80 | bits & 0x3F);
    }

    private void drain() throws IOException {
        out.write(bytes, 0, size);
        size = 0;
    }

    @Override
    public void flush() throws IOException {
        drain();
        out.flush();
    }

    @Override
    public void close() throws IOException {
        if (high != 0) {
            high = 0;
            encode(REPLACEMENT);
        }
        drain();
        out.close();
    }
}
