package dev.mile.sql.cache;

import dev.mile.engine.DateCount;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * How the dates of a fact are kept: a line for each role, with two numbers for each of its dates, the days since the one before and the
 * rows. Every report reads them, and a fact may have some ten thousand.
 */
final class DatesCodec {
    private DatesCodec() {}

    static List<List<String>> written(List<DateCount> dates) {
        Map<String, List<DateCount>> byRole = new LinkedHashMap<>();
        dates.forEach(date ->
                byRole.computeIfAbsent(date.role(), r -> new ArrayList<>()).add(date));
        List<List<String>> rows = new ArrayList<>();
        byRole.forEach((role, own) -> {
            StringBuilder numbers = new StringBuilder();
            long before = 0;
            for (DateCount date : own) {
                numbers.append(date.day() - before)
                        .append(' ')
                        .append(date.rows())
                        .append(' ');
                before = date.day();
            }
            rows.add(List.of(role, numbers.toString()));
        });
        return rows;
    }

    static List<DateCount> read(List<List<String>> rows) {
        List<DateCount> dates = new ArrayList<>();
        for (List<String> row : rows) {
            String numbers = row.get(1);
            long day = 0;
            for (int at = 0; at < numbers.length(); ) {
                int between = numbers.indexOf(' ', at);
                int end = numbers.indexOf(' ', between + 1);
                day += Long.parseLong(numbers, at, between, 10);
                dates.add(new DateCount(row.get(0), day, Long.parseLong(numbers, between + 1, end, 10)));
                at = end + 1;
            }
        }
        return dates;
    }
}
