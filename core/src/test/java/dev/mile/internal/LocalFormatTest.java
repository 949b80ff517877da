package dev.mile.internal;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Locale;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LocalFormatTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            en    | 2026-04-01   | 1,234,567.5 | -1234.50 | 2,000 rows
            en-GB | 1 Apr 2026   | 1,234,567.5 | -1234.50 | 2,000 rows
            en-US | Apr 1, 2026  | 1,234,567.5 | -1234.50 | 2,000 rows
            de    | 01.04.2026   | 1.234.567,5 | -1234,50 | 2.000 rows
            de-CH | 01.04.2026   | 1’234’567.5 | -1234.50 | 2’000 rows
            es    | 1 abr 2026   | 1.234.567,5 | -1234,50 | 2.000 rows
            ja    | 2026/04/01   | 1,234,567.5 | -1234.50 | 2,000 rows
            """)
    void datesAndNumbersAreWrittenAsTheLanguageDoes(
            String language, String date, String grouped, String exact, String rows) {
        LocalFormat local = LocalFormat.of(Locale.forLanguageTag(language));
        LocalDate day = LocalDate.of(2026, 4, 1);
        assertThat(local.date(day)).isEqualTo(date);
        assertThat(local.range(day, day)).isEqualTo(date + " to " + date);
        assertThat(local.numbers("#,##0.0").format(new BigDecimal("1234567.5"))).isEqualTo(grouped);
        assertThat(local.exact(new BigDecimal("-1234.50"))).isEqualTo(exact);
        assertThat(local.quantity(2_000, "row")).isEqualTo(rows);
        assertThat(local.quantity(1, "row")).isEqualTo("1 row");
    }
}
