package dev.mile.model;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.LabelTemplates;
import dev.mile.calendar.Level;
import dev.mile.calendar.PeriodEnd;
import dev.mile.dimension.Event;
import dev.mile.dimension.EventColumn;
import dev.mile.engine.DataSchema;
import dev.mile.engine.Source;
import dev.mile.engine.Warehouse;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Lookup;
import dev.mile.fact.Spread;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.NumberStyle;
import dev.mile.measure.Target;
import dev.mile.measure.TargetBands;
import dev.mile.report.Chart;
import dev.mile.report.DateBound;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.workday.HolidayDate;
import dev.mile.workday.HolidayObservance;
import dev.mile.workday.HolidayRule;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.text.DecimalFormat;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalTime;
import java.time.Month;
import java.time.MonthDay;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Reads a model file (docs/guide.md), node by node. Not for use by several threads. */
final class ModelReader {
    private static final String NAME = "[a-z][a-z0-9_]*";

    private final Path folder;
    private final Map<String, Source> sources = new LinkedHashMap<>();
    private final Map<String, Warehouse> warehouses = new LinkedHashMap<>();
    private ZoneId zone = ZoneId.of("UTC");
    private Locale locale = Locale.ENGLISH;
    private DayOfWeek weekStarts = DayOfWeek.MONDAY;
    private Set<String> lookupNames = Set.of();

    /** Seconds that a statement in a warehouse may take, unless the model says otherwise. */
    ModelReader(Path file) {
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
                "reports");
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
        if (keys.containsKey("locale")) {
            locale = keys.get("locale").read(ModelReader::locale);
        }
        if (keys.containsKey("zone")) {
            zone = keys.get("zone").read(ModelReader::zone);
        }
        if (keys.containsKey("week_starts")) {
            weekStarts = keys.get("week_starts").read(text -> named(DayOfWeek.values(), text, "weekday"));
        }
        project.locale(locale).weekStarts(weekStarts);
        each(keys, "calendars", (calendar, yaml) -> project.calendar(calendar, calendar(yaml)));
        each(keys, "working", (week, yaml) -> project.working(working(week, yaml)));
        if (keys.containsKey("dates")) {
            Map<String, YamlNode> dates = keys.get("dates").entries("from", "to");
            project.dates(dateBound(dates.get("from")), dateBound(dates.get("to")));
        }
        lookupNames =
                keys.containsKey("lookups") ? keys.get("lookups").entries().keySet() : Set.of();
        each(keys, "warehouses", (warehouse, yaml) -> warehouses.put(warehouse, warehouse(warehouse, yaml)));
        each(keys, "facts", (fact, yaml) -> project.fact(fact(fact, yaml)));
        each(keys, "lookups", (lookup, yaml) -> project.lookup(lookup(lookup, yaml)));
        each(keys, "events", (events, yaml) -> project.events(events(events, yaml)));
        each(keys, "measures", (measure, yaml) -> {
            project.measure(measure(measure, yaml));
            project.location(
                    Project.Element.MEASURE, measure, expressionNode(yaml).location());
        });
        each(keys, "targets", (target, yaml) -> {
            project.target(target(target, yaml));
            project.location(Project.Element.TARGET, target, yaml.location());
        });
        each(keys, "reports", (report, yaml) -> {
            project.report(report(report, yaml));
            project.location(Project.Element.REPORT, report, yaml.location());
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
            if (!name.matches(NAME)) {
                throw yaml.error(
                        "'%s' cannot be a name in `%s`; names are of small letters, digits and _, and begin with a letter",
                        name, section);
            }
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

    private static <E extends Enum<E>> E named(E[] values, String text, String noun) {
        for (E value : values) {
            if (value.name().equalsIgnoreCase(text.strip())) {
                return value;
            }
        }
        List<String> known = Arrays.stream(values)
                .map(v -> v.name().toLowerCase(Locale.ROOT))
                .toList();
        throw ModelException.of("'%s' is not a %s%s", text, noun, Messages.didYouMean(text, known));
    }

    private Path file(YamlNode yaml) {
        return folder.resolve(yaml.text());
    }

    // ---- calendars

    private FiscalCalendar calendar(YamlNode yaml) {
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
                        keys.get("year_starts").read(ModelReader::yearStarts).withWeekStart(weekStarts);
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
            LabelTemplates so = labels;
            labels = entry.getValue().read(text -> so.with(level, text));
        }
        return labels;
    }

    private static FiscalCalendar yearStarts(String text) {
        String[] parts = text.strip().split("\\s+");
        Month month = named(Month.values(), parts[0], "month");
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
        String pattern = weeks.isList()
                ? String.join("-", weeks.list().stream().map(YamlNode::text).toList())
                : weeks.text();
        return keys.get("year_ends").read(text -> {
            Matcher nearest =
                    Pattern.compile("(\\w+)\\s+nearest\\s+(\\w+)\\s+(\\d{1,2})").matcher(text.strip());
            Matcher last = Pattern.compile("last\\s+(\\w+)\\s+of\\s+(\\w+)").matcher(text.strip());
            if (nearest.matches()) {
                Month month = named(Month.values(), nearest.group(2), "month");
                int day = Integer.parseInt(nearest.group(3));
                if (day < 1 || day > month.maxLength()) {
                    throw ModelException.of(
                            "`year_ends` is '%s', but %s has days 1 to %d, so that year end never falls",
                            text, nearest.group(2), month.maxLength());
                }
                return FiscalCalendar.weeks(pattern)
                        .endingNearest(named(DayOfWeek.values(), nearest.group(1), "weekday"), MonthDay.of(month, day));
            }
            if (last.matches()) {
                return FiscalCalendar.weeks(pattern)
                        .endingOnLast(
                                named(DayOfWeek.values(), last.group(1), "weekday"),
                                named(Month.values(), last.group(2), "month"));
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
        for (ModelCsvFile.Line line :
                ModelCsvFile.read(file(keys.get("listed")), List.of("end", "year", "period"), List.of("quarter"))) {
            PeriodEnd end = PeriodEnd.of(line.date("end"), line.asInt("year"), line.asInt("period"))
                    .withLocation(line.location());
            ends.add(line.text("quarter").isEmpty() ? end : end.withQuarter(line.asInt("quarter")));
        }
        return FiscalCalendar.listed(keys.get("begins").date(), ends);
    }

    // ---- working time

    private WorkingWeek working(String name, YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries("rest", "holidays");
        WorkingWeek.Builder week = WorkingWeek.named(name);
        if (keys.containsKey("rest") && !keys.get("rest").isAbsent()) {
            keys.get("rest")
                    .list()
                    .forEach(day -> week.rest(day.<DayOfWeek>read(text -> named(DayOfWeek.values(), text, "weekday"))));
        }
        if (keys.containsKey("holidays") && !keys.get("holidays").isAbsent()) {
            for (YamlNode holiday : keys.get("holidays").list()) {
                try {
                    if (holiday.isText()) {
                        new HolidayFiles(zone).read(file(holiday), week);
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

    // ---- facts

    private Source source(YamlNode yaml) {
        if (yaml.isMap()) {
            Map<String, YamlNode> keys = yaml.entries("table", "in");
            if (!keys.containsKey("table") || !keys.containsKey("in")) {
                throw yaml.error("a table is named with its connection: {table: sales, in: warehouse}");
            }
            String in = keys.get("in").text();
            if (!warehouses.containsKey(in)) {
                throw keys.get("in")
                        .error("unknown warehouse '%s'%s", in, Messages.didYouMean(in, warehouses.keySet()));
            }
            return Source.table(keys.get("table").text(), in).withLocation(yaml.location());
        }
        return Source.files(folder.resolve(yaml.text()).toString()).withLocation(yaml.location());
    }

    private Warehouse warehouse(String name, YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries("url", "user", "password_variable", "password_file", "timeout");
        require(yaml, keys, "url", "url: jdbc:postgresql://localhost/sales");
        String url = keys.get("url").text();
        if (!url.matches("jdbc:[a-z0-9]+:.+")) {
            throw keys.get("url").error("'%s' is no JDBC url; expected one such as jdbc:postgresql://HOST/NAME", url);
        }
        // behind the place that is named come settings, each database with a sign of its own, or user:password before
        // it
        if (url.matches("(?i).*[?&;,(]\\s*(password|pwd)\\s*=.*|[^?;]*//[^/@]*:[^/@]*@.*")) {
            throw keys.get("url")
                    .error("the url holds a password; put it into a variable and write `password_variable: NAME`");
        }
        Warehouse warehouse = Warehouse.of(name, url).withLocation(yaml.location());
        if (keys.containsKey("user")) {
            warehouse = warehouse.withUser(keys.get("user").text());
        }
        if (keys.containsKey("password_variable")) {
            warehouse = warehouse.withPassword(new Warehouse.PasswordSource.Variable(
                    keys.get("password_variable").text()));
        } else if (keys.containsKey("password_file")) {
            String file = folder.resolve(keys.get("password_file").text()).toString();
            warehouse = warehouse.withPassword(new Warehouse.PasswordSource.FirstLine(file));
        }
        return keys.containsKey("timeout")
                ? warehouse.withTimeout(Duration.ofSeconds(keys.get("timeout").asInt()))
                : warehouse;
    }

    private static Map<String, String> texts(YamlNode yaml) {
        Map<String, String> texts = new LinkedHashMap<>();
        if (yaml != null && !yaml.isAbsent()) {
            yaml.entries().forEach((key, value) -> texts.put(key, value.text()));
        }
        return texts;
    }

    private Fact fact(String name, YamlNode yaml) {
        Map<String, YamlNode> keys =
                yaml.entries("source", "dates", "links", "keep", "day_starts", "grain", "spread", "plan");
        require(yaml, keys, "source", "source: " + name + ".csv");
        require(yaml, keys, "dates", "dates: {ordered: order_date}");
        sources.put(name, source(keys.get("source")));
        Optional<Condition> keep = Optional.ofNullable(keys.get("keep")).map(y -> y.read(ModelReader::condition));
        LocalTime dayStarts =
                keys.containsKey("day_starts") ? keys.get("day_starts").read(ModelReader::time) : LocalTime.MIDNIGHT;
        Optional<Grain> grain = Optional.ofNullable(keys.get("grain")).map(y -> y.read(ModelReader::grain));
        Spread spread = keys.containsKey("spread") ? keys.get("spread").read(ModelReader::spread) : Spread.DAYS;
        if (keys.containsKey("spread") && grain.isEmpty()) {
            throw keys.get("spread")
                    .error("`spread` deals out the amounts of whole periods; say which with `grain: month`");
        }
        boolean plan = keys.containsKey("plan") && keys.get("plan").asBoolean();
        return new Fact(name, texts(keys.get("dates")), texts(keys.get("links")), keep, dayStarts, grain, spread, plan);
    }

    private static Condition condition(String text) {
        return MeasureLanguage.parse(text, words -> {
            Condition condition = new ConditionParser(words).condition();
            if (words.peek().kind() != Token.Kind.END) {
                throw words.unexpected("and, or, or the end");
            }
            return condition;
        });
    }

    private static void require(YamlNode yaml, Map<String, YamlNode> keys, String key, String example) {
        if (!keys.containsKey(key)) {
            throw yaml.error("`%s` is missing; write `%s`", key, example);
        }
    }

    private static LocalTime time(String text) {
        try {
            return LocalTime.parse(text);
        } catch (DateTimeParseException e) {
            throw ModelException.of("'%s' is not a time of day; expected hours and minutes, such as 04:00", text);
        }
    }

    private static Grain grain(String text) {
        String[] parts = text.strip().split("\\s+in\\s+");
        Level level = Level.parse(parts[0])
                .orElseThrow(() -> ModelException.of(
                        "'%s' is not a level%s",
                        parts[0],
                        Messages.didYouMean(parts[0], List.of("year", "half", "quarter", "month", "week", "day"))));
        return parts.length > 1 ? Grain.of(level).withCalendar(parts[1]) : Grain.of(level);
    }

    private static Spread spread(String text) {
        String words = text.strip();
        if (words.equals("days")) {
            return Spread.DAYS;
        }
        Matcher working = Pattern.compile("working days(?: of (\\w+))?").matcher(words);
        if (working.matches()) {
            return working.group(1) == null ? Spread.WORKING_DAYS : Spread.workingDays(working.group(1));
        }
        Matcher like = Pattern.compile("like (\\w+)\\.(.+)").matcher(words);
        if (like.matches()) {
            return Spread.like(like.group(1), like.group(2));
        }
        throw ModelException.of(
                "'%s' is not a way to spread; expected days, working days, or like sales.net_amount", text);
    }

    private Lookup lookup(String name, YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries("source", "key", "links");
        require(yaml, keys, "source", "source: " + name + ".csv");
        require(yaml, keys, "key", "key: id");
        sources.put(name, source(keys.get("source")));
        return new Lookup(name, keys.get("key").text(), texts(keys.get("links")));
    }

    private EventColumn events(String name, YamlNode yaml) {
        boolean keepFirst = false;
        YamlNode source = yaml;
        if (yaml.isMap()) {
            Map<String, YamlNode> keys = yaml.entries("source", "overlap");
            require(yaml, keys, "source", "source: promotions.csv");
            source = keys.get("source");
            if (keys.containsKey("overlap")) {
                String overlap = keys.get("overlap").text();
                if (!overlap.equals("keep first")) {
                    throw keys.get("overlap")
                            .error("`overlap` is '%s'; expected `keep first`, or nothing for an error", overlap);
                }
                keepFirst = true;
            }
        }
        List<Event> events = new ArrayList<>();
        for (ModelCsvFile.Line line : ModelCsvFile.read(file(source), List.of("from", "to", "label"), List.of())) {
            DateRange days = DateRange.of(line.date("from"), line.date("to"));
            if (days.isEmpty()) {
                throw DataException.of(
                                "the event '%s' is from %s to %s; its first day comes after its last",
                                line.text("label"), line.text("from"), line.text("to"))
                        .withLocation(line.location());
            }
            events.add(Event.of(days, line.text("label")).withLocation(line.location()));
        }
        return keepFirst ? EventColumn.ofOverlapping(name, events) : EventColumn.of(name, events);
    }

    // ---- measures and reports

    private Measure expression(YamlNode yaml) {
        return yaml.read(text -> MeasureLanguage.parse(text, words -> new MeasureParser(words, lookupNames).whole()));
    }

    /** Returns where the expression of a measure stands: it may be all that is said of it. */
    private static YamlNode expressionNode(YamlNode yaml) {
        return yaml.isMap() && yaml.entries().containsKey("is") ? yaml.entries().get("is") : yaml;
    }

    private MeasureDefinition measure(String name, YamlNode yaml) {
        if (!yaml.isMap()) {
            return MeasureDefinition.of(name, expression(yaml));
        }
        Map<String, YamlNode> keys = yaml.entries("is", "label", "format", "unit", "scale");
        require(yaml, keys, "is", "is: sum(sales.net_amount)");
        NumberStyle style = new NumberStyle(
                Optional.ofNullable(keys.get("format")).map(y -> y.read(ModelReader::format)),
                Optional.ofNullable(keys.get("unit")).map(YamlNode::text),
                keys.containsKey("scale") ? keys.get("scale").read(ModelReader::scale) : NumberStyle.Scale.ONE);
        return new MeasureDefinition(
                name,
                expression(keys.get("is")),
                Optional.ofNullable(keys.get("label")).map(YamlNode::text),
                style);
    }

    private static NumberStyle.Scale scale(String word) {
        return switch (word.strip()) {
            case "thousand" -> NumberStyle.Scale.THOUSAND;
            case "million" -> NumberStyle.Scale.MILLION;
            default -> throw ModelException.of("'%s' is not a scale; expected thousand or million", word);
        };
    }

    private static String format(String pattern) {
        try {
            new DecimalFormat(pattern);
            return pattern;
        } catch (IllegalArgumentException e) {
            throw ModelException.of(
                    "'%s' is not a number format; expected a decimal pattern such as #,##0.00 or 0.0%%", pattern);
        }
    }

    private Target target(String name, YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries("measure", "against", "aim", "met", "near");
        require(yaml, keys, "measure", "measure: sales");
        require(yaml, keys, "against", "against: sales_ly");
        TargetBands.Aim aim = keys.containsKey("aim")
                ? keys.get("aim").read(text -> named(TargetBands.Aim.values(), text, "target's aim"))
                : TargetBands.Aim.HIGH;
        BigDecimal met = keys.containsKey("met") ? keys.get("met").read(ModelReader::percent) : BigDecimal.ONE;
        BigDecimal near = keys.containsKey("near") ? keys.get("near").read(ModelReader::percent) : met;
        return new Target(
                name, keys.get("measure").text(), expression(keys.get("against")), new TargetBands(aim, met, near));
    }

    private static BigDecimal percent(String text) {
        Matcher percent = Pattern.compile("(-?\\d+(?:\\.\\d+)?)\\s*%").matcher(text.strip());
        if (!percent.matches()) {
            throw ModelException.of("'%s' is not a share of the goal; expected a percentage such as 105%%", text);
        }
        return new BigDecimal(percent.group(1)).movePointLeft(2);
    }

    private Report report(String name, YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries(
                "title",
                "rows",
                "columns",
                "show",
                "where",
                "when",
                "calendar",
                "totals",
                "sort",
                "top",
                "keep_empty",
                "bars",
                "chart");
        require(yaml, keys, "show", "show: [sales]");
        Report report = Report.of(name, List.of(), names(keys.get("show")))
                .withRows(axes(keys.get("rows")))
                .withColumns(axes(keys.get("columns")))
                .withTotals(!keys.containsKey("totals") || keys.get("totals").asBoolean())
                .withEmptyRows(
                        keys.containsKey("keep_empty") && keys.get("keep_empty").asBoolean())
                .withBars(keys.containsKey("bars") ? names(keys.get("bars")) : List.of());
        report = changed(report, keys.get("title"), (r, y) -> r.withTitle(y.text()));
        report = changed(report, keys.get("where"), (r, y) -> r.withWhere(y.read(ModelReader::condition)));
        report = changed(report, keys.get("when"), (r, y) -> r.withWhen(y.read(ReportSyntax::when)));
        report = changed(report, keys.get("calendar"), (r, y) -> r.withCalendar(y.text()));
        report = changed(report, keys.get("sort"), (r, y) -> r.withSort(y.read(ReportSyntax::sort)));
        report = changed(report, keys.get("top"), (r, y) -> r.withTop(y.read(ReportSyntax::top)));
        return changed(report, keys.get("chart"), (r, y) -> r.withChart(chart(y)));
    }

    private static Report changed(Report report, @Nullable YamlNode yaml, BiFunction<Report, YamlNode, Report> change) {
        return yaml == null ? report : change.apply(report, yaml);
    }

    private static List<String> names(YamlNode yaml) {
        return yaml.list().stream().map(YamlNode::text).toList();
    }

    private static Chart chart(YamlNode yaml) {
        if (!yaml.isMap()) {
            return new Chart(yaml.read(Chart.Kind::parse), List.of());
        }
        Map<String, YamlNode> keys = yaml.entries("kind", "show");
        require(yaml, keys, "kind", "kind: lines");
        return new Chart(
                keys.get("kind").read(Chart.Kind::parse),
                keys.containsKey("show") ? names(keys.get("show")) : List.of());
    }

    private static List<Report.AxisSpec> axes(@Nullable YamlNode yaml) {
        List<Report.AxisSpec> axes = new ArrayList<>();
        if (yaml == null || yaml.isAbsent()) {
            return axes;
        }
        if (yaml.isMap()) {
            axes.add(recent(yaml));
            return axes;
        }
        for (YamlNode axis : yaml.list()) {
            axes.add(axis.isMap() ? recent(axis) : new Report.NamedAxis(axis.text()));
        }
        return axes;
    }

    private static Report.AxisSpec recent(YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries("when");
        require(yaml, keys, "when", "when: [today, last 7 days]");
        return new Report.RecentPeriods(keys.get("when").list().stream()
                .map(y -> y.read(MeasureLanguage::span))
                .toList());
    }
}
