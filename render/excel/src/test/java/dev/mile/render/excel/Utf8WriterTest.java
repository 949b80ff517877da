package dev.mile.render.excel;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.junit.jupiter.api.Test;

class Utf8WriterTest {
    private static final char[] LETTERS = "a<é\u07ff\u0800€\uffff\ud83c\udf31\ud800\udfff".toCharArray();

    @Test
    void piecesOfTextAreTheBytesOfTheWhole() throws IOException {
        Random random = new Random(1);
        StringBuilder whole = new StringBuilder();
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (Utf8Writer writer = new Utf8Writer(bytes)) {
            while (whole.length() < 300_000) {
                StringBuilder piece = new StringBuilder();
                for (int i = random.nextInt(9); i > 0; i--) {
                    // mostly plain letters, of others all kinds, halves too
                    piece.append(random.nextInt(4) > 0 ? 'x' : LETTERS[random.nextInt(LETTERS.length)]);
                }
                whole.append(piece);
                if (random.nextBoolean()) {
                    writer.write(piece.toString());
                } else {
                    for (char letter : piece.toString().toCharArray()) {
                        writer.write(letter);
                    }
                }
            }
            whole.append('\ud83c');
            writer.write('\ud83c');
        }
        assertThat(bytes.toByteArray()).isEqualTo(whole.toString().getBytes(StandardCharsets.UTF_8));
    }
}
