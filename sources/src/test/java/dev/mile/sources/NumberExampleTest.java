package dev.mile.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.ModelException;
import java.math.BigDecimal;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class NumberExampleTest {
    @ParameterizedTest(name = "{0}: {1} is {2}")
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            1.234,56     | 1.234,56        | 1234.56
            1.234,56     | 0,5             | 0.5
            1.234,56     | ,5              | 0.5
            1.234,56     | 12.345.678      | 12345678
            1.234,56     | 1.048           | 1048
            1.234,56     | 1234,5          | 1234.5
            1.234,56     | -1.234,56       | -1234.56
            1.234,56     | 1.234,56-       | -1234.56
            1.234,56     | \u22121.234,56  | -1234.56
            1.234,56     | (1.234,56)      | -1234.56
            1.234,56     | +7              | 7
            1.234,56     | \u20ac 1.234,56 | 1234.56
            1.234,56     | 1.234,56 EUR    | 1234.56
            1.234,56     | -\u20ac1,00     | -1.00
            1.234,56     | (1,00 \u20ac)   | -1.00
            1.234,56     | 12,5 %          | 0.125
            1.234,56     | 1.23            | none
            1.234,56     | 1,234.56        | none
            1.234,56     | 12.34,5         | none
            1.234,56     | 1,2,3           | none
            1.234,56     | 5,              | none
            1.234,56     | A7              | none
            1.234,56     | 7 Stck          | none
            1.234,56     | --7             | none
            1.234,56     | (-7)            | none
            1,234.50     | $1,234.50       | 1234.50
            1,234.50     | USD 1,234       | 1234
            1'234.50     | 1'234.50        | 1234.50
            1'234.50     | 1\u20192345     | none
            1'234.50     | 1\u2019234.5    | 1234.5
            1'234.50     | Fr. 12.00       | 12.00
            1'234.50     | Fr.12.00        | 12.00
            1 234,50     | 1\u00a0234,50   | 1234.50
            1 234,50     | 1\u202f234,5 \u20ac | 1234.5
            12,34,567.00 | 12,34,567.00    | 1234567.00
            12,34,567.00 | 1,234.5         | 1234.5
            1,234.50     | 12,34,567.00    | none
            1.234.567    | 1.234,5         | 1234.5
            1234,5       | 0,25            | 0.25
            1234,5       | 1.234,5         | none
            0,234        | 1,048           | 1.048
            1 234        | 12 345          | 12345
            1 234        | 1 234,5         | none
            1234         | 17              | 17
            1234         | 17.5            | none
            """)
    void numbersAreReadLikeTheExample(String example, String text, String number) {
        assertThat(NumberExample.of(example)
                        .read(text)
                        .map(BigDecimal::toPlainString)
                        .orElse("none"))
                .isEqualTo(number);
    }

    @Test
    void whatCouldBeReadInTwoWaysIsRefused() {
        assertThatThrownBy(() -> NumberExample.of("1,234"))
                .isInstanceOf(ModelException.class)
                .hasMessage(
                        "the example '1,234' can be read in two ways, as 1234 and as 1.234; copy a number that tells, such as '1,234.50'"
                                + " or '1234,5'");
        assertThatThrownBy(() -> NumberExample.of("- 12.345 \u20ac")).hasMessageContaining("as 12345 and as 12.345");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {"abc", "''", "1,23.45.6", "12.34.5", "1.2,3.4", "7 apples"})
    void whatIsNoNumberIsRefused(String example) {
        assertThatThrownBy(() -> NumberExample.of(example)).hasMessageContaining("is not an example of a number");
    }

    /** The short way takes nothing that the long way does not take, and makes the same of it. */
    @ParameterizedTest
    @ValueSource(strings = {"1.234,56", "1,234.56", "1'234.56", "1 234,56", "12,34,567.89", "1234,5", "7"})
    void theShortWayReadsAlike(String text) {
        NumberExample example = NumberExample.of(text);
        String signs = "0123456789.,'- ";
        Random random = new Random(text.hashCode());
        int read = 0;
        for (int i = 0; i < 100_000; i++) {
            StringBuilder value = new StringBuilder();
            int length = 1 + random.nextInt(9);
            for (int c = 0; c < length; c++) {
                // mostly digits, so that some are numbers
                value.append(signs.charAt(random.nextInt(random.nextInt(3) == 0 ? signs.length() : 10)));
            }
            Optional<BigDecimal> number = example.read(value.toString());
            Optional<String> plain = example.plain(value.toString());
            assertThat(plain.map(BigDecimal::new)).as(value.toString()).isEqualTo(number);
            read += plain.isPresent() ? 1 : 0;
        }
        assertThat(read).isGreaterThan(1_000);
    }
}
