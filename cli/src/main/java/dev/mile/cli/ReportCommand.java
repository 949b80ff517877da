package dev.mile.cli;

import dev.mile.engine.Engine;
import dev.mile.model.MeasureLanguage;
import dev.mile.model.Model;
import dev.mile.model.ReportSyntax;
import dev.mile.report.Chart;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code mile report}. */
@Command(
        name = "report",
        description = "Computes a report of the model, or one made up on the spot.",
        footer = {
            "",
            "Examples:",
            "  mile report trading",
            "  mile report trading -o report.html -o report.xlsx -o chart.png",
            "  mile report trading --at \"FY2026 Q1\"",
            "  mile report --rows year,shops.region --show sales,growth",
            "  mile report --rows month --show \"sum(sales.net_amount) over year to date\""
        })
final class ReportCommand extends BaseCommand implements Callable<Integer> {
    @Parameters(
            arity = "0..1",
            paramLabel = "NAME",
            description = "The report; the model's first where nothing is said.")
    private String name;

    @Option(names = "--rows", split = ",", paramLabel = "PART", description = "Levels, dimensions or date attributes.")
    private List<String> rows;

    @Option(names = "--columns", split = ",", paramLabel = "PART", description = "What stands side by side.")
    private List<String> columns;

    @Option(
            names = "--show",
            paramLabel = "MEASURE",
            description =
                    "Measures and targets by name, parted by commas, or one measure in the language; may be repeated.")
    private List<String> show;

    @Option(names = "--where", paramLabel = "CONDITION", description = "Which rows of facts count.")
    private String where;

    @Option(
            names = "--when",
            paramLabel = "DAYS",
            description = "A period's label, two dates A..B, or a span: year to date.")
    private String when;

    @Option(names = "--as-of", paramLabel = "DATE", description = "The last day for which actuals count.")
    private LocalDate asOf;

    @Option(names = "--calendar", paramLabel = "NAME", description = "The calendar of levels and steps that name none.")
    private String calendar;

    @Option(names = "--sort", paramLabel = "ORDER", description = "A measure and asc or desc.")
    private String sort;

    @Option(
            names = "--top",
            paramLabel = "N by MEASURE",
            description = "The first rows by a measure; the rest in one row.")
    private String top;

    @Option(names = "--at", paramLabel = "PERIOD", description = "Opens one period, by its label, one level down.")
    private String at;

    @Option(
            names = "--bars",
            split = ",",
            paramLabel = "MEASURE",
            description = "A bar in each cell of these measures.")
    private List<String> bars;

    @Option(
            names = "--chart",
            paramLabel = "KIND",
            description = "How it is drawn: lines, gap, ranking, years, status or trend.")
    private String chart;

    @Mixin
    private EngineOptions engine = new EngineOptions();

    @Mixin
    private ReportOutput output = new ReportOutput();

    @Override
    public Integer call() {
        output.check();
        Model model = Model.read(file);
        Project project = model.project();
        List<String> shown = names(project);
        for (String text : shown) {
            if (!project.measures().containsKey(text)
                    && !project.targets().containsKey(text)
                    && !text.matches("\\w+")) {
                project = project.withMeasure(
                        text, MeasureLanguage.measure(text, project.lookups().keySet()));
            }
        }
        Report report = report(project, shown);
        Model whole = new Model(project, model.sources(), model.warehouses(), model.zone());
        Engine source = engine.open(whole, this);
        try (Session session = session(whole, asOf, source)) {
            if (!quiet) {
                session.onProgress(new Progress(System.err, "working out"));
            }
            if (at != null) {
                report = session.drill(report, at);
            }
            output.write(session, report, source, this);
        }
        return 0;
    }

    /** Names may stand in one option, parted by commas; a measure in the language has an option of its own. */
    private List<String> names(Project project) {
        List<String> names = new ArrayList<>();
        for (String text : show == null ? List.<String>of() : show) {
            if (text.matches("\\s*\\w+\\s*(,\\s*\\w+\\s*)*")) {
                for (String part : text.split(",")) {
                    names.add(part.strip());
                }
            } else {
                names.add(text.strip());
            }
        }
        return names;
    }

    private Report report(Project project, List<String> shown) {
        Report report;
        if (name != null) {
            report = project.report(name);
        } else if (rows == null && shown.isEmpty() && !project.reports().isEmpty()) {
            report = project.reports().values().iterator().next();
        } else {
            report = Report.of("ad hoc", List.of(), List.of()).withTitle(project.name());
        }
        if (rows != null || columns != null) {
            report = report.by(
                    rows == null ? report.rows() : parts(rows), columns == null ? report.columns() : parts(columns));
        }
        if (!shown.isEmpty()) {
            report = report.withMeasures(shown);
        }
        if (where != null) {
            report = report.where(Optional.of(MeasureLanguage.condition(where)));
        }
        if (when != null) {
            report = report.when(Optional.of(ReportSyntax.when(when)));
        }
        if (calendar != null) {
            report = report.withCalendar(calendar);
        }
        if (bars != null) {
            report = report.withBars(bars.stream().map(String::strip).toList());
        }
        if (chart != null) {
            List<String> drawn = report.chart().map(Chart::show).orElse(List.of());
            Chart.Kind kind = Chart.Kind.parse(chart);
            boolean same = report.chart().filter(c -> c.kind() == kind).isPresent();
            report = report.drawn(Optional.of(new Chart(kind, same ? drawn : List.of())));
        }
        if (sort != null || top != null) {
            report = report.sorted(
                    sort == null ? report.sort() : Optional.of(ReportSyntax.sort(sort)),
                    top == null ? report.top() : Optional.of(ReportSyntax.top(top)));
        }
        return report;
    }

    private static List<Report.AxisSpec> parts(List<String> names) {
        return names.stream()
                .map(String::strip)
                .filter(n -> !n.isEmpty())
                .map(n -> (Report.AxisSpec) new Report.NamedAxis(n))
                .toList();
    }
}
