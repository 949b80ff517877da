package dev.mile.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.ModelException;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DateExampleTest {
    @ParameterizedTest(name = "{1}: {2} is {3}")
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            en | 31.12.2025        | 31.12.2025             | 2025-12-31
            en | 31.12.2025        | 3.4.2025               | 2025-04-03
            en | 31.12.2025        | 31.12.2025 14:30       | 2025-12-31T14:30:00
            en | 31.12.2025        | 31.12.25               | none
            en | 31.12.2025        | 12/31/2025             | none
            en | 31.12.2025        | 31.02.2025             | none
            en | 31.12.25          | 01.02.69               | 2069-02-01
            en | 31.12.25          | 01.02.70               | 1970-02-01
            en | 12/31/25          | 1/2/26                 | 2026-01-02
            en | 12/31/2025 2:30 PM | 1/2/2026 12:05 AM     | 2026-01-02T00:05:00
            en | 12/31/2025 2:30 PM | 1/2/2026 12:05 p.m.   | 2026-01-02T12:05:00
            en | 12/31/2025 2:30 PM | 1/2/2026 13:05 PM     | none
            en | 2025/12/31        | 2026/1/2               | 2026-01-02
            en | 20251231          | 20260102               | 2026-01-02
            en | 2025-12-31T23:59:59Z | 2026-01-02T00:30:00.5+02:00 | 2026-01-02T00:30:00.5+02:00
            en | Dec 31, 2025      | January 2, 2026        | 2026-01-02
            en | Dec 31, 2025      | Jan 2, 2026, 7:15 am   | 2026-01-02T07:15:00
            en | 31-Dec-2025       | 2-SEP-2026             | 2026-09-02
            de | 31. Dezember 2025 | 2. M\u00e4rz 2026      | 2026-03-02
            de | 31. Dez. 2025     | 2. Mai 2026            | 2026-05-02
            de | 31. Dez. 2025     | 2. May 2026            | none
            es | 31 de diciembre de 2025 | 2 de enero de 2026 | 2026-01-02
            en | epoch seconds     | 1767225599             | 2025-12-31T23:59:59Z
            en | epoch seconds     | 1767225600             | 2026-01-01T00:00:00Z
            en | epoch milliseconds | 1767225599500         | 2025-12-31T23:59:59.500Z
            en | epoch seconds     | 2025                   | 1970-01-01T00:33:45Z
            en | epoch seconds     | 31.12.2025             | none
            """)
    void datesAreReadLikeTheExample(String language, String example, String text, String date) {
        Locale locale = Locale.forLanguageTag(language);
        assertThat(DateExample.of(example, locale).read(text).orElse("none")).isEqualTo(date);
    }

    @Test
    void whatCouldBeReadInTwoWaysIsRefusedWithADateThatTells() {
        assertThatThrownBy(() -> DateExample.of("03/04/2025", Locale.ENGLISH))
                .isInstanceOf(ModelException.class)
                .hasMessage(
                        "the example '03/04/2025' can be read in two ways, as day, then month, then year and as month, then day, then"
                                + " year; copy a date that tells, such as '31/12/2025' or '12/31/2025'");
        assertThatThrownBy(() -> DateExample.of("25-11-30", Locale.ENGLISH))
                .hasMessageContaining("such as '31-12-99' or '99-12-31'");
    }

    @ParameterizedTest
    @CsvSource({"13/13/2025", "soon", "2025", "12:30", "1.2.3.4"})
    void whatIsNoDateIsRefused(String example) {
        assertThatThrownBy(() -> DateExample.of(example, Locale.ENGLISH))
                .hasMessageContaining("is not an example of a date");
    }
}
