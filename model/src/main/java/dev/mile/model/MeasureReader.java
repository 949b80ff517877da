package dev.mile.model;

import dev.mile.ModelException;
import dev.mile.measure.Measure;
import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.NumberStyle;
import dev.mile.measure.Target;
import dev.mile.measure.TargetBands;
import java.math.BigDecimal;
import java.text.DecimalFormat;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Reads the measures and targets of a model file. */
final class MeasureReader {
    private final Set<String> lookupNames;

    MeasureReader(Set<String> lookupNames) {
        this.lookupNames = lookupNames;
    }

    private Measure expression(YamlNode yaml) {
        return yaml.read(text -> MeasureLanguage.parse(text, words -> new MeasureParser(words, lookupNames).whole()));
    }

    /** Returns the node of a measure's expression, which may be the whole definition. */
    static YamlNode expressionNode(YamlNode yaml) {
        return yaml.isMap() && yaml.entries().containsKey("is") ? yaml.entries().get("is") : yaml;
    }

    MeasureDefinition measure(String name, YamlNode yaml) {
        if (!yaml.isMap()) {
            return MeasureDefinition.of(name, expression(yaml));
        }
        Map<String, YamlNode> keys = yaml.entries("is", "label", "format", "unit", "scale");
        yaml.require(keys, "is", "is: sum(sales.net_amount)");
        NumberStyle style = new NumberStyle(
                Optional.ofNullable(keys.get("format")).map(y -> y.read(MeasureReader::format)),
                Optional.ofNullable(keys.get("unit")).map(YamlNode::text),
                keys.containsKey("scale") ? keys.get("scale").read(MeasureReader::scale) : NumberStyle.Scale.ONE);
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

    Target target(String name, YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries("measure", "against", "aim", "met", "near");
        yaml.require(keys, "measure", "measure: sales");
        yaml.require(keys, "against", "against: sales_ly");
        TargetBands.Aim aim = keys.containsKey("aim")
                ? keys.get("aim").oneOf(TargetBands.Aim.values(), "target's aim")
                : TargetBands.Aim.HIGH;
        BigDecimal met = keys.containsKey("met") ? keys.get("met").read(MeasureReader::percent) : BigDecimal.ONE;
        BigDecimal near = keys.containsKey("near") ? keys.get("near").read(MeasureReader::percent) : met;
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
}
