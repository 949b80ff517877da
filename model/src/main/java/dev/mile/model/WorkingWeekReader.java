package dev.mile.model;

import dev.mile.MileException;
import dev.mile.workday.HolidayDate;
import dev.mile.workday.HolidayObservance;
import dev.mile.workday.HolidayRule;
import dev.mile.workday.WorkingWeek;
import java.nio.file.Path;
import java.time.DayOfWeek;
import java.util.List;
import java.util.Map;

/** Reads the working weeks of a model file, and the files of their holidays. */
final class WorkingWeekReader {
    private final Path folder;
    private final HolidayFiles holidayFiles;

    WorkingWeekReader(Path folder, HolidayFiles holidayFiles) {
        this.folder = folder;
        this.holidayFiles = holidayFiles;
    }

    WorkingWeek read(String name, YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries("rest", "holidays");
        WorkingWeek.Builder week = WorkingWeek.named(name);
        if (keys.containsKey("rest") && !keys.get("rest").isAbsent()) {
            keys.get("rest").list().forEach(day -> week.rest(day.oneOf(DayOfWeek.values(), "weekday")));
        }
        if (keys.containsKey("holidays") && !keys.get("holidays").isAbsent()) {
            for (YamlNode holiday : keys.get("holidays").list()) {
                try {
                    if (holiday.isText()) {
                        holidayFiles.read(holiday.file(folder), week);
                    } else {
                        week.holiday(holiday(holiday));
                    }
                } catch (MileException e) {
                    throw e.withLocation(holiday.location());
                }
            }
        }
        return week.build();
    }

    private static HolidayRule holiday(YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries("name", "on", "moved", "from", "until");
        for (String key : List.of("name", "on")) {
            if (!keys.containsKey(key)) {
                throw yaml.error("the holiday has no `%s`; write {name: New Year, on: january 1}", key);
            }
        }
        HolidayRule rule =
                HolidayRule.of(keys.get("name").text(), keys.get("on").read(HolidayDate::parse));
        if (keys.containsKey("moved")) {
            rule = rule.observed(keys.get("moved").read(HolidayObservance::parse));
        }
        int from = keys.containsKey("from") ? keys.get("from").asInt() : rule.fromYear();
        int until = keys.containsKey("until") ? keys.get("until").asInt() : rule.untilYear();
        return rule.validBetween(from, until);
    }
}
