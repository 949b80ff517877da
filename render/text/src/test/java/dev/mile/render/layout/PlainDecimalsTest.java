package dev.mile.render.layout;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.RoundingMode;
import java.text.DecimalFormat;
import java.text.DecimalFormatSymbols;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PlainDecimalsTest {
    private static DecimalFormat format(String pattern, String language) {
        DecimalFormat format =
                new DecimalFormat(pattern, DecimalFormatSymbols.getInstance(Locale.forLanguageTag(language)));
        format.setRoundingMode(RoundingMode.HALF_UP);
        return format;
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "#,##0",
                "#,##0.00",
                "0.0%",
                "0.000",
                "#,####0.0",
                "+#,##0.00 m;(#,##0.00 m)",
                "#,##0.0\u2030",
                "0;-0"
            })
    void whatTheFormatWritesIsWritten(String pattern) {
        Random random = new Random(7);
        for (String language : new String[] {"en", "de", "de-CH", "fr", "ar-EG-u-nu-arab", "hi-u-nu-deva"}) {
            DecimalFormat format = format(pattern, language);
            PlainDecimals plain = PlainDecimals.of(format, pattern).orElseThrow();
            for (int i = 0; i < 300; i++) {
                BigDecimal number = new BigDecimal(
                        new BigInteger(random.nextInt(90), random).subtract(new BigInteger(random.nextInt(60), random)),
                        random.nextInt(9) - 2);
                assertThat(plain.of(number)).as(number + " in " + language).isEqualTo(format.format(number));
            }
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"0.##", "#.00", "00", "0.0E0", "0' m'", "\u00A40.00", "0."})
    void patternsThatAskForMoreAreLeftToTheFormat(String pattern) {
        assertThat(PlainDecimals.of(format(pattern, "en"), pattern)).isEmpty();
    }
}
