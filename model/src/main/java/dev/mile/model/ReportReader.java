package dev.mile.model;

import dev.mile.ModelException;
import dev.mile.report.Chart;
import dev.mile.report.Pack;
import dev.mile.report.Report;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;

/** Reads the reports and packs of a model file. */
final class ReportReader {
    private ReportReader() {}

    static Report read(String name, YamlNode yaml) {
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
        yaml.require(keys, "show", "show: [sales]");
        Report report = Report.of(name, List.of(), names(keys.get("show")))
                .withRows(axes(keys.get("rows")))
                .withColumns(axes(keys.get("columns")))
                .withTotals(!keys.containsKey("totals") || keys.get("totals").asBoolean())
                .withEmptyRows(
                        keys.containsKey("keep_empty") && keys.get("keep_empty").asBoolean())
                .withBars(keys.containsKey("bars") ? names(keys.get("bars")) : List.of());
        report = changed(report, keys.get("title"), (r, y) -> r.withTitle(y.text()));
        report = changed(report, keys.get("where"), (r, y) -> r.withWhere(y.read(FactReader::condition)));
        report = changed(report, keys.get("when"), (r, y) -> r.withWhen(y.read(ReportSyntax::when)));
        report = changed(report, keys.get("calendar"), (r, y) -> r.withCalendar(y.text()));
        report = changed(report, keys.get("sort"), (r, y) -> r.withSort(y.read(ReportSyntax::sort)));
        report = changed(report, keys.get("top"), (r, y) -> r.withTop(y.read(ReportSyntax::top)));
        return changed(report, keys.get("chart"), (r, y) -> r.withChart(chart(y)));
    }

    /** Reads a pack: its reports, or its title and its reports. */
    static Pack pack(String name, YamlNode yaml) {
        if (!yaml.isMap()) {
            return new Pack(name, Optional.empty(), names(yaml));
        }
        Map<String, YamlNode> keys = yaml.entries("title", "reports");
        yaml.require(keys, "reports", "reports: [trading]");
        return new Pack(name, Optional.ofNullable(keys.get("title")).map(YamlNode::text), names(keys.get("reports")));
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
        Map<String, YamlNode> keys = yaml.entries("kind", "show", "order");
        yaml.require(keys, "kind", "kind: lines");
        return new Chart(
                keys.get("kind").read(Chart.Kind::parse),
                keys.containsKey("show") ? names(keys.get("show")) : List.of(),
                keys.containsKey("order") && keys.get("order").read(ReportReader::worstFirst));
    }

    private static boolean worstFirst(String order) {
        if (!List.of("rows", "worst first").contains(order)) {
            throw ModelException.of("'%s' is not an order of bars; expected rows or worst first", order);
        }
        return order.equals("worst first");
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
        yaml.require(keys, "when", "when: [today, last 7 days]");
        return new Report.RecentPeriods(keys.get("when").list().stream()
                .map(y -> y.read(MeasureLanguage::span))
                .toList());
    }
}
