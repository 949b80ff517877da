package dev.mile.model;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.Level;
import dev.mile.fact.Bands;
import dev.mile.fact.Condition;
import dev.mile.fact.CoveredDays;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.Spread;
import dev.mile.internal.Messages;
import java.math.BigDecimal;
import java.time.LocalTime;
import java.time.format.DateTimeParseException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Reads the facts and lookups of a model file. */
final class FactReader {
    private FactReader() {}

    private static Map<String, String> texts(YamlNode yaml) {
        Map<String, String> texts = new LinkedHashMap<>();
        if (yaml != null && !yaml.isAbsent()) {
            yaml.entries().forEach((key, value) -> texts.put(key, value.text()));
        }
        return texts;
    }

    static Fact fact(String name, YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries(
                "source",
                "dates",
                "links",
                "keep",
                "day_starts",
                "grain",
                "spread",
                "plan",
                "covers",
                "columns",
                "bands",
                "labels");
        yaml.require(keys, "source", "source: " + name + ".csv");
        yaml.require(keys, "dates", "dates: {ordered: order_date}");
        Optional<Condition> keep = Optional.ofNullable(keys.get("keep")).map(y -> y.read(FactReader::condition));
        LocalTime dayStarts =
                keys.containsKey("day_starts") ? keys.get("day_starts").read(FactReader::time) : LocalTime.MIDNIGHT;
        Optional<Grain> grain = Optional.ofNullable(keys.get("grain")).map(y -> y.read(FactReader::grain));
        Spread spread = keys.containsKey("spread") ? keys.get("spread").read(FactReader::spread) : Spread.DAYS;
        if (keys.containsKey("spread") && grain.isEmpty()) {
            throw keys.get("spread")
                    .error("`spread` deals out the amounts of whole periods; say which with `grain: month`");
        }
        boolean plan = keys.containsKey("plan") && keys.get("plan").asBoolean();
        CoveredDays covers = keys.containsKey("covers") ? covers(keys.get("covers")) : CoveredDays.OF_ROWS;
        Fact fact = new Fact(
                name,
                texts(keys.get("dates")),
                texts(keys.get("links")),
                keep,
                dayStarts,
                grain,
                spread,
                plan,
                covers,
                Map.of());
        return withBands(withColumns(fact, keys.get("columns")), keys.get("bands"));
    }

    /** Reads how people read the columns of a fact or lookup. */
    static Map<String, String> labels(YamlNode yaml) {
        return texts(yaml.entries().get("labels"));
    }

    private static Fact withColumns(Fact fact, @Nullable YamlNode yaml) {
        Fact all = fact;
        if (yaml != null && !yaml.isAbsent()) {
            for (Map.Entry<String, YamlNode> column : yaml.entries().entrySet()) {
                column.getValue().requireName(column.getKey(), "columns");
                all = all.withColumn(column.getKey(), expression(fact, column.getValue()));
            }
        }
        return all;
    }

    private static Fact withBands(Fact fact, @Nullable YamlNode yaml) {
        Fact all = fact;
        if (yaml != null && !yaml.isAbsent()) {
            for (Map.Entry<String, YamlNode> column : yaml.entries().entrySet()) {
                YamlNode bands = column.getValue();
                bands.requireName(column.getKey(), "bands");
                Map<String, YamlNode> keys = bands.entries("of", "edges");
                bands.require(keys, "of", "of: service");
                bands.require(keys, "edges", "edges: [1, 3, 5]");
                try {
                    List<BigDecimal> edges = keys.get("edges").list().stream()
                            .map(FactReader::edge)
                            .toList();
                    all = all.withBands(column.getKey(), expression(fact, keys.get("of")), new Bands(edges));
                } catch (ModelException e) {
                    throw e.withLocation(bands.location());
                }
            }
        }
        return all;
    }

    private static BigDecimal edge(YamlNode yaml) {
        String text = yaml.text();
        if (!text.matches("-?[0-9]{1,18}(\\.[0-9]{1,18})?")) {
            throw yaml.error(
                    "'%s' is not an edge; expected a plain number, such as 1 or 2.5, in edges: [1, 2.5, 5]", text);
        }
        return new BigDecimal(text);
    }

    private static RowExpression expression(Fact fact, YamlNode yaml) {
        return yaml.read(
                text -> MeasureLanguage.parse(text, words -> MeasureLanguage.rowExpression(words, fact.name())));
    }

    private static CoveredDays covers(YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries("from", "until");
        try {
            return new CoveredDays(
                    Optional.ofNullable(keys.get("from")).map(YamlNode::date),
                    Optional.ofNullable(keys.get("until")).map(YamlNode::date));
        } catch (MileException e) {
            throw e.withLocation(yaml.location());
        }
    }

    static Condition condition(String text) {
        return MeasureLanguage.parse(text, words -> {
            Condition condition = new ConditionParser(words).condition();
            if (words.peek().kind() != Token.Kind.END) {
                throw words.unexpected("and, or, or the end");
            }
            return condition;
        });
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

    static Lookup lookup(String name, YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries("source", "key", "links", "covers", "labels");
        yaml.require(keys, "source", "source: " + name + ".csv");
        yaml.require(keys, "key", "key: id");
        Lookup lookup = new Lookup(name, keys.get("key").text(), texts(keys.get("links")));
        if (!keys.containsKey("covers")) {
            return lookup;
        }
        Map<String, YamlNode> covers = keys.get("covers").entries("from", "until");
        return lookup.withMemberDays(new Lookup.MemberDays(
                Optional.ofNullable(covers.get("from")).map(YamlNode::text),
                Optional.ofNullable(covers.get("until")).map(YamlNode::text)));
    }
}
