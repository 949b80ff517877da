package dev.mile.render.excel;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.dimension.DateDimension;
import dev.mile.dimension.DimensionCheck;
import dev.mile.render.text.DatesTable;
import dev.mile.workday.HolidayDate;
import dev.mile.workday.HolidayRule;
import dev.mile.workday.WorkingWeek;
import java.io.IOException;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DatesWorkbookTest {
    @Test
    void ownWorkbookReadsBackWithoutADifference(@TempDir Path folder) throws IOException {
        DateDimension dimension = DateDimension.over(
                        DateRange.of(LocalDate.parse("2023-05-01"), LocalDate.parse("2024-06-01")))
                .calendar("fiscal", FiscalCalendar.startingIn(Month.APRIL))
                .working(WorkingWeek.named("shops")
                        .rest(DayOfWeek.SUNDAY)
                        .holiday(HolidayRule.of("O'Hara's \"day\"", HolidayDate.parse("may 1")))
                        .specialDay(LocalDate.parse("2024-12-24"), "Half", new BigDecimal("0.5"))
                        .build())
                .build();
        Path book = folder.resolve("d.xlsx");
        try (OutputStream out = Files.newOutputStream(book)) {
            DatesWorkbook.write(DatesTable.all(dimension), out);
        }
        List<List<String>> sheet = WorkbookReader.read(book);
        assertThat(sheet).hasSize(1 + 366 + 365);
        assertThat(DimensionCheck.check(dimension, sheet.get(0), sheet.subList(1, sheet.size())))
                .isEmpty();
    }
}
