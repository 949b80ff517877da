package dev.mile.report;

import dev.mile.measure.Measure;
import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.Target;
import java.util.ArrayList;
import java.util.List;

/** Makes the head of a report's grid: its columns, each with what it means. */
final class GridHead {
    private final Session session;
    private final Report report;
    private final Axes axes;
    private final List<Shown> shown;

    GridHead(Session session, Report report, Axes axes, List<Shown> shown) {
        this.session = session;
        this.report = report;
        this.axes = axes;
        this.shown = shown;
    }

    /** Returns the head of a grid that shows everything once for each of the members side by side. */
    Grid.Header of(List<List<Object>> members) {
        return new Grid.Header(
                report.title().isEmpty() ? report.name() : report.title(),
                axes.rows().stream()
                        .map(part -> new Grid.Key(part.name(), part.kind()))
                        .toList(),
                columns(members),
                session.asOf(),
                report.chart());
    }

    private List<Grid.Column> columns(List<List<Object>> members) {
        List<Grid.Column> all = new ArrayList<>();
        for (List<Object> keys : members) {
            String member = axes.columns().isEmpty() ? null : String.join(" ", Axes.labels(axes.columns(), keys));
            shown.forEach(s -> {
                if (s.target() == null) {
                    all.add(column(s.definition().name(), Grid.ColumnRole.MEASURE, s.definition(), member));
                } else {
                    target(all, s, member);
                }
            });
        }
        return all;
    }

    private Grid.Column column(String name, Grid.ColumnRole part, MeasureDefinition of, String member) {
        return new Grid.Column(
                name,
                part,
                of.title(),
                of.style(),
                member,
                of.expression().toString(),
                report.bars().contains(name));
    }

    private void target(List<Grid.Column> all, Shown s, String member) {
        MeasureDefinition d = s.definition();
        Target target = s.target();
        all.add(column(target.name(), Grid.ColumnRole.VALUE, d, member));
        all.add(new Grid.Column(
                target.name(),
                Grid.ColumnRole.AGAINST,
                title(target.against()),
                d.style(),
                member,
                target.against().toString(),
                false));
        all.add(new Grid.Column(
                target.name(),
                Grid.ColumnRole.STATUS,
                target.name().replace('_', ' '),
                MeasureDefinition.NumberStyle.PLAIN,
                member,
                target.toString(),
                false));
    }

    private String title(Measure measure) {
        return measure instanceof Measure.Named named
                        && session.project().measures().containsKey(named.name())
                ? session.project().measures().get(named.name()).title()
                : measure.toString().replace('_', ' ');
    }
}
