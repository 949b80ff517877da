package dev.mile.model;

import dev.mile.ModelException;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.LabelTemplates;
import dev.mile.calendar.Level;
import dev.mile.calendar.PeriodEnd;
import java.nio.file.Path;
import java.time.DayOfWeek;
import java.time.Month;
import java.time.MonthDay;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Reads the calendars of a model file. */
final class CalendarReader {
    private final Path folder;
    private final Locale locale;
    private final DayOfWeek weekStarts;

    CalendarReader(Path folder, Locale locale, DayOfWeek weekStarts) {
        this.folder = folder;
        this.locale = locale;
        this.weekStarts = weekStarts;
    }

    FiscalCalendar read(YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries(
                "year_starts", "weeks", "year_ends", "listed", "begins", "named_for", "extra_week", "labels");
        List<String> rules = List.of("year_starts", "weeks", "listed").stream()
                .filter(keys::containsKey)
                .toList();
        if (rules.size() != 1) {
            throw yaml.error(
                    "the calendar has %s; it takes one rule of the year: year_starts (months), weeks with year_ends, or listed with"
                            + " begins",
                    rules.isEmpty() ? "no rule" : String.join(" and ", rules));
        }
        String rule = rules.get(0);
        rejectKeyUnless(keys, "year_ends", rule.equals("weeks"), "belongs to calendars of weeks");
        rejectKeyUnless(keys, "extra_week", rule.equals("weeks"), "belongs to calendars of weeks");
        rejectKeyUnless(keys, "begins", rule.equals("listed"), "belongs to listed calendars");
        rejectKeyUnless(
                keys,
                "named_for",
                !rule.equals("listed"),
                "does not belong to listed calendars, which number their years");
        FiscalCalendar calendar =
                switch (rule) {
                    case "year_starts" ->
                        keys.get("year_starts").read(CalendarReader::yearStarts).withWeekStart(weekStarts);
                    case "weeks" -> weekBased(yaml, keys);
                    default -> listed(yaml, keys);
                };
        if (keys.containsKey("named_for")) {
            String named = keys.get("named_for").text();
            calendar = switch (named) {
                case "start" -> calendar.namedForStart();
                case "end" -> calendar.namedForEnd();
                default -> throw keys.get("named_for").error("`named_for` is '%s'; expected end or start", named);
            };
        }
        if (keys.containsKey("extra_week")) {
            FiscalCalendar of = calendar;
            calendar = keys.get("extra_week").read(text -> {
                Matcher period =
                        Pattern.compile("(?:period|month)?\\s*(\\d{1,2})").matcher(text.strip());
                if (!period.matches()) {
                    throw ModelException.of("`extra_week` is '%s'; expected `period N`", text);
                }
                return of.withExtraWeekIn(Integer.parseInt(period.group(1)));
            });
        }
        calendar = calendar.withLocale(locale);
        return keys.containsKey("labels") ? calendar.withLabels(labels(keys.get("labels"))) : calendar;
    }

    private static void rejectKeyUnless(Map<String, YamlNode> keys, String key, boolean fits, String why) {
        if (keys.containsKey(key) && !fits) {
            throw keys.get(key).error("`%s` %s; take it away", key, why);
        }
    }

    private static LabelTemplates labels(YamlNode yaml) {
        LabelTemplates labels = LabelTemplates.DEFAULT;
        for (Map.Entry<String, YamlNode> entry : yaml.entries("year", "half", "quarter", "month", "period", "week")
                .entrySet()) {
            Level level = Level.parse(entry.getKey()).orElseThrow();
            LabelTemplates before = labels;
            labels = entry.getValue().read(text -> before.with(level, text));
        }
        return labels;
    }

    private static FiscalCalendar yearStarts(String text) {
        String[] parts = text.strip().split("\\s+");
        Month month = YamlNode.oneOf(Month.values(), parts[0], "month");
        if (parts.length == 1) {
            return FiscalCalendar.startingIn(month);
        }
        if (parts.length > 2 || !parts[1].matches("\\d{1,2}")) {
            throw ModelException.of("`year_starts` is '%s'; expected a month and a day, such as april 6", text);
        }
        return FiscalCalendar.startingOn(month, Integer.parseInt(parts[1]));
    }

    private FiscalCalendar weekBased(YamlNode yaml, Map<String, YamlNode> keys) {
        if (!keys.containsKey("year_ends")) {
            throw yaml.error(
                    "a calendar of weeks needs to know how its year ends: `year_ends: saturday nearest january 31`");
        }
        YamlNode weeks = keys.get("weeks");
        if (weeks.isList() && weeks.list().size() != 12 && weeks.list().size() != 13) {
            throw weeks.error(
                    "`weeks` is a list of %d numbers; expected the weeks of the 12 or 13 periods of a year, or a pattern such as 4-5-4",
                    weeks.list().size());
        }
        String pattern = weeks.isList()
                ? String.join("-", weeks.list().stream().map(YamlNode::text).toList())
                : weeks.text();
        return keys.get("year_ends").read(text -> {
            Matcher nearest =
                    Pattern.compile("(\\w+)\\s+nearest\\s+(\\w+)\\s+(\\d{1,2})").matcher(text.strip());
            Matcher last = Pattern.compile("last\\s+(\\w+)\\s+of\\s+(\\w+)").matcher(text.strip());
            if (nearest.matches()) {
                Month month = YamlNode.oneOf(Month.values(), nearest.group(2), "month");
                int day = Integer.parseInt(nearest.group(3));
                if (day < 1 || day > month.maxLength()) {
                    throw ModelException.of(
                            "`year_ends` is '%s', but %s has days 1 to %d, so that year end never falls",
                            text, nearest.group(2), month.maxLength());
                }
                return FiscalCalendar.weeks(pattern)
                        .endingNearest(
                                YamlNode.oneOf(DayOfWeek.values(), nearest.group(1), "weekday"),
                                MonthDay.of(month, day));
            }
            if (last.matches()) {
                return FiscalCalendar.weeks(pattern)
                        .endingOnLast(
                                YamlNode.oneOf(DayOfWeek.values(), last.group(1), "weekday"),
                                YamlNode.oneOf(Month.values(), last.group(2), "month"));
            }
            throw ModelException.of(
                    "`year_ends` is '%s'; expected `saturday nearest january 31` or `last saturday of january`", text);
        });
    }

    private FiscalCalendar listed(YamlNode yaml, Map<String, YamlNode> keys) {
        if (!keys.containsKey("begins")) {
            throw yaml.error("a listed calendar needs the first day of its first period: `begins: 2022-01-30`");
        }
        List<PeriodEnd> ends = new ArrayList<>();
        for (ModelCsvFile.Line line : ModelCsvFile.read(
                keys.get("listed").file(folder), List.of("end", "year", "period"), List.of("quarter"))) {
            PeriodEnd end = PeriodEnd.of(line.date("end"), line.asInt("year"), line.asInt("period"))
                    .withLocation(line.location());
            ends.add(line.text("quarter").isEmpty() ? end : end.withQuarter(line.asInt("quarter")));
        }
        return FiscalCalendar.listed(keys.get("begins").date(), ends);
    }
}
