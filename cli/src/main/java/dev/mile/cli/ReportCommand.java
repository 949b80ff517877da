package dev.mile.cli;

import dev.mile.ModelException;
import dev.mile.engine.Engine;
import dev.mile.internal.Labels;
import dev.mile.model.MeasureLanguage;
import dev.mile.model.Model;
import dev.mile.model.ReportSyntax;
import dev.mile.report.Chart;
import dev.mile.report.Pack;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code mile report}. */
@Command(
        name = "report",
        description = "Computes reports and packs of the model, or a report given by options.",
        footer = {
            "",
            "Examples:",
            "  mile report trading",
            "  mile report trading -o report.html -o report.xlsx -o chart.png",
            "  mile report month_end -o pack.xlsx -o pack.html -o folder/",
            "  mile report trading -o last.json --days",
            "  mile report trading --since last.json --strict",
            "  mile report trading --at \"FY2026 Q1\"",
            "  mile report --rows year,shops.region --show sales,growth",
            "  mile report --rows month --show \"sum(sales.net_amount) over year to date\""
        })
final class ReportCommand extends BaseCommand implements Callable<Integer> {
    @Parameters(
            arity = "0..*",
            paramLabel = "NAME",
            description = "Reports and packs, in order (default: the model's first report).")
    private List<String> names = new ArrayList<>();

    @Option(names = "--rows", split = ",", paramLabel = "PART", description = "Levels, dimensions or date attributes.")
    private List<String> rows;

    @Option(
            names = "--columns",
            split = ",",
            paramLabel = "PART",
            description = "Levels or dimensions shown as columns.")
    private List<String> columns;

    @Option(
            names = "--show",
            paramLabel = "MEASURE",
            description =
                    "Measures and targets by name, separated by commas, or one measure in the language; may be repeated.")
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

    @Option(names = "--strict", description = "With --since: exit code 1 if a period changed that was over.")
    private boolean strict;

    @Mixin
    private EngineOptions engine = new EngineOptions();

    @Mixin
    private ReportOutput output = new ReportOutput();

    /** Returns the command with plain arguments. */
    static ReportCommand of(PlainArguments given) {
        ReportCommand command = new ReportCommand();
        command.names = given.names();
        command.file = given.file();
        command.quiet = given.quiet();
        command.engine.keep(given.store(), given.noStore());
        command.output.to(given.output());
        return command;
    }

    @Override
    public Integer call() {
        output.check(1);
        Model model = Model.read(file, engine.holidays());
        Project project = model.project();
        List<String> named = namedReports(project);
        output.check(Math.max(1, named.size()));
        output.checkNotOver(model.schema());
        if (named.size() > 1) {
            checkAlone();
        }
        List<String> shown = names(project);
        for (String text : shown) {
            if (!project.measures().containsKey(text)
                    && !project.targets().containsKey(text)
                    && !text.matches("\\w+")) {
                project = project.withMeasure(
                        text, MeasureLanguage.measure(text, project.lookups().keySet()));
            }
        }
        List<Report> reports = new ArrayList<>();
        for (String one : named) {
            reports.add(changed(project.report(one), shown));
        }
        if (reports.isEmpty()) {
            reports.add(changed(unnamed(project, shown), shown));
        }
        Model shownToo = new Model(project, model.schema(), model.warehouses());
        Engine source = engine.open(shownToo, this);
        try (Session session = session(shownToo, asOf, source)) {
            if (!quiet) {
                session.onProgress(new Progress(System.err, "computing"));
            }
            if (at != null) {
                reports.set(0, session.drill(reports.get(0), at));
            }
            List<String> closed = output.write(session, title(project, reports), reports, source, this);
            return strict && !closed.isEmpty() ? ExitCode.FINDINGS : 0;
        }
    }

    /** One option may hold names separated by commas; a measure in the language needs its own option. */
    private List<String> names(Project project) {
        List<String> names = new ArrayList<>();
        for (String text : show == null ? List.<String>of() : show) {
            List<String> parts =
                    Arrays.stream(text.split(",", -1)).map(String::strip).toList();
            if (parts.stream().allMatch(part -> part.matches("\\w+"))) {
                names.addAll(parts);
            } else {
                names.add(text.strip());
            }
        }
        return names;
    }

    /** Returns the names of all reports asked for, those of packs among them, each once. */
    private List<String> namedReports(Project project) {
        Set<String> all = new LinkedHashSet<>();
        for (String name : names) {
            Pack pack = project.packs().get(name);
            if (pack != null) {
                all.addAll(pack.reports());
            } else if (project.reports().containsKey(name)) {
                all.add(name);
            } else {
                Set<String> known = new LinkedHashSet<>(project.reports().keySet());
                known.addAll(project.packs().keySet());
                throw ModelException.unknownName(project.packs().isEmpty() ? "report" : "report or pack", name, known);
            }
        }
        return List.copyOf(all);
    }

    /** Refuses options that say what one report shows where there are several. */
    private void checkAlone() {
        Map<String, Object> ofOne = new LinkedHashMap<>();
        ofOne.put("--rows", rows);
        ofOne.put("--columns", columns);
        ofOne.put("--show", show);
        ofOne.put("--sort", sort);
        ofOne.put("--top", top);
        ofOne.put("--at", at);
        ofOne.put("--bars", bars);
        ofOne.put("--chart", chart);
        ofOne.forEach((option, value) -> {
            if (value != null) {
                throw ModelException.of(
                        "%s says what one report shows, and there are several; name one, or use --where, --when, --calendar or --as-of,"
                                + " which go for all",
                        option);
            }
        });
    }

    /** Returns what people read above several reports: the title of the pack, or the name of the project. */
    private String title(Project project, List<Report> reports) {
        Pack pack = names.size() == 1 ? project.packs().get(names.get(0)) : null;
        if (pack != null) {
            return pack.title().orElseGet(() -> Labels.of(pack.name()));
        }
        return reports.size() == 1
                ? reports.get(0)
                        .title()
                        .orElseGet(() -> Labels.of(reports.get(0).name()))
                : project.name();
    }

    private Report unnamed(Project project, List<String> shown) {
        return rows == null && shown.isEmpty() && !project.reports().isEmpty()
                ? project.reports().values().iterator().next()
                : Report.of("ad hoc", List.of(), List.of()).withTitle(project.name());
    }

    private Report changed(Report from, List<String> shown) {
        Report report = from;
        report = rows == null ? report : report.withRows(axes(rows));
        report = columns == null ? report : report.withColumns(axes(columns));
        report = shown.isEmpty() ? report : report.withMeasures(shown);
        report = where == null ? report : report.withWhere(MeasureLanguage.condition(where));
        report = when == null ? report : report.withWhen(ReportSyntax.when(when));
        report = calendar == null ? report : report.withCalendar(calendar);
        report = bars == null
                ? report
                : report.withBars(bars.stream().map(String::strip).toList());
        report = chart == null ? report : report.withChart(chart(report));
        report = sort == null ? report : report.withSort(ReportSyntax.sort(sort));
        return top == null ? report : report.withTop(ReportSyntax.top(top));
    }

    /** A chart of the kind that the report has already draws the same measures. */
    private Chart chart(Report report) {
        Chart.Kind kind = Chart.Kind.parse(chart);
        return report.chart().filter(c -> c.kind() == kind).orElse(new Chart(kind, List.of()));
    }

    private static List<Report.AxisSpec> axes(List<String> names) {
        return Report.axes(names.stream()
                .map(String::strip)
                .filter(name -> !name.isEmpty())
                .toList());
    }
}
