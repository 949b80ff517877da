package dev.mile.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.networknt.schema.InputFormat;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import dev.mile.MileException;
import dev.mile.calendar.Level;
import dev.mile.internal.EpochDays;
import dev.mile.report.Project;
import dev.mile.workday.WorkingWeek;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ModelTest {
    private static final String HEAD = "mile: 1\ncalendars:\n  fiscal: {year_starts: april 1}\n";
    private static final JsonSchema SCHEMA =
            JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012).getSchema(ModelSchema.json());

    @TempDir
    Path folder;

    @Test
    void aModelComesFromATextAStreamAndTheClassPath() {
        String text = "mile: 1\nname: p\ncalendars: {fiscal: {year_starts: april 1}}\n";
        Model model = Model.parse(text);
        assertThat(model.project().calendars()).containsOnlyKeys("fiscal");
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        assertThat(Model.read(new ByteArrayInputStream(bytes), "p.yaml")).isEqualTo(model);
        assertThat(Model.resource(ModelTest.class, "plain.yaml")).isEqualTo(model);
        assertThat(Model.resource(ModelTest.class, "/dev/mile/model/plain.yaml"))
                .isEqualTo(model);
        assertThatThrownBy(() -> Model.resource(ModelTest.class, "none.yaml"))
                .hasMessage(
                        "there is no resource 'none.yaml' beside the class dev.mile.model.ModelTest; in a module, its package must be open");
        assertThatThrownBy(() -> Model.read(new ByteArrayInputStream(new byte[] {'a', (byte) 0xFC}), "p.yaml"))
                .hasMessage("p.yaml: the text is not UTF-8; save it as UTF-8");
        assertThatThrownBy(() -> Model.parse("mile: 1\nname: [")).hasMessageStartingWith("mile.yaml:2:");
        assertThatThrownBy(() -> Model.parse("mile: 1\n"))
                .hasMessageStartingWith("mile.yaml:1:1: the model has no calendar; add `calendars:");
    }

    private Model parse(String text) {
        return Model.parse(text, folder.resolve("mile.yaml"));
    }

    private void file(String name, String text) {
        try {
            Files.writeString(folder.resolve(name), text);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static boolean schemaAccepts(String yaml) {
        return SCHEMA.validate(yaml, InputFormat.YAML).isEmpty();
    }

    // each mistake with the whole message, and whether the JSON Schema sees it too
    @ParameterizedTest(name = "{1}")
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            mesures: {}                                               | mile.yaml:4:1: unknown key 'mesures'; did you mean 'measures'? | schema
            facts: {sales: {source: a.csv, date: {o: d}}}             | mile.yaml:4:32: unknown key 'date' in `facts.sales`; did you mean 'dates'? | schema
            facts: {sales: {source: a.csv}}                           | mile.yaml:4:16: `dates` is missing; write `dates: {ordered: order_date}` | schema
            measures: {a: sum(sales.x) ovr 1 year back}               | mile.yaml:4:28: `sum(sales.x) ovr 1 year back`, character 14: found 'ovr'; expected a sign (+ - * /), a clause (on, over, where, across, per, each, in full, if full, only at), or, then, or the end | reader
            measures: {a: "sum(sales.x) over 1 yaer back"}            | mile.yaml:4:36: `sum(sales.x) over 1 yaer back`, character 21: found 'yaer'; expected a unit: day, week, month, quarter, half or year; did you mean 'year'? | reader
            as_of: 2026-02-30                                         | mile.yaml:4:8: `as_of` is '2026-02-30'; expected a date of the calendar as year-month-day, such as 2026-04-01 | reader
            week_starts: munday                                       | mile.yaml:4:14: 'munday' is not a weekday; did you mean 'monday'? | schema
            locale: klingon                                           | mile.yaml:4:9: 'klingon' is not a language; expected a tag such as en, de, es or ja | reader
            zone: Mars/Olympus                                        | mile.yaml:4:7: 'Mars/Olympus' is not a time zone; expected a name such as UTC or Europe/Berlin | reader
            working: {w: {rest: [sunday], holidays: [{name: X, on: june 31}]}}  | mile.yaml:4:56: 'june 31' is in no year: june has days 1 to 30 | reader
            working: {w: {holidays: [{name: X, on: june 3, moved: away}]}}      | mile.yaml:4:55: 'away' is not a way to move a holiday; known: stays, next working day, previous working day, nearest weekday, the day after | schema
            reports: {r: {show: [s], rows: [{}]}}                     | mile.yaml:4:33: `when` is missing; write `when: [today, last 7 days]` | schema
            measures: {a: b + 1, b: -a}                               | mile.yaml:4:15: the measure 'a' refers to itself: a -> b -> a; define one of them without the others | reader
            working: {w: {holidays: [none.ics]}}                      | mile.yaml:4:26: the file FOLDER/none.ics is not there; check the path, which is relative to the folder of the model | reader
            warehouses: {w: {url: "jdbc:postgresql://h/n?user=a&password=b"}} | mile.yaml:4:24: the url holds a password; put it into a variable and write `password_variable: NAME` | reader
            warehouses: {w: {url: "jdbc:h2:mem:n;PASSWORD=b"}}        | mile.yaml:4:24: the url holds a password; put it into a variable and write `password_variable: NAME` | reader
            warehouses: {w: {url: "jdbc:other://a:b@h/n"}}            | mile.yaml:4:24: the url holds a password; put it into a variable and write `password_variable: NAME` | reader
            warehouses: {w: {url: "postgresql://h/n"}}                | mile.yaml:4:24: this is no JDBC url; expected one such as jdbc:postgresql://HOST/NAME | schema
            facts: {s: {source: {table: t, in: w}, dates: {o: d}}}    | mile.yaml:4:36: unknown warehouse 'w'; there are none | reader
            facts: {s: {source: {file: s.csv, sheat: A}, dates: {o: d}}} | mile.yaml:4:35: unknown key 'sheat' in `facts.s.source`; did you mean 'sheet'? | schema
            facts: {s: {source: {file: s.csv, unpivot: {columns: A..C, into: m}}, dates: {o: d}}} | mile.yaml:4:44: `values` is missing; write `values: amount` | schema
            facts: {s: {source: {file: s.csv, header: 0}, dates: {o: d}}} | mile.yaml:4:43: `header` is 0; lines are counted from 1 | schema
            measures: {a: {is: sum(s.x), scale: thousands}}           | mile.yaml:4:37: 'thousands' is not a scale; expected thousand or million | schema
            reports: {r: {show: [a], chart: pie}}                     | mile.yaml:4:33: 'pie' is not a kind of chart; known: lines, gap, ranking, years, status, trend | schema
            reports: {r: {show: [a], chart: {show: [a]}}}             | mile.yaml:4:33: `kind` is missing; write `kind: lines` | schema
            reports: {r: {show: [a], chart: {kind: status, order: best}}} | mile.yaml:4:55: 'best' is not an order of bars; expected rows or worst first | schema
            reports: {r: {show: [a], chart: {kind: gap, order: worst first}}} | mile.yaml:4:14: a gap chart has no statuses to come worst first; only a status chart has | reader
            packs: {p: [a, b, a]}                                     | mile.yaml:4:12: the pack 'p' names the report 'a' twice; name it once | schema
            packs: {p: {title: P}}                                    | mile.yaml:4:12: `reports` is missing; write `reports: [trading]` | schema
            packs: {p: []}                                            | mile.yaml:4:12: the pack 'p' has no report; name at least one | schema
            packs: {p: [a]}                                           | mile.yaml:4:13: unknown report 'a'; there are none | reader
            targets: {t: {measure: a, against: 5, met: 1.05}}         | mile.yaml:4:44: '1.05' is not a share of the goal; expected a percentage such as 105% | schema
            targets: {t: {measure: a, against: 5, met: 95%, near: 105%}} | mile.yaml:4:14: the target 't' is near before it is met: met 95%, near 105%, aim high; met is the stricter of the two | reader
            reports: {r: {show: [a], totals: maybe}}                  | mile.yaml:4:34: `reports.r.totals` is 'maybe'; expected true or false | schema
            reports: {r: {rows: [year]}}                              | mile.yaml:4:14: `show` is missing; write `show: [sales]` | schema
            reports: {r: {show: [a], top: best}}                      | mile.yaml:4:31: 'best' is not a choice of rows; expected a number and a measure, such as `10 by sales` | schema
            measures: {Sales: count(s)}                               | mile.yaml:4:19: 'Sales' cannot be a name in `measures`; names are of small letters, digits and _, and begin with a letter | schema
            measures: {a: count(s), a: count(t)}                      | mile.yaml:4:25: the key 'a' occurs twice; keep one | schema
            facts: {b: {source: b.csv, dates: {d: e}, spread: days}}  | mile.yaml:4:51: `spread` deals out the amounts of whole periods; say which with `grain: month` | reader
            facts: {b: {source: b.csv, dates: {d: e}, columns: {a: "yeers(d, as_of)"}}} | mile.yaml:4:57: `yeers(d, as_of)`, character 1: 'yeers(' is not a function of rows; expected a column (sales.units), a number, days(a, b), working_days(a, b), weeks(a, b), months(a, b), years(a, b) | reader
            facts: {b: {source: b.csv, dates: {d: e}, columns: {A b: x}}} | mile.yaml:4:58: 'A b' cannot be a name in `columns`; names are of small letters, digits and _, and begin with a letter | schema
            facts: {b: {source: b.csv, dates: {d: e}, bands: {a: {of: x}}}} | mile.yaml:4:54: `edges` is missing; write `edges: [1, 3, 5]` | schema
            facts: {b: {source: b.csv, dates: {d: e}, bands: {a: {of: x, edges: [3, 3]}}}} | mile.yaml:4:54: the edge 3 of the bands comes after 3; write edges in rising order | reader
            facts: {b: {source: b.csv, dates: {d: e}, bands: {a: {of: x, edges: [1, lots]}}}} | mile.yaml:4:73: 'lots' is not an edge; expected a plain number, such as 1 or 2.5, in edges: [1, 2.5, 5] | schema
            facts: {b: {source: b.csv, dates: {d: e}, columns: {a: x}, bands: {a: {of: x, edges: [1]}}}} | mile.yaml:4:71: the fact 'b' names the column 'a' twice; names must differ | reader
            facts: {b: {source: b.csv, dates: {d: e}, grain: month}}  | mile.yaml:4:12: the fact 'b' has a grain but is not a plan; say `plan: true`, or take the grain away | reader
            facts: {b: {source: b.csv, dates: {d: e}, links: {x: y}}} | mile.yaml:4:12: the fact 'b' links 'x' to the unknown lookup 'y'; there are none | reader
            """)
    void mistakesAreNamedPlacedAndMended(String line, String message, String seenBy) {
        String text = HEAD + line + "\n";
        assertThatThrownBy(() -> parse(text))
                .isInstanceOf(MileException.class)
                .hasMessage(message.replace("FOLDER", folder.toString()));
        if (seenBy.equals("schema") && !message.contains("twice")) {
            assertThat(schemaAccepts(text)).isFalse();
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            {year_starts: april 31}                                  | day 31 is not in april, which has days 1 to 30; name a day that the month has
            {year_starts: aprli}                                     | 'aprli' is not a month; did you mean 'april'?
            {weeks: 4-5-4}                                           | a calendar of weeks needs to know how its year ends: `year_ends: saturday nearest january 31`
            {weeks: 4-4-4, year_ends: last friday of may}            | weeks: '4-4-4' adds to 48 weeks a year; expected 52, such as 4-5-4 (a quarter, four times)
            {weeks: 4-5-4, year_ends: friday nearest june 31}        | `year_ends` is 'friday nearest june 31', but june has days 1 to 30, so that year end never falls
            {weeks: 4-5-4, year_ends: last friday of may, year_starts: april} | the calendar has year_starts and weeks; it takes one rule of the year: year_starts (months), weeks with year_ends, or listed with begins
            {weeks: 4-5-4, year_ends: last friday of may, extra_week: period 13} | the extra week: period 13 is not in the pattern 4-5-4, which has periods 1 to 12
            {year_starts: april, named_for: middle}                  | `named_for` is 'middle'; expected end or start
            {listed: ends.csv}                                       | a listed calendar needs the first day of its first period: `begins: 2022-01-30`
            """)
    void calendarsThatMakeNoYearAreRefused(String calendar, String message) {
        assertThatThrownBy(() -> parse("mile: 1\ncalendars:\n  c: " + calendar + "\n"))
                .hasMessageStartingWith("mile.yaml:3:")
                .hasMessageEndingWith(message);
    }

    @Test
    void holidaysComeFromICalendarAndCsv() {
        file(
                "h.ics",
                """
                BEGIN:VCALENDAR
                VERSION:2.0
                PRODID:-//x//EN
                BEGIN:VEVENT
                UID:1
                DTSTAMP:20200101T000000Z
                DTSTART;VALUE=DATE:20240501
                DTEND;VALUE=DATE:20240504
                SUMMARY:Move
                END:VEVENT
                BEGIN:VEVENT
                UID:2
                DTSTAMP:20200101T000000Z
                DTSTART;VALUE=DATE:20220910
                RRULE:FREQ=YEARLY
                EXDATE;VALUE=DATE:20240910
                SUMMARY:Team day
                END:VEVENT
                END:VCALENDAR
                """
                        .replace("\n", "\r\n"));
        file("c.csv", "date,name,share\n2024-05-06,Half,0.5\n");
        Project project = parse(HEAD + "working: {w: {rest: [sunday], holidays: [h.ics, c.csv]}}\n")
                .project();
        WorkingWeek week = project.workingWeeks().get("w");
        List<String> days = new ArrayList<>();
        for (LocalDate d = LocalDate.of(2024, 1, 1); d.getYear() < 2026; d = d.plusDays(1)) {
            if (!week.holidayName(EpochDays.of(d)).isEmpty()) {
                days.add(d + " " + week.holidayName(EpochDays.of(d)) + " " + week.workedShare(EpochDays.of(d)));
            }
        }
        assertThat(days)
                .containsExactly(
                        "2024-05-01 Move 0",
                        "2024-05-02 Move 0",
                        "2024-05-03 Move 0",
                        "2024-05-06 Half 0.5",
                        "2025-09-10 Team day 0");
    }

    @Test
    void endlessRecurrenceIsRefusedInBoundedTime() {
        file(
                "h.ics",
                "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTAMP:20200101T000000Z\r\n"
                        + "DTSTART:20240501T000000Z\r\nRRULE:FREQ=DAILY;BYHOUR=1,2,3,4,5\r\nSUMMARY:Tick\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n");
        assertThatThrownBy(() -> parse(HEAD + "working: {w: {holidays: [h.ics]}}\n"))
                .hasMessageContaining(
                        "the event 'Tick' recurs more than 40,000 times; give its RRULE an UNTIL, or a longer interval");
    }

    /** The library would follow both, and only one was looked at. */
    @Test
    void anEventHasOneRule() {
        file(
                "h.ics",
                "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART;VALUE=DATE:20240501\r\n"
                        + "RRULE:FREQ=YEARLY;COUNT=4\r\nRRULE:FREQ=YEARLY;BYMONTH=12\r\nSUMMARY:Fair\r\nEND:VEVENT\r\n"
                        + "END:VCALENDAR\r\n");
        assertThatThrownBy(() -> parse(HEAD + "working: {w: {holidays: [h.ics]}}\n"))
                .hasMessageContaining(
                        "the event 'Fair' has 2 RRULEs; expected one, so write an event for each (RFC 5545)");
    }

    @Test
    void daysOfICalendarAreKeptUntilTheFileOrTheZoneChanges() {
        Map<List<String>, List<List<String>>> kept = new HashMap<>();
        List<String> read = new ArrayList<>();
        HolidayCache cache = (key, compute) -> kept.computeIfAbsent(key, k -> {
            read.add("computed");
            return compute.get();
        });
        for (String start : List.of("20240501T233000Z", "20240501T233000Z", "20240502T233000Z")) {
            event("DTSTART:" + start);
            for (String zone : List.of("UTC", "Europe/Berlin")) {
                file("m.yaml", HEAD + "zone: " + zone + "\nworking: {w: {holidays: [h.ics]}}\n");
                Project project = Model.read(folder.resolve("m.yaml"), cache).project();
                LocalDate day = LocalDate.of(2024, 5, start.charAt(7) - '0' + (zone.equals("UTC") ? 0 : 1));
                assertThat(project.workingWeeks().get("w").holidayName(EpochDays.of(day)))
                        .isEqualTo("Fair");
            }
        }
        assertThat(read).hasSize(4);
        file("h.ics", "BEGIN:VCALENDAR\r\n");
        assertThatThrownBy(() -> Model.read(folder.resolve("m.yaml"), cache)).hasMessageContaining("h.ics");
        assertThat(kept).hasSize(4);
    }

    private String event(String lines) {
        file(
                "h.ics",
                "BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\nBEGIN:VEVENT\nUID:1\nDTSTAMP:20200101T000000Z\n"
                                .replace("\n", "\r\n")
                        + lines.replace(";;", "\r\n")
                        + "\r\nSUMMARY:Fair\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n");
        WorkingWeek week = parse(HEAD + "zone: Europe/Berlin\nworking: {w: {rest: [sunday], holidays: [h.ics]}}\n")
                .project()
                .workingWeeks()
                .get("w");
        List<String> days = new ArrayList<>();
        for (LocalDate d = LocalDate.of(2024, 1, 1); d.getYear() < 2026; d = d.plusDays(1)) {
            if (!week.holidayName(EpochDays.of(d)).isEmpty()) {
                days.add(d.toString());
            }
        }
        return String.join(" ", days);
    }

    // RFC 5545; times have their day in the model's zone
    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            DTSTART;VALUE=DATE:20240501;;DURATION:P2D                             | 2024-05-01 2024-05-02
            DTSTART:20240501T230000Z;;DTEND:20240502T010000Z                      | 2024-05-02
            DTSTART;VALUE=DATE:20240506;;RRULE:FREQ=WEEKLY;COUNT=3                | 2024-05-06 2024-05-13 2024-05-20
            DTSTART;VALUE=DATE:20200229;;RRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29 | 2024-02-29
            DTSTART;VALUE=DATE:20230925;;RRULE:FREQ=YEARLY;BYMONTH=9;BYDAY=-1MO   | 2024-09-30 2025-09-29
            DTSTART;VALUE=DATE:20230101;;RRULE:FREQ=YEARLY;UNTIL=20240101         | 2024-01-01
            DTSTART;VALUE=DATE:20240501;;RDATE;VALUE=DATE:20240801                | 2024-05-01 2024-08-01
            DTSTART;VALUE=DATE:20240506;;RRULE:FREQ=WEEKLY;COUNT=3;;SUMMARY:Fair;;END:VEVENT;;BEGIN:VEVENT;;UID:1;;RECURRENCE-ID;VALUE=DATE:20240513;;DTSTART;VALUE=DATE:20240514 | 2024-05-06 2024-05-14 2024-05-20
            DTSTART;VALUE=DATE:20240506;;RRULE:FREQ=WEEKLY;COUNT=3;;SUMMARY:Fair;;END:VEVENT;;BEGIN:VEVENT;;UID:1;;STATUS:CANCELLED;;RECURRENCE-ID;VALUE=DATE:20240513;;DTSTART;VALUE=DATE:20240513 | 2024-05-06 2024-05-20
            DTSTART:20240506T080000Z;;RRULE:FREQ=WEEKLY;COUNT=2;;SUMMARY:Fair;;END:VEVENT;;BEGIN:VEVENT;;UID:1;;SEQUENCE:2;;RECURRENCE-ID:20240513T080000Z;;DTSTART:20240515T080000Z;;SUMMARY:Fair;;END:VEVENT;;BEGIN:VEVENT;;UID:1;;SEQUENCE:1;;RECURRENCE-ID:20240513T080000Z;;DTSTART:20240514T080000Z | 2024-05-06 2024-05-15
            DTSTART;VALUE=DATE:20240506;;STATUS:CANCELLED | ''
            """)
    void eventsRecurAsTheStandardSays(String lines, String days) {
        assertThat(event(lines)).isEqualTo(days);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            DTSTART;VALUE=DATE:20240501;;RRULE:FREQ=SOMETIMES  | h.ics:8: the RRULE has no frequency of holidays; expected FREQ=YEARLY, MONTHLY, WEEKLY or DAILY (RFC 5545)
            DTSTART;VALUE=DATE:20240501;;EXDATE:never          | h.ics:8: the EXDATE is 'never'; expected a date of the calendar
            DTSTART;VALUE=DATE:20240501;;RECURRENCE-ID;RANGE=THISANDFUTURE;VALUE=DATE:20240513 | h.ics:4: the event 'Fair' takes the place of an instance that cannot be found; expected a UID and a RECURRENCE-ID with the date of one instance (RFC 5545)
            DTSTART:whenever                                   | h.ics:7: the DTSTART is 'whenever'; expected a date of the calendar
            """)
    void eventsThatCannotBeReadAreRefused(String lines, String message) {
        assertThatThrownBy(() -> event(lines)).hasMessageStartingWith(message);
    }

    @Test
    void eventsThatOverlapNameBothOrKeepTheFirst() {
        file("p.csv", "from,to,label\n2026-03-01,2026-03-10,One\n2026-03-08,2026-03-20,Two\n");
        assertThatThrownBy(() -> parse(HEAD + "events: {promotions: p.csv}\n"))
                .hasMessage(
                        "mile.yaml:4:22: the promotions 'One' (2026-03-01..2026-03-10, p.csv:2) and 'Two' (2026-03-08..2026-03-20,"
                                + " p.csv:3) share days; end one before the other begins, or say `overlap: keep first`");
        var events = parse(HEAD + "events: {promotions: {source: p.csv, overlap: keep first}}\n")
                .project()
                .events()
                .get(0);
        assertThat(events.label(EpochDays.of(LocalDate.parse("2026-03-09")))).isEqualTo("One");
        assertThat(events.label(EpochDays.of(LocalDate.parse("2026-03-11")))).isEqualTo("Two");
    }

    @Test
    void listedCalendarsAreReadWithTheirLines() {
        file("ends.csv", "end,year,period,quarter\n2026-01-31,2026,1,1\n2026-02-28,2026,3,1\n");
        assertThatThrownBy(() -> parse("mile: 1\ncalendars:\n  c: {listed: ends.csv, begins: 2026-01-01}\n"))
                .hasMessage("ends.csv:3: period 3 follows period 1 of year 2026; expected 2");
        file("ends.csv", "end,year,period\n2026-01-31,2026,1\n2026-02-28,2026,2\n");
        var calendar = parse("mile: 1\ncalendars:\n  c: {listed: ends.csv, begins: 2026-01-01}\n")
                .project()
                .calendars()
                .get("c");
        assertThat(calendar.levels()).containsExactly(Level.YEAR, Level.PERIOD, Level.DAY);
    }

    @Test
    void everyDocumentedModelIsAcceptedByTheSchemaAndTheReader() throws IOException {
        List<Path> pages;
        try (var files = Files.list(Path.of("../docs"))) {
            pages = new ArrayList<>(
                    files.filter(p -> p.toString().endsWith(".md")).toList());
        }
        pages.add(Path.of("../README.md"));
        for (String name : List.of("closures.csv", "close_dates.csv", "promotions.csv", "period_ends.csv")) {
            file(
                    name,
                    name.startsWith("period")
                            ? "end,year,period\n2022-02-26,2022,1\n"
                            : name.startsWith("promo") ? "from,to,label\n" : "date,name,share\n");
        }
        file("holidays.ics", "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nEND:VCALENDAR\r\n");
        int models = 0;
        for (Path page : pages) {
            Matcher block =
                    Pattern.compile("```yaml\\n(.*?)```", Pattern.DOTALL).matcher(Files.readString(page));
            while (block.find()) {
                String text = block.group(1);
                String whole = text.startsWith("mile:")
                        ? text
                        : "mile: 1\n" + (text.contains("calendars:") ? "" : "calendars: {c: {year_starts: january}}\n")
                                + text;
                assertThat(SCHEMA.validate(whole, InputFormat.YAML))
                        .as("%s: %s", page, whole)
                        .isEmpty();
                assertThat(parse(whole)).isNotNull();
                models++;
            }
        }
        assertThat(models).isGreaterThan(6);
        String demo = Files.readString(Path.of("../demo/src/main/resources/dev/mile/demo/mile.yaml"));
        assertThat(SCHEMA.validate(demo, InputFormat.YAML)).isEmpty();
    }
}
