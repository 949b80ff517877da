package dev.mile.sql.dialect;

import java.util.stream.Collector;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** Capitals and the small letters that stand for them, for databases whose own small letters depend on a language. */
final class LetterCase {
    /** Every letter that has a small one. */
    static final String CAPITALS = letters().collect(text());

    /** The small letters in the same order. */
    static final String SMALL = letters().map(Character::toLowerCase).collect(text());

    /** The capitals that are one character of UTF-16. */
    static final String SHORT_CAPITALS =
            letters().filter(Character::isBmpCodePoint).collect(text());

    /** The small letters of {@link #SHORT_CAPITALS} in the same order. */
    static final String SHORT_SMALL = letters()
            .filter(Character::isBmpCodePoint)
            .map(Character::toLowerCase)
            .collect(text());

    private LetterCase() {}

    private static Stream<Integer> letters() {
        return IntStream.rangeClosed(Character.MIN_CODE_POINT, Character.MAX_CODE_POINT)
                .filter(letter -> Character.toLowerCase(letter) != letter)
                .boxed();
    }

    private static Collector<Integer, StringBuilder, String> text() {
        return Collector.of(
                StringBuilder::new,
                (text, letter) -> text.appendCodePoint(letter),
                StringBuilder::append,
                StringBuilder::toString);
    }
}
