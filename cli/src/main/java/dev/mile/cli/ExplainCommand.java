package dev.mile.cli;

import dev.mile.ModelException;
import dev.mile.measure.Measure;
import dev.mile.model.MeasureLanguage;
import dev.mile.model.Model;
import dev.mile.render.text.ExplanationText;
import dev.mile.render.text.JsonWriter;
import dev.mile.report.Explanation;
import dev.mile.report.Session;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.LocalDate;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code mile explain}. */
@Command(
        name = "explain",
        description =
                "Shows the way to a figure: the days each step gives, the rows found, each operand's value; why a cell is blank.",
        footer = {
            "",
            "Examples:",
            "  mile explain growth --at \"Aug 2026\"",
            "  mile explain \"sum(sales.net_amount) over trailing 7 days\" --at 2026-08-14 --dates",
            "  mile explain sales_ytd --at \"FY2026 Q1\" --where \"shop = 'S01'\" --as json"
        })
final class ExplainCommand extends BaseCommand implements Callable<Integer> {
    @Parameters(paramLabel = "MEASURE", description = "The name of a measure, or one in the language.")
    private String measure;

    @Option(names = "--at", required = true, paramLabel = "PERIOD", description = "The label of a period, or a date.")
    private String at;

    @Option(names = "--where", paramLabel = "CONDITION", description = "Which rows of facts count.")
    private String where;

    @Option(names = "--as-of", paramLabel = "DATE", description = "The last day for which actuals count.")
    private LocalDate asOf;

    @Option(names = "--calendar", paramLabel = "NAME", description = "The calendar of steps that name none.")
    private @Nullable String calendar;

    @Option(names = "--dates", description = "List the days looked at, each.")
    private boolean dates;

    @Mixin
    private EngineOptions engine = new EngineOptions();

    @Option(names = "--as", paramLabel = "FORMAT", description = "text (default) or json.")
    private String as = "text";

    @Override
    public Integer call() {
        Model model = Model.read(file, engine.holidays());
        boolean named = measure.matches("\\w+");
        Measure of = named
                ? Measure.named(measure)
                : MeasureLanguage.measure(measure, model.project().lookups().keySet());
        try (Session session = session(model, asOf, engine.open(model, this))) {
            Session.ExplainOptions options = new Session.ExplainOptions(
                    Optional.ofNullable(where).map(MeasureLanguage::condition), Optional.ofNullable(calendar));
            Explanation explanation = session.explain(measure, of, at, options);
            switch (as) {
                case "text" ->
                    out().print(new ExplanationText(
                                    useColour(), dates, session.project().locale())
                            .write(explanation));
                case "json" -> JsonWriter.explanation(explanation, out());
                default -> throw ModelException.of("'%s' is not a format of an explanation; expected text or json", as);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return 0;
    }
}
