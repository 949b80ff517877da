package dev.mile.model;

import biweekly.util.Recurrence;
import dev.mile.DataException;
import java.util.List;

/** Checks the numbers of a recurrence rule, which the library takes as they come, against their ranges in RFC 5545. */
final class RecurrenceCheck {
    private RecurrenceCheck() {}

    static void check(Recurrence rule, String summary, String file) {
        check("COUNT", one(rule.getCount()), 1, Integer.MAX_VALUE, false, summary, file);
        check("INTERVAL", one(rule.getInterval()), 1, Integer.MAX_VALUE, false, summary, file);
        check("BYMONTH", rule.getByMonth(), 1, 12, false, summary, file);
        check("BYMONTHDAY", rule.getByMonthDay(), 1, 31, true, summary, file);
        check("BYYEARDAY", rule.getByYearDay(), 1, 366, true, summary, file);
        check("BYWEEKNO", rule.getByWeekNo(), 1, 53, true, summary, file);
        check("BYSETPOS", rule.getBySetPos(), 1, 366, true, summary, file);
        check("BYHOUR", rule.getByHour(), 0, 23, false, summary, file);
        check("BYMINUTE", rule.getByMinute(), 0, 59, false, summary, file);
        check("BYSECOND", rule.getBySecond(), 0, 60, false, summary, file);
        rule.getByDay().forEach(day -> check("BYDAY", one(day.getNum()), 1, 53, true, summary, file));
    }

    private static List<Integer> one(Integer value) {
        return value == null ? List.of() : List.of(value);
    }

    private static void check(
            String part, List<Integer> values, int least, int most, boolean negative, String summary, String file) {
        for (Integer value : values) {
            int size = negative && value != Integer.MIN_VALUE ? Math.abs(value) : value;
            if (size < least || size > most) {
                throw DataException.of(
                        "%s: the RRULE of the event '%s' has %s=%d; expected %d to %s%s (RFC 5545)",
                        file,
                        summary,
                        part,
                        value,
                        least,
                        most == Integer.MAX_VALUE ? "more" : Integer.toString(most),
                        negative ? ", or as many from the end with a minus sign" : "");
            }
        }
    }
}
