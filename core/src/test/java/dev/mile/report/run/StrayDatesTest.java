package dev.mile.report.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.TreeMap;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StrayDatesTest {
    @ParameterizedTest(name = "{0}: {1}")
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            1x5 2x5 40x1           | after 2, 1 row from 40    | 38 days, one row
            1x5 2x5 34x1           | after 2, 1 row from 34    | 32 days
            1x5 2x5 33x1           | none                      | 31 days are not enough
            1x500 2x500 40x5 41x4  | after 2, 9 rows from 40   | less than 1 % of the rows
            1x500 2x500 40x6 41x5  | none                      | more than 1 %
            1x495 2x495 40x10      | none                      | just 1 %
            1x495 2x496 40x10      | after 2, 10 rows from 40  | less than 1 %: 10 of 1,001
            1x5 20x5 56x1          | none                      | 36 days are not more than twice 19
            1x5 20x5 59x1          | after 20, 1 row from 59   | 39 days are
            1x5 2x5 40x1 90x1      | none                      | two rows are neither one nor less than 1 % of 12
            5x1                    | none                      | a single day
            ''                     | none                      | no day
            """)
    void aLastGroupThatIsTooSmallAndTooFarSetsNoDate(String rowsByDay, String expected, String why) {
        TreeMap<Integer, Long> rows = new TreeMap<>();
        for (String day : rowsByDay.isEmpty() ? new String[0] : rowsByDay.split(" ")) {
            rows.put(Integer.parseInt(day.split("x")[0]), Long.parseLong(day.split("x")[1]));
        }
        assertThat(StrayDates.behind(rows)
                        .map(s -> "after " + s.lastDayBefore() + ", " + s.rows() + (s.rows() == 1 ? " row" : " rows")
                                + " from " + s.firstDay())
                        .orElse("none"))
                .as(why)
                .isEqualTo(expected);
    }
}
