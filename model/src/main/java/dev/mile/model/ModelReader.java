package dev.mile.model;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.engine.DataSchema;
import dev.mile.engine.Source;
import dev.mile.engine.Warehouse;
import dev.mile.report.DateBound;
import dev.mile.report.ModelElement;
import dev.mile.report.Project;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Reads a model file (docs/guide.md), section by section. */
final class ModelReader {

    private final Path folder;
    private final HolidayCache holidays;

    ModelReader(Path file, HolidayCache holidays) {
        this.holidays = holidays;
        Path parent = file.toAbsolutePath().getParent();
        this.folder = parent == null ? file.toAbsolutePath() : parent;
    }

    /** What a model file says. */
    record Parsed(Project project, DataSchema schema, Map<String, Warehouse> warehouses) {}

    Parsed read(YamlNode root) {
        Map<String, YamlNode> keys = root.entries(
                "mile",
                "name",
                "as_of",
                "locale",
                "zone",
                "week_starts",
                "calendars",
                "working",
                "dates",
                "warehouses",
                "facts",
                "lookups",
                "events",
                "measures",
                "targets",
                "reports",
                "packs");
        if (!keys.containsKey("mile")) {
            throw root.error(
                    "the file does not say `mile: 1`; begin with it, so that later versions know how to read it");
        }
        if (!keys.get("mile").text().equals("1")) {
            throw keys.get("mile")
                    .error(
                            "this is version '%s' of the model file; this Mile reads version 1",
                            keys.get("mile").text());
        }
        String name = keys.containsKey("name") ? keys.get("name").text() : String.valueOf(folder.getFileName());
        Project.Builder project = Project.named(name);
        if (keys.containsKey("as_of")) {
            project.asOf(keys.get("as_of").date());
        }
        Locale locale = keys.containsKey("locale") ? keys.get("locale").read(ModelReader::locale) : Locale.ENGLISH;
        ZoneId zone = keys.containsKey("zone") ? keys.get("zone").read(ModelReader::zone) : ZoneId.of("UTC");
        DayOfWeek weekStarts = keys.containsKey("week_starts")
                ? keys.get("week_starts").oneOf(DayOfWeek.values(), "weekday")
                : DayOfWeek.MONDAY;
        project.locale(locale).weekStarts(weekStarts);
        CalendarReader calendars = new CalendarReader(folder, locale, weekStarts);
        each(keys, "calendars", (calendar, yaml) -> project.calendar(calendar, calendars.read(yaml)));
        WorkingWeekReader weeks = new WorkingWeekReader(folder, new HolidayFiles(zone, holidays));
        each(keys, "working", (week, yaml) -> project.working(weeks.read(week, yaml)));
        if (keys.containsKey("dates")) {
            Map<String, YamlNode> dates = keys.get("dates").entries("from", "to");
            project.dates(dateBound(dates.get("from")), dateBound(dates.get("to")));
        }
        Map<String, Warehouse> warehouses = new LinkedHashMap<>();
        Map<String, Source> sources = new LinkedHashMap<>();
        SourceReader tables = new SourceReader(folder, locale, warehouses);
        each(keys, "warehouses", (warehouse, yaml) -> warehouses.put(warehouse, tables.warehouse(warehouse, yaml)));
        each(keys, "facts", (fact, yaml) -> {
            project.fact(FactReader.fact(fact, yaml));
            project.location(ModelElement.FACT, fact, yaml.location());
            FactReader.labels(yaml).forEach(project::label);
            sources.put(fact, tables.source(yaml.entries().get("source")));
        });
        each(keys, "lookups", (lookup, yaml) -> {
            project.lookup(FactReader.lookup(lookup, yaml));
            project.location(ModelElement.LOOKUP, lookup, yaml.location());
            FactReader.labels(yaml).forEach((column, label) -> project.label(lookup + "." + column, label));
            sources.put(lookup, tables.source(yaml.entries().get("source")));
        });
        EventReader eventReader = new EventReader(folder);
        each(keys, "events", (events, yaml) -> project.events(eventReader.read(events, yaml)));
        MeasureReader measures = new MeasureReader(section(keys, "lookups").keySet());
        each(keys, "measures", (measure, yaml) -> {
            project.measure(measures.measure(measure, yaml));
            project.location(
                    ModelElement.MEASURE,
                    measure,
                    MeasureReader.expressionNode(yaml).location());
        });
        each(keys, "targets", (target, yaml) -> {
            project.target(measures.target(target, yaml));
            project.location(ModelElement.TARGET, target, yaml.location());
            yaml.words((word, location) -> project.location(ModelElement.TARGET, target, word, location));
        });
        each(keys, "reports", (report, yaml) -> {
            project.report(ReportReader.read(report, yaml));
            project.location(ModelElement.REPORT, report, yaml.location());
            yaml.words((word, location) -> project.location(ModelElement.REPORT, report, word, location));
        });
        each(keys, "packs", (pack, yaml) -> {
            project.pack(ReportReader.pack(pack, yaml));
            project.location(ModelElement.PACK, pack, yaml.location());
            yaml.words((word, location) -> project.location(ModelElement.PACK, pack, word, location));
        });
        checkNames(keys);
        try {
            Project built = project.build();
            return new Parsed(built, built.schema().withSources(sources).withZone(zone), warehouses);
        } catch (MileException e) {
            throw e.withLocation(root.location());
        }
    }

    @FunctionalInterface
    private interface Entry {
        void read(String name, YamlNode yaml);
    }

    private static void each(Map<String, YamlNode> keys, String section, Entry entry) {
        if (!keys.containsKey(section) || keys.get(section).isAbsent()) {
            return;
        }
        keys.get(section).entries().forEach((name, yaml) -> {
            yaml.requireName(name, section);
            try {
                entry.read(name, yaml);
            } catch (MileException e) {
                throw e.withLocation(yaml.location());
            }
        });
    }

    private static void checkNames(Map<String, YamlNode> keys) {
        Map<String, YamlNode> measures = section(keys, "measures");
        section(keys, "targets").forEach((name, yaml) -> {
            if (measures.containsKey(name)) {
                throw yaml.error("'%s' is the name of a measure too; rename the target", name);
            }
        });
        Map<String, YamlNode> facts = section(keys, "facts");
        section(keys, "lookups").forEach((name, yaml) -> {
            if (facts.containsKey(name)) {
                throw yaml.error("'%s' is the name of a fact too; rename the lookup", name);
            }
        });
    }

    private static Map<String, YamlNode> section(Map<String, YamlNode> keys, String name) {
        return keys.containsKey(name) && !keys.get(name).isAbsent()
                ? keys.get(name).entries()
                : Map.of();
    }

    private static Locale locale(String text) {
        Locale locale = Locale.forLanguageTag(text);
        if (!Arrays.asList(Locale.getISOLanguages()).contains(locale.getLanguage())) {
            throw ModelException.of("'%s' is not a language; expected a tag such as en, de, es or ja", text);
        }
        return locale;
    }

    private static ZoneId zone(String text) {
        try {
            return ZoneId.of(text);
        } catch (DateTimeException e) {
            throw ModelException.of("'%s' is not a time zone; expected a name such as UTC or Europe/Berlin", text);
        }
    }

    private static DateBound dateBound(@Nullable YamlNode yaml) {
        if (yaml == null || yaml.isAbsent()) {
            return DateBound.fromFacts();
        }
        if (yaml.isList()) {
            return DateBound.fromFacts(yaml.list().stream().map(YamlNode::text).toList());
        }
        String text = yaml.text();
        if (text.equals("facts")) {
            return DateBound.fromFacts();
        }
        return text.matches("[a-z].*") ? DateBound.fromFacts(List.of(text)) : DateBound.at(yaml.date());
    }
}
