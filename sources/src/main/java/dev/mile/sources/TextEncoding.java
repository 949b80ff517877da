package dev.mile.sources;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.StandardCharsets;
import java.nio.charset.UnsupportedCharsetException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.zip.GZIPInputStream;

/** The character set of a file: what a byte order mark says, else what the model says, else UTF-8. A byte that is not of it is an error. */
final class TextEncoding {
    private static final int MARK = 4;
    private static final int SAMPLE = 1_000;
    private static final String SINGLE_BYTES = "windows-1252";

    private final Path file;
    private final Charset charset;
    private final int markBytes;

    private TextEncoding(Path file, Charset charset, int markBytes) {
        this.file = file;
        this.charset = charset;
        this.markBytes = markBytes;
    }

    /**
     * {@return the character set of a file}
     *
     * @param said what the model says; empty for nothing
     * @throws MileException if the machine knows no such character set, or the file cannot be read
     */
    static TextEncoding of(Path file, Optional<String> said) {
        requireNonNull(said, "said is null");
        try (InputStream bytes = bytes(file)) {
            byte[] first = bytes.readNBytes(MARK);
            if (startsWith(first, 0xEF, 0xBB, 0xBF)) {
                return new TextEncoding(file, StandardCharsets.UTF_8, 3);
            }
            if (startsWith(first, 0xFF, 0xFE)) {
                return new TextEncoding(file, StandardCharsets.UTF_16LE, 2);
            }
            if (startsWith(first, 0xFE, 0xFF)) {
                return new TextEncoding(file, StandardCharsets.UTF_16BE, 2);
            }
        } catch (IOException e) {
            throw cannotBeRead(file, e);
        }
        return new TextEncoding(file, said.map(TextEncoding::charset).orElse(StandardCharsets.UTF_8), 0);
    }

    /** {@return the character set that a file without a byte order mark looks like; empty where it is UTF-8, or has a mark} */
    static Optional<String> found(Path file) {
        TextEncoding encoding = of(file, Optional.empty());
        if (encoding.markBytes > 0) {
            return Optional.empty();
        }
        char[] ignored = new char[SAMPLE];
        try (Reader reader = encoding.open()) {
            String likely = encoding.looksLike();
            if (!likely.equals(SINGLE_BYTES)) {
                return Optional.of(likely);
            }
            int read = 0;
            while (read >= 0) {
                read = reader.read(ignored);
            }
            return Optional.empty();
        } catch (CharacterCodingException e) {
            return Optional.of(SINGLE_BYTES);
        } catch (IOException e) {
            throw cannotBeRead(file, e);
        }
    }

    private static Charset charset(String name) {
        try {
            return Charset.forName(name);
        } catch (IllegalCharsetNameException | UnsupportedCharsetException e) {
            throw ModelException.of(
                            "'%s' is no encoding that is known here; expected one such as utf-8, windows-1252, iso-8859-1 or utf-16",
                            name)
                    .withCause(e);
        }
    }

    private static boolean startsWith(byte[] bytes, int... mark) {
        if (bytes.length < mark.length) {
            return false;
        }
        for (int i = 0; i < mark.length; i++) {
            if ((bytes[i] & 0xFF) != mark[i]) {
                return false;
            }
        }
        return true;
    }

    private static InputStream bytes(Path file) throws IOException {
        InputStream bytes = new BufferedInputStream(Files.newInputStream(file), 1 << 16);
        return file.toString().endsWith(".gz") ? new BufferedInputStream(new GZIPInputStream(bytes), 1 << 16) : bytes;
    }

    /** {@return whether it is UTF-16} */
    boolean isUtf16() {
        return charset.equals(StandardCharsets.UTF_16LE) || charset.equals(StandardCharsets.UTF_16BE);
    }

    /** {@return the text of the file} */
    Reader open() throws IOException {
        InputStream bytes = bytes(file);
        bytes.skipNBytes(markBytes);
        return new InputStreamReader(
                bytes,
                charset.newDecoder()
                        .onMalformedInput(CodingErrorAction.REPORT)
                        .onUnmappableCharacter(CodingErrorAction.REPORT));
    }

    /** {@return the error of a file that cannot be read, with the line where its bytes are not of its encoding} */
    MileException failed(Exception e) {
        Throwable cause = e.getCause() instanceof IOException ? e.getCause() : e;
        if (!(cause instanceof CharacterCodingException)) {
            return cannotBeRead(file, cause);
        }
        try (InputStream bytes = bytes(file)) {
            bytes.skipNBytes(markBytes);
            ByteArrayOutputStream line = new ByteArrayOutputStream();
            int number = 1;
            for (int b = bytes.read(); b >= 0; b = bytes.read()) {
                if (b != '\n') {
                    line.write(b);
                    continue;
                }
                if (!isOf(charset, line.toByteArray())) {
                    break;
                }
                line.reset();
                number++;
            }
            String likely = looksLike();
            DataException error = likely.equalsIgnoreCase(charset.name())
                    ? DataException.of(
                            "the bytes of this line are not %s; check that the file is a text, and in which encoding it was saved",
                            charset.name())
                    : DataException.of(
                            "the bytes of this line are not %s; the file looks like %s, so say `encoding: %s`",
                            charset.name(), likely, likely);
            return error.withLocation(SourceLocation.of(String.valueOf(file.getFileName()), number))
                    .withCause(cause);
        } catch (IOException again) {
            return cannotBeRead(file, again);
        }
    }

    private static boolean isOf(Charset charset, byte[] bytes) {
        try {
            charset.newDecoder().decode(ByteBuffer.wrap(bytes));
            return true;
        } catch (CharacterCodingException e) {
            return false;
        }
    }

    private String looksLike() throws IOException {
        try (InputStream bytes = bytes(file)) {
            byte[] sample = bytes.readNBytes(SAMPLE);
            int even = 0;
            int odd = 0;
            for (int i = 0; i < sample.length; i++) {
                if (sample[i] == 0 && i % 2 == 0) {
                    even++;
                } else if (sample[i] == 0) {
                    odd++;
                }
            }
            if (odd > sample.length / 4) {
                return "utf-16le";
            }
            return even > sample.length / 4 ? "utf-16be" : SINGLE_BYTES;
        }
    }

    private static MileException cannotBeRead(Path file, Throwable e) {
        if (e instanceof NoSuchFileException) {
            return DataException.of("the file %s is not there; check the path", file);
        }
        return DataException.of("the file %s cannot be read: %s", file.getFileName(), String.valueOf(e.getMessage()))
                .withCause(e);
    }
}
