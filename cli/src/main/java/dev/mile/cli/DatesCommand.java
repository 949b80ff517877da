package dev.mile.cli;

import dev.mile.DataException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.dimension.DateColumn;
import dev.mile.dimension.DateDimension;
import dev.mile.dimension.ExcludedDates;
import dev.mile.engine.Warehouse;
import dev.mile.internal.Messages;
import dev.mile.internal.PrivateFolder;
import dev.mile.model.Model;
import dev.mile.render.excel.DatesWorkbook;
import dev.mile.render.text.CloseCalendar;
import dev.mile.render.text.DatesCsv;
import dev.mile.render.text.DatesSql;
import dev.mile.render.text.DatesTable;
import dev.mile.render.text.DatesText;
import dev.mile.render.text.JsonWriter;
import dev.mile.report.Session;
import dev.mile.sql.files.TableFiles;
import dev.mile.sql.warehouse.WarehouseScript;
import dev.mile.workday.WorkingWeek;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** {@code mile dates}. */
@Command(
        name = "dates",
        description = "The date dimension: one row a day with every attribute of every calendar.",
        footer = {
            "",
            "Examples:",
            "  mile dates --calendar retail --from 2024-01-28 --to 2024-02-10",
            "  mile dates --columns date,fiscal_period_label,holiday",
            "  mile dates -o dates.csv",
            "  mile dates --into warehouse",
            "  mile dates --calendar fiscal -o close.ics"
        })
final class DatesCommand extends BaseCommand implements Callable<Integer> {
    private static final int SHOWN = 24;

    @Option(names = "--columns", split = ",", paramLabel = "COLUMN", description = "Only these columns, in this order.")
    private List<String> columns;

    @Option(names = "--calendar", paramLabel = "NAME", description = "The date and the columns of one calendar.")
    private String calendar;

    @Option(names = "--from", paramLabel = "DATE", description = "The first day.")
    private LocalDate from;

    @Option(names = "--to", paramLabel = "DATE", description = "The last day.")
    private LocalDate to;

    @Option(
            names = {"-o", "--output"},
            paramLabel = "FILE",
            description = "Write a file; its ending chooses the format: .csv, .json, .parquet, .xlsx, .sql, .ics.")
    private List<Path> output = new ArrayList<>();

    @Option(
            names = "--as",
            paramLabel = "FORMAT",
            description = "The format on standard output: text (default), csv or json.")
    private String as = "text";

    @Option(
            names = "--into",
            paramLabel = "WAREHOUSE",
            description = "Load it into a warehouse of the model, or refresh it there, in one transaction.")
    private String into;

    @Option(
            names = "--table",
            paramLabel = "NAME",
            description = "The table in the warehouse (default: ${DEFAULT-VALUE}).")
    private String tableInto = "dates";

    @Override
    public Integer call() {
        Model model = Model.read(file);
        try (Session session = session(model, null)) {
            DateDimension dimension = session.dimension();
            for (ExcludedDates left : session.excludedDates()) {
                info(describe(left)
                        + session.example(left).map(row -> " Such as: " + row).orElse(""));
            }
            DatesTable table = new DatesTable(dimension, columns(dimension), days(dimension));
            for (Path target : output) {
                write(table, target, model);
            }
            if (into != null) {
                load(table, model);
            } else if (output.isEmpty()) {
                print(table);
            }
        }
        return 0;
    }

    private void load(DatesTable table, Model model) {
        Warehouse warehouse = model.warehouses().get(into);
        if (warehouse == null) {
            throw ModelException.unknownName(
                    "warehouse", into, model.warehouses().keySet());
        }
        List<String> there = WarehouseScript.columns(warehouse, tableInto);
        List<String> here = table.columns().stream().map(DateColumn::name).toList();
        if (!there.isEmpty() && !there.equals(here)) {
            throw DataException.of(
                    "the table '%s' of the warehouse '%s' has other columns than this date dimension; drop it, or choose another"
                            + " name with --table",
                    tableInto, into);
        }
        WarehouseScript.run(
                warehouse,
                there.isEmpty()
                        ? DatesSql.statements(table, tableInto, roles(model))
                        : DatesSql.refresh(table, tableInto));
        info((there.isEmpty() ? "loaded " : "refreshed ")
                + Messages.quantity(table.days().length(), "day") + " into " + tableInto);
    }

    private static String describe(ExcludedDates left) {
        String dates = left.first().equals(left.last()) ? left.first().toString() : left.first() + ".." + left.last();
        return "Left out of the range: " + Messages.quantity(left.rows(), "row") + " of " + left.source() + " on "
                + dates + (left.sentinel() ? ", a date that means none." : ", far from the others.");
    }

    private List<DateColumn> columns(DateDimension dimension) {
        if (columns != null) {
            return columns.stream()
                    .map(String::strip)
                    .map(name -> column(dimension, name))
                    .toList();
        }
        if (calendar != null) {
            if (!dimension.calendars().containsKey(calendar)) {
                throw ModelException.unknownName(
                        "calendar", calendar, dimension.calendars().keySet());
            }
            return dimension.columns().stream()
                    .filter(c -> c.name().equals("date")
                            || c.calendar().filter(calendar::equals).isPresent() && c.visible())
                    .toList();
        }
        return dimension.columns();
    }

    /** Returns the columns that people look at first; files get them all. */
    private DatesTable readable(DatesTable table) {
        if (columns != null) {
            return table;
        }
        List<String> names = new ArrayList<>(List.of("date", "weekday_name"));
        for (String of : calendar == null
                ? table.dimension().columns().stream()
                        .flatMap(column -> column.level().stream())
                        .map(DateColumn.HierarchyLevel::hierarchy)
                        .filter(hierarchy -> !hierarchy.equals("civil"))
                        .distinct()
                        .toList()
                : List.of(calendar)) {
            if (calendar != null) {
                names.addAll(List.of(of + "_year_label", of + "_quarter_label"));
            }
            names.addAll(List.of(of + "_period_label", of + "_week_label"));
            if (calendar != null) {
                names.addAll(
                        List.of(of + "_day_of_week", of + "_day_of_period", of + "_day_of_year", of + "_year_ago"));
            }
        }
        names.addAll(List.of("day_type", "holiday", "working_day_of_month"));
        return new DatesTable(
                table.dimension(),
                names.stream()
                        .flatMap(n -> table.dimension().column(n).stream())
                        .toList(),
                table.days());
    }

    private static DateColumn column(DateDimension dimension, String name) {
        return dimension
                .column(name)
                .orElseThrow(() -> ModelException.unknownName(
                        "column",
                        name,
                        dimension.columns().stream().map(DateColumn::name).toList()));
    }

    private DateRange days(DateDimension dimension) {
        LocalDate first = from == null ? dimension.range().first() : from;
        LocalDate last = to == null ? dimension.range().last() : to;
        if (last.isBefore(first)) {
            throw ModelException.of("--from %s comes after --to %s; put the earlier date first", first, last);
        }
        DateRange days = DateRange.of(first, last).intersect(dimension.range());
        if (days.isEmpty()) {
            throw ModelException.of("%s..%s is outside the date dimension, %s", first, last, dimension.range());
        }
        return days;
    }

    private void write(DatesTable table, Path target, Model model) {
        switch (AtomicFiles.extension(target)) {
            case "csv" -> AtomicFiles.file(target, part -> DatesCsv.write(table, part));
            case "json" -> AtomicFiles.text(target, out -> JsonWriter.dates(table, (Writer) out));
            case "xlsx" -> AtomicFiles.stream(target, out -> DatesWorkbook.write(table, out));
            case "parquet" -> AtomicFiles.file(target, part -> parquet(table, part));
            case "sql" -> AtomicFiles.text(target, out -> DatesSql.write(table, tableName(target), roles(model), out));
            case "ics" -> AtomicFiles.text(target, out -> closeCalendar(table, model, out));
            default ->
                throw ModelException.of(
                        "'%s' has no ending that a date dimension can be written to; expected .csv, .json, .parquet, .xlsx, .sql or .ics",
                        target);
        }
        info("wrote " + target);
        if (List.of("csv", "json", "parquet").contains(AtomicFiles.extension(target))) {
            Path schema =
                    target.resolveSibling(target.getFileName().toString().replaceAll("\\.[^.]*$", "") + ".schema.json");
            AtomicFiles.text(schema, out -> JsonWriter.tableSchema(table, (Writer) out));
            info("wrote " + schema);
        }
    }

    private static String tableName(Path target) {
        return target.getFileName().toString().replaceAll("\\.[^.]*$", "");
    }

    private static List<String> roles(Model model) {
        List<String> roles = new ArrayList<>();
        model.project().facts().values().stream()
                .filter(f -> !f.plan())
                .flatMap(f -> f.roles().stream())
                .filter(r -> !roles.contains(r))
                .forEach(roles::add);
        return roles;
    }

    private static void parquet(DatesTable table, Path target) throws IOException {
        Path csv = PrivateFolder.newFile(".csv");
        try {
            DatesCsv.writeRaw(table, csv);
            Map<String, String> types = new LinkedHashMap<>();
            table.columns()
                    .forEach(c -> types.put(
                            c.name(),
                            switch (c.type()) {
                                case DATE -> "DATE";
                                case INTEGER -> "INTEGER";
                                case NUMBER -> "DECIMAL(12, 6)";
                                case TEXT -> "VARCHAR";
                                case BOOLEAN -> "BOOLEAN";
                            }));
            TableFiles.parquet(csv, types, target);
        } finally {
            Files.deleteIfExists(csv);
        }
    }

    private void closeCalendar(DatesTable table, Model model, Appendable out) throws IOException {
        Map<String, FiscalCalendar> calendars = new LinkedHashMap<>();
        model.project().calendars().forEach((name, of) -> {
            if (calendar == null || calendar.equals(name)) {
                calendars.put(name, of);
            }
        });
        Optional<WorkingWeek> week =
                model.project().workingWeeks().values().stream().findFirst();
        if (week.isPresent()) {
            CloseCalendar.write(table.dimension(), calendars, week.get(), table.days(), out);
        } else {
            CloseCalendar.write(table.dimension(), calendars, table.days(), out);
        }
    }

    private void print(DatesTable table) {
        try {
            switch (as) {
                case "text" -> out().print(new DatesText(useColour(), width()).write(readable(table), SHOWN));
                case "csv" -> DatesCsv.write(table, out());
                case "json" -> JsonWriter.dates(table, out());
                default ->
                    throw ModelException.of("'%s' is not a format for standard output; expected text, csv or json", as);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
