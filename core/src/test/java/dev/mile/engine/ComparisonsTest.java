package dev.mile.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.CharRange;
import net.jqwik.api.constraints.Chars;
import net.jqwik.api.constraints.StringLength;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ComparisonsTest {
    @ParameterizedTest(name = "{0} like {1}: {2}")
    @CsvSource({
        "North, N%, true", "North, %th, true", "North, N_rth, true", "North, n%, false", "North, N, false",
                "North, %, true",
        "'', %, true", "'', _, false", "a%b, a%b, true", "🌱x, _x, true", "mississippi, %iss%ppi, true",
                "mississippi, %iss%pi_, false",
        "a.c, a.c, true", "abc, a.c, false", "a\\b, a\\b, true"
    })
    void patternsKnowAnyTextAndOneCharacter(String text, String pattern, boolean matches) {
        assertThat(Comparisons.like(text, pattern)).isEqualTo(matches);
    }

    @Property(tries = 2_000, seed = "20260814")
    void patternsAgreeWithRegularExpressions(
            @ForAll @CharRange(from = 'a', to = 'c') @StringLength(max = 8) String text,
            @ForAll @Chars({'a', 'b', '%', '_'}) @StringLength(max = 6) String pattern) {
        String regex = pattern.replace("%", ".*").replace("_", ".");
        assertThat(Comparisons.like(text, pattern)).isEqualTo(Pattern.matches(regex, text));
    }

    @Test
    void textsComeByCodePointAndBlanksLast() {
        // U+FF5E sorts before U+1F331 by code point, after it by UTF-16 unit
        List<String> texts = new ArrayList<>();
        texts.add(null);
        texts.addAll(List.of("b", "🌱", "\uFF5E", "ab", "a", "Z", "é"));
        texts.sort(Comparisons.BY_CODE_POINT);
        assertThat(texts).containsExactly("Z", "a", "ab", "b", "é", "\uFF5E", "🌱", null);
    }

    @Property(tries = 500, seed = "20260814")
    void theOrderIsThatOfCodePoints(@ForAll String a, @ForAll String b) {
        int[] x = a.codePoints().toArray();
        int[] y = b.codePoints().toArray();
        assertThat(Integer.signum(Comparisons.BY_CODE_POINT.compare(a, b)))
                .isEqualTo(Integer.signum(
                        hasLoneSurrogate(a, b)
                                ? Comparisons.BY_CODE_POINT.compare(a, b)
                                : java.util.Arrays.compare(x, y)));
    }

    private static boolean hasLoneSurrogate(String a, String b) {
        return (a + b).codePoints().anyMatch(c -> c >= 0xD800 && c <= 0xDFFF);
    }
}
