package dev.mile.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Runs the command line on the demo: as a process where that matters, in this one where only words do. */
class CommandLineTest extends DemoCommands {
    @Test
    void theDemoIsTheSameBytesEveryTime() throws IOException, InterruptedException {
        Path again = Files.createTempDirectory(folder, "again");
        dev.mile.demo.DemoProject.write(again, dev.mile.demo.DemoProject.ROWS);
        try (var files = Files.list(again)) {
            for (Path file : files.toList()) {
                assertThat(Files.mismatch(file, folder.resolve("demo").resolve(file.getFileName())))
                        .isEqualTo(-1L);
            }
        }
        assertThat(Files.readAllLines(folder.resolve("demo/sales.csv"))).hasSizeBetween(58_000, 62_000);
    }

    @Test
    void resultsAloneGoToStandardOutput() throws IOException, InterruptedException {
        Answer report = process("report", "trading", "--as", "csv");
        assertThat(report.code()).isZero();
        assertThat(report.err())
                .startsWith("Actuals as of 2026-08-14; ")
                .contains("sales: `keep` leaves 409 rows out.");
        List<String> lines = report.out().lines().toList();
        assertThat(lines.get(0))
                .isEqualTo(
                        "year,quarter,month,sales,sales_ly,growth,sales_ytd,sales_ytd_ly,sales_3m,working_days,daily_sales,sales_dispatched");
        // the first month of the data has no year before it; the cut month is compared with the same days
        assertThat(lines.get(1))
                .matches("FY2022,FY2022 Q4,Feb 2022,16330\\.88,,,16330\\.88,,16330\\.88,24,680\\.4\\d+,.*");
        assertThat(lines.get(lines.size() - 1))
                .startsWith("FY2027,FY2027 Q2,Aug 2026,16701.52,12891.39,0.2955561812961985,");
        assertThat(lines).hasSize(56);
    }

    @Test
    void theCsvAddsUpToTheSource() throws IOException {
        java.math.BigDecimal sum = java.math.BigDecimal.ZERO;
        for (String line : Files.readAllLines(folder.resolve("demo/sales.csv")).subList(1, 59_000)) {
            String[] f = line.split(",", -1);
            sum = f[1].startsWith("2023-05") && !f[11].equals("cancelled")
                    ? sum.add(new java.math.BigDecimal(f[10]))
                    : sum;
        }
        assertThat(mile("report", "--rows", "month", "--show", "sales", "--when", "May 2023", "--as", "csv")
                        .out())
                .isEqualTo("month,sales\nMay 2023," + sum.toPlainString() + "\n");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "roles",
                "to_date",
                "budget_line",
                "status",
                "growth",
                "retail_weeks",
                "budget",
                "outlook",
                "shops",
                "stock",
                "years",
                "recent",
                "this_month",
                "month_end"
            })
    void everyReportOfTheDemoRuns(String report) {
        Answer answer = mile("report", report);
        assertThat(answer.err()).isEmpty();
        assertThat(answer.code()).isZero();
        assertThat(answer.out().lines().count()).isGreaterThan(4);
    }

    @Test
    void week53IsBlankByPositionAndHasItsLikeDays() {
        String csv = mile("report", "retail_weeks", "--as", "csv").out();
        assertThat(csv.lines().filter(l -> l.contains("R2023 W53")))
                .singleElement()
                .asString()
                .matches("R2023,R2023 P12,R2023 W53,[\\d.]+,,[\\d.]+");
    }

    @Test
    void filesAreWrittenWholeOrNotAtAll() throws IOException {
        Path target = folder.resolve("out.csv");
        Files.writeString(target, "old");
        assertThat(mile("report", "nothing", "-o", target.toString()).code()).isEqualTo(2);
        assertThat(target).hasContent("old");
        assertThat(mile("report", "trading", "-o", target.toString()).err()).startsWith("wrote " + target + "\n");
        assertThat(Files.readString(target)).startsWith("year,quarter,month,");
        try (var files = Files.list(folder)) {
            assertThat(files.map(Path::toString)).noneMatch(f -> f.endsWith(".part"));
        }
        assertThat(mile("report", "trading", "-o", folder + "/none/out.csv").err())
                .isEqualTo("mile: cannot write " + folder + "/none/out.csv: the folder is not there; make it first\n");
        Answer ending = mile("report", "trading", "-f", folder + "/no.yaml", "-o", "out.docx");
        assertThat(ending.code()).isEqualTo(2);
        assertThat(ending.err())
                .as("refused before the model is read")
                .isEqualTo(
                        "mile: 'out.docx' has no ending that a report can be written to; expected .html, .xlsx, .csv,"
                                + " .parquet, .json, .txt, .png, .svg, or a folder with / at its end\n");
    }

    @Test
    void aFaultOfMileItselfHasACodeOfItsOwn() {
        java.io.StringWriter err = new java.io.StringWriter();
        int code = Main.failed(new IllegalStateException("x"), false, new java.io.PrintWriter(err, true));
        assertThat(code).isEqualTo(4);
        assertThat(err.toString())
                .startsWith("mile: something went wrong inside Mile: java.lang.IllegalStateException: x");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "report",
                "report trading",
                "report trading -f a/mile.yaml -o x.html -o folder/ --store s --quiet",
                "report --no-store größen shops",
            })
    void plainArgumentsMeanWhatTheLibraryForCommandLinesReads(String line) {
        String[] args = line.split(" ");
        ReportCommand read = new ReportCommand();
        new picocli.CommandLine(read).parseArgs(Arrays.copyOfRange(args, 1, args.length));
        assertThat(PlainArguments.ofReport(args).map(ReportCommand::of).orElseThrow())
                .usingRecursiveComparison()
                .ignoringFields("spec")
                .isEqualTo(read);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "check trading", "report --help", "report -f", "report -f --quiet", "report --quiet --quiet",
                        "report -o=x.csv",
                "report @file", "report \"trading\"", "report -- trading", "report --rows year", "report -fx",
                        "report --debug",
            })
    void allOtherArgumentsAreLeftToTheLibraryForCommandLines(String line) {
        assertThat(PlainArguments.ofReport(line.split(" "))).isEmpty();
    }

    @Test
    void calendarsWhoseNamesBeginAlikeAreToldApart() throws IOException {
        Path model = folder.resolve("alike.yaml");
        Files.writeString(
                model,
                "mile: 1\ncalendars: {fiscal: {year_starts: april}, fiscal_uk: {year_starts: april 6}, iso: {weeks: none,"
                        + " year_ends: sunday nearest december 31}}\ndates: {from: 2026-01-01, to: 2026-12-31}\n");
        Answer fiscal = mile("dates", "-f", model.toString(), "--calendar", "fiscal", "--as", "csv");
        assertThat(fiscal.out().lines().findFirst().orElseThrow())
                .startsWith("date,fiscal_year,")
                .doesNotContain("fiscal_uk");
        Answer iso = mile("dates", "-f", model.toString(), "--calendar", "iso", "--as", "csv");
        assertThat(iso.err()).isEmpty();
        assertThat(iso.out().lines().findFirst().orElseThrow()).startsWith("date,iso_year,iso_year_label,");
    }

    @ParameterizedTest(name = "dates -o d.{0}")
    @ValueSource(strings = {"csv", "parquet", "xlsx"})
    void ownDatesHaveNoFindings(String ending) {
        String target = folder.resolve("d." + ending).toString();
        assertThat(mile("dates", "-o", target).code()).isZero();
        Answer check = mile("check", "--dates", target);
        assertThat(check.out()).endsWith("2,495 days checked, 0 findings\n");
        assertThat(check.code()).isZero();
    }

    @Test
    void aDraftRunsAtOnce() throws IOException {
        Path own = Files.createDirectory(folder.resolve("draft"));
        Files.writeString(
                own.resolve("invoices.csv"),
                "invoice_no,Invoice Date,birth_date,client,Total\n"
                        + "1,2025-01-05,1961-02-03,C1,10.50\n2,2026-01-06,1999-12-31,C2,-2\n3,2026-02-07,1980-07-01,C9,4\n");
        Files.writeString(own.resolve("clients.csv"), "client,city\nC1,Alderwick\nC2,Hollowby\n");
        String model = own.resolve("mile.yaml").toString();
        Answer made = mile("new", own + "/invoices.csv", own + "/clients.csv", "-o", model);
        assertThat(made.code()).as(made.err()).isZero();
        assertThat(own.resolve("mile.yaml"))
                .content()
                .contains(
                        "dates: {invoice: \"Invoice Date\"}",
                        "birth_date is no role",
                        "links: {client: clients}",
                        "sum(invoices.Total)");
        Answer report = mile("report", "--as", "csv", "-f", model);
        assertThat(report.out()).contains("FY2026,FY2026 P01,-2.00,,", "FY2026,FY2026 P02,4.00,,");
        assertThat(mile("new", own + "/invoices.csv", "-o", model).err()).contains("is there already");
    }

    @Test
    void aDraftReadsFilesAsOfficesWriteThem() throws IOException {
        Path own = Files.createDirectory(folder.resolve("offices"));
        Files.write(
                own.resolve("umsatz.csv"),
                ("Umsatz 2026;;;\n\nFiliale;Belegdatum;Betrag netto;Bonus\n101;31.03.2026;1.234,56 \u20ac;3/4\n"
                                + "102;01.04.2026;-12,30;1/2\n101;15.04.2026;(99,99);\n103;02.05.2026;1.048;\nSumme;;2.170,27;\n")
                        .getBytes(Charset.forName("windows-1252")));
        Files.writeString(own.resolve("filialen.csv"), "id,Ort\n101,K\u00f6ln\n102,M\u00fcnster\n103,Linz\n");
        Files.writeString(
                own.resolve("plan_2026.csv"), "Filiale,Jan,Feb,Mar,Apr\n101,1000,,1200,5\n102,800,900,950,1\n");
        Files.writeString(own.resolve("notes.csv"), "a,b\n1,2\n");
        Answer made = mile(
                "new",
                own + "/umsatz.csv",
                own + "/filialen.csv",
                own + "/plan_2026.csv",
                own + "/notes.csv",
                "-o",
                own + "/mile.yaml");
        assertThat(made.err()).startsWith("wrote ");
        assertThat(own.resolve("mile.yaml"))
                .content()
                .contains(
                        "# to be checked: the bytes are not UTF-8 but look like windows-1252",
                        "source: {file: umsatz.csv, numbers: \"1.234,56\", dates: \"31.12.2025\", encoding: windows-1252, header: 3,"
                                + " until: \"Summe\"}",
                        "unpivot: {columns: \"Jan..Apr\", into: month, values: amount, as: \"{column} 2026\"}",
                        "links: {Filiale: filialen}",
                        "filialen: {source: filialen.csv, key: id}",
                        "total: 'sum(umsatz.\"Betrag netto\")'",
                        "# notes.csv is left out: it has no dates");
        Answer report = mile(
                "report",
                "--as",
                "csv",
                "-f",
                own + "/mile.yaml",
                "--rows",
                "filialen.Ort,month",
                "--show",
                "total",
                "--show",
                "plan_2026_total");
        assertThat(report.err()).doesNotStartWith("mile:");
        assertThat(report.out()).contains("K\u00f6ln,Mar 2026,1234.56,1200", "M\u00fcnster,Apr 2026,-12.30,1.00");
    }

    @Test
    void aDraftAsksWhatTheDataLeaveOpen() throws IOException {
        Path own = Files.createDirectory(folder.resolve("open"));
        Files.writeString(
                own.resolve("orders.csv"),
                "order no;customer;on;net\n1001;7;03/04/2025;1,234\n1002;8;05/06/2025;2,500\n1003;7;07/08/2025;900\n1004;9;07/08/2025;7\n");
        Files.writeString(own.resolve("customers.csv"), "id,name\n7,Ann\n8,Bo\n8,Bob\n");
        String model = own + "/mile.yaml";
        assertThat(mile("new", own + "/orders.csv", own + "/customers.csv", "-o", model)
                        .code())
                .isZero();
        assertThat(own.resolve("mile.yaml"))
                .content()
                .contains(
                        "# to be checked: amounts could be read like \"1,234.56\" or like \"1.234,56\": compare one with the file",
                        "# to be checked: the dates in on could be read like \"31/12/2025\" or like \"12/31/2025\": no value tells which",
                        "source: {file: orders.csv, numbers: \"1,234.56\", dates: \"31/12/2025\"}",
                        "# not linked, since customers.csv has the id '8' twice; once that is corrected: links: {customer: customers}",
                        "# customers: {source: customers.csv, key: id}",
                        "total: 'sum(orders.net)'");
        assertThat(mile("report", "--as", "csv", "-f", model).out()).contains("FY2025,FY2025 P04,1234,");
    }

    /** A file that writes the month first, read as if the day came first. */
    @Test
    void datesOfWhichNoneHasALateDayAreDoubted() throws IOException {
        StringBuilder rows = new StringBuilder("on,net\n");
        for (int i = 0; i < 40; i++) {
            LocalDate day = LocalDate.of(2026, 1 + i % 12, 1 + i % 11);
            rows.append(day.format(DateTimeFormatter.ofPattern("MM/dd/yyyy", Locale.ROOT)))
                    .append(",1\n");
        }
        Files.writeString(folder.resolve("doubt.csv"), rows);
        String model =
                "mile: 1\ncalendars: {c: {year_starts: january 1}}\nfacts: {s: {source: {file: doubt.csv, dates: \"%s\"},"
                        + " dates: {on: on}}}\nmeasures: {net: sum(s.net)}\n";
        Path file = Files.writeString(folder.resolve("doubt.yaml"), model.formatted("31/12/2025"));
        assertThat(mile("check", "-f", file.toString()).out())
                .contains(
                        "s by on: none of 40 different dates falls after the 12th of its month",
                        "set `dates:` at the source to an example that shows which comes first");
        Files.writeString(folder.resolve("doubt.csv"), rows + "12/13/2026,1\n");
        Files.writeString(file, model.formatted("12/31/2025"));
        assertThat(mile("check", "-f", file.toString()).out()).doesNotContain("after the 12th");
    }

    @Test
    void explainSaysWhyAFigureIsBlank() {
        assertThat(mile("explain", "sales_ytd_ly", "--at", "Aug 2022").out())
                .startsWith(
                        "sales_ytd_ly at Aug 2022 = unknown: sales by ordered covers 2022-01-30 to 2026-08-14, so 2021-04-01 is"
                                + " missing; if its rows are complete from 2021-04-01 on, say `covers: {from: 2021-04-01}` at the"
                                + " fact\n")
                .contains("year to date  2021-04-01 to 2021-08-31  153 days, 129 working");
        assertThat(mile("explain", "sales", "--at", "Sep 2026").out())
                .contains("the cell lies after the as-of date, 2026-08-14");
        assertThat(mile("explain", "growth", "--at", "Aug 2026", "--as", "json").out())
                .contains("\"value\" : 0.2955561812961985", "\"step\" : \"1 year back\"", "\"to\" : \"2025-08-14\"");
        assertThat(mile("explain", "sales over trailing 3 days", "--at", "2026-08-14", "--dates")
                        .out())
                .contains("2026-08-12 2026-08-13 2026-08-14");
    }

    @Test
    void explainShowsTheStepsInsideEachMember() {
        assertThat(mile("explain", "(sales over 1 year back) each shops.region", "--at", "Aug 2026")
                        .out())
                .contains("added over each shops.region = ", "shops.region North = ")
                .containsSubsequence(
                        "shops.region East = ",
                        "1 year back            2025-08-01 to 2025-08-14",
                        "shops.region North = ",
                        "1 year back            2025-08-01 to 2025-08-14");
    }

    @Test
    void anEmptyDateDimensionIsCalledEmpty() throws IOException {
        Path empty = Files.createFile(folder.resolve("empty.csv"));
        Answer check = mile("check", "--dates", empty.toString());
        assertThat(check.err()).isEqualTo("mile: the file " + empty + " is empty; expected a header and rows\n");
        assertThat(check.code()).isEqualTo(3);
    }

    @Test
    void daysCountsAndAdds() {
        assertThat(mile("days", "2026-03-02", "2026-04-17").out())
                .contains(
                        "inclusive           41 working days of 47 days",
                        "elapsed             40 working days",
                        "2026-04-06 Easter Monday (holiday)");
        assertThat(mile("days", "2026-03-02", "+10", "--week", "office").out()).isEqualTo("2026-03-16\n");
        assertThat(mile("days", "2026-03-16", "-10", "--week", "office").out()).isEqualTo("2026-03-02\n");
    }

    @Test
    void checkNamesTheRowsThatAreWrongOnPurpose() {
        Answer check = mile("check");
        assertThat(check.code()).isZero();
        assertThat(check.out())
                .contains(
                        "sales.ordered: 1 row dated 1899-12-30, a date that means none",
                        "2 rows with a key that the lookup 'shops' lacks, such as 'S99'")
                .contains("0 errors, 4 warnings");
        assertThat(mile("check", "--strict").code()).isEqualTo(1);
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            report tradign                                  | 2 | unknown report or pack 'tradign'; did you mean 'trading'?
            report --rows moth --show sales                 | 2 | unknown level, dimension or date attribute 'moth'; did you mean 'month'?
            report --rows month --show sale                 | 2 | unknown measure or target 'sale'; did you mean 'sales'?
            report --rows month --show sales --where shops.reggion='N' | 2 | the lookup 'shops' has no column 'reggion'; did you mean 'region'?
            report --rows month --show sales --where chanel='N' | 2 | unknown name 'chanel'; did you mean 'channel'?
            report --rows month --show sales --when FY1066  | 2 | 'FY1066' is not a period of the calendar 'fiscal'
            report trading --when FY1066                    | 2 | mile: 'FY1066' is not a period of the calendar 'fiscal'
            report --rows month --show sum(sales.nett)      | 2 | the fact 'sales' has no column or date role 'nett'
            report --rows month --show sum(sales.channel)   | 3 | needs numbers, but the column 'channel' of the fact 'sales' holds values that are not numbers
            report --rows month --show sales --as-of 2026-02-30 | 2 | Invalid value for option '--as-of'
            report trading --bogus                          | 2 | Unknown option: '--bogus'
            dates --columns fiscal_yeer                     | 2 | unknown column 'fiscal_yeer'; did you mean 'fiscal_year'?
            dates --from 2026-02-01 --to 2026-01-01         | 2 | --from 2026-02-01 comes after --to 2026-01-01
            days 2026-02-30 +1                              | 2 | '2026-02-30' is not a day of the calendar
            explain sales --at Augst                        | 2 | 'Augst' is not a period of the calendar 'fiscal'
            check --dates none.csv                          | 3 | the file none.csv is not there; check the path
            report -f none.yaml                             | 2 | there is no model file none.yaml
            """)
    void mistakesGetOneParagraphAndTheirExitCode(String line, int code, String words) {
        List<String> args = new ArrayList<>();
        for (String arg : line.strip().split(" ")) {
            args.add(arg);
        }
        Answer answer = mile(args.toArray(String[]::new));
        assertThat(answer.err()).contains(words).doesNotContain("\tat ").doesNotContain("Exception");
        assertThat(answer.code()).isEqualTo(code);
        assertThat(answer.out()).isEmpty();
    }

    @Test
    void brokenModelsAndDataAreNamedWithTheirPlace() throws IOException {
        Path own = Files.createDirectory(folder.resolve("broken"));
        String head =
                "mile: 1\ncalendars:\n  c: {year_starts: january}\nfacts:\n  s:\n    source: s.csv\n    dates: {on: day}\nmeasures:\n  a: sum(s.x)\n";
        Path model = own.resolve("mile.yaml");
        String[][] tries = {
            {
                head + "  b: b + 1\nreports: {r: {rows: [month], show: [b]}}\n",
                "day,x\n2026-01-01,1\n",
                "2",
                "mile.yaml:10:6: the measure 'b' refers to itself: b -> b"
            },
            {head + "reports: {r: {rows: [month], show: [a]}}\n", "", "3", "mile.yaml:6:13: the file s.csv is empty"},
            {
                head + "reports: {r: {rows: [month], show: [a]}}\n",
                "day,x\n2026-01-01,1e5\n",
                "3",
                "`sum(s.x)` needs numbers"
            },
            {
                head + "reports: {r: {rows: [month], show: [a]}}\n",
                "day,x\n01/02/2026,1\n",
                "2",
                "no fact has a usable date"
            },
            {
                head.replace("s.csv", "gone.csv") + "reports: {r: {rows: [month], show: [a]}}\n",
                "x\n",
                "3",
                "mile.yaml:6:13: the file"
            },
            {head + "reports: {r: {rows: [month, show: [a]}}\n", "x\n", "2", "mile.yaml:10:"},
            {"", "x\n", "2", "mile.yaml: the file is empty"},
        };
        for (String[] one : tries) {
            Files.writeString(model, one[0]);
            Files.writeString(own.resolve("s.csv"), one[1]);
            Answer answer = mile("report", "r", "-f", model.toString());
            assertThat(answer.err()).contains(one[3]).doesNotContain("\tat ");
            assertThat(answer.code()).as(answer.err()).isEqualTo(Integer.parseInt(one[2]));
        }
    }

    @Test
    void helpAndVersionGoToStandardOutput() {
        for (String command : List.of("demo", "new", "dates", "days", "check", "report", "explain", "schema")) {
            StringWriter out = new StringWriter();
            assertThat(Main.run(new PrintWriter(out), new PrintWriter(new StringWriter()), command, "--help"))
                    .isZero();
            assertThat(out.toString()).startsWith("Usage: mile " + command).contains("--debug");
        }
        StringWriter out = new StringWriter();
        assertThat(Main.run(new PrintWriter(out), new PrintWriter(new StringWriter()), "--version"))
                .isZero();
        assertThat(out).hasToString("mile " + Main.VERSION + System.lineSeparator());
        assertThat(mile("schema").out()).contains("json-schema.org");
    }
}
