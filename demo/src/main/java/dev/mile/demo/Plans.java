package dev.mile.demo;

import java.io.BufferedWriter;
import java.io.IOException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.format.TextStyle;
import java.util.Locale;
import java.util.Random;

/** The yearly budget and the monthly forecast of each shop, and the weekly count of its stock. */
final class Plans {
    private static final long SEED = 707;
    // what an order line brings on average, in cents; found by running the generator
    private static final double LINE = 4_000;
    private static final int FIRST_BUDGET = 2023;
    private static final int LAST_BUDGET = 2027;

    private final double centsOf;

    Plans(int rows) {
        centsOf = rows / Orders.total() * LINE;
    }

    private double expected(Shop shop, LocalDate from, LocalDate to) {
        double sum = 0;
        for (LocalDate day = from; !day.isAfter(to); day = day.plusDays(1)) {
            sum += shop.weight(day);
        }
        return sum * centsOf;
    }

    /** Fiscal years from April to March, by their labels. */
    void budget(BufferedWriter out) throws IOException {
        Random random = new Random(SEED);
        out.write("year,shop,amount\n");
        for (int year = FIRST_BUDGET; year <= LAST_BUDGET; year++) {
            for (Shop shop : Shop.ALL) {
                double sum = expected(shop, LocalDate.of(year - 1, 4, 1), LocalDate.of(year, 3, 31));
                long cents = Math.round(sum * (95 + random.nextInt(14)) / 100 / 10_000) * 10_000 + random.nextInt(100);
                if (sum > 0) {
                    out.write("FY" + year + "," + shop.code() + "," + Cents.text(cents) + "\n");
                }
            }
        }
    }

    void forecast(BufferedWriter out) throws IOException {
        Random random = new Random(SEED + 1);
        out.write("month,shop,amount\n");
        for (YearMonth month = YearMonth.from(DemoDates.AS_OF);
                month.isBefore(YearMonth.of(2027, 4));
                month = month.plusMonths(1)) {
            String label =
                    month.getMonth().getDisplayName(TextStyle.SHORT_STANDALONE, Locale.ENGLISH) + " " + month.getYear();
            for (Shop shop : Shop.ALL) {
                double sum = expected(shop, month.atDay(1), month.atEndOfMonth());
                out.write(label + "," + shop.code() + ","
                        + Cents.text(Math.round(sum * (94 + random.nextInt(13)) / 100)) + "\n");
            }
        }
    }

    /** Counted on Saturdays. */
    void stock(BufferedWriter out) throws IOException {
        Random random = new Random(SEED + 2);
        out.write("date,shop,category,units\n");
        for (LocalDate day = DemoDates.FIRST; !day.isAfter(DemoDates.AS_OF); day = day.plusDays(1)) {
            if (day.getDayOfWeek() != DayOfWeek.SATURDAY) {
                continue;
            }
            for (Shop shop : Shop.ALL) {
                for (Assortment.Category category : Assortment.CATEGORIES) {
                    // shelves are filled a month before the goods sell
                    int ahead = category.byMonth()[day.plusMonths(1).getMonthValue() - 1];
                    int units = shop.size() * (4 + ahead) / 4 + random.nextInt(30);
                    if (!day.isBefore(shop.opened())) {
                        out.write(day + "," + shop.code() + "," + category.name() + "," + units + "\n");
                    }
                }
            }
        }
    }
}
