package dev.mile.cli;

import java.io.BufferedOutputStream;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.OutputStream;

/** Standard output that remembers why it could not be written, which the JDK's print streams do not. */
final class StandardOutput extends OutputStream {
    private final OutputStream out = new BufferedOutputStream(new FileOutputStream(FileDescriptor.out), 1 << 16);
    private IOException failure;

    @Override
    public void write(int b) throws IOException {
        write(new byte[] {(byte) b}, 0, 1);
    }

    @Override
    public void write(byte[] bytes, int from, int length) throws IOException {
        try {
            out.write(bytes, from, length);
        } catch (IOException e) {
            throw remembered(e);
        }
    }

    @Override
    public void flush() throws IOException {
        try {
            out.flush();
        } catch (IOException e) {
            throw remembered(e);
        }
    }

    private IOException remembered(IOException e) {
        failure = failure == null ? e : failure;
        return e;
    }

    /** Returns why something is missing there; empty where nothing is, or where the reader had read enough ({@code | head}). */
    String writeError() {
        String reason = failure == null ? "" : String.valueOf(failure.getMessage());
        return reason.contains("Broken pipe") || reason.contains("pipe is being closed") ? "" : reason;
    }
}
