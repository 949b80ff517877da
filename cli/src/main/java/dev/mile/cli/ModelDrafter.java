package dev.mile.cli;

import dev.mile.DataException;
import dev.mile.calendar.SupportedDates;
import dev.mile.engine.FileFormat;
import dev.mile.fact.ValueType;
import dev.mile.internal.Messages;
import dev.mile.sources.DraftFormat;
import dev.mile.sql.files.FileProfile;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Words a model from what data files hold; comments say why each choice was made. Used once. */
final class ModelDrafter {
    private static final int HUMAN_LIFE = 25;
    /** Fewer numbers may well all differ. */
    private static final int FEWEST_DOCUMENTS = 10;

    private static final Pattern AMOUNTS =
            Pattern.compile("(?iu).*(amount|net|total|sales|revenue|value|betrag|umsatz|montant|importe).*");
    private static final Pattern NAMES = Pattern.compile(
            "(?iu).*([_ .-](id|key|no|nr|num|code|zip|plz|year|month)|number|nummer|postcode|phone|telefon)|"
                    + "id|key|no|nr|code|zip|plz|year|month|jahr|monat|beleg|document|invoice|order");

    private final List<FileProfile> files;
    private final Path folder;
    private final Map<FileProfile, String> names = new LinkedHashMap<>();
    private final StringBuilder out = new StringBuilder();

    ModelDrafter(List<FileProfile> files, Path folder) {
        this.files = files;
        this.folder = folder;
        for (FileProfile file : files) {
            String name = file.file()
                    .getFileName()
                    .toString()
                    .toLowerCase(Locale.ROOT)
                    .replaceAll("\\..*$", "")
                    .replaceAll("[^a-z0-9]+", "_")
                    .replaceAll("^[^a-z]+", "");
            name = name.isEmpty() ? "data" : name;
            String unique = name;
            for (int i = 2; names.containsValue(unique); i++) {
                unique = name + i;
            }
            names.put(file, unique);
        }
    }

    /** A column of dates that may place rows in time. */
    private boolean isRole(FileProfile.Column column) {
        return column.type() == ValueType.DATE && !isBirth(column) && column.first() != null;
    }

    /** Birth dates reach back a human life, and say so in their name or by their span. */
    private static boolean isBirth(FileProfile.Column column) {
        String name = column.name().toLowerCase(Locale.ROOT);
        boolean named = name.contains("birth") || name.contains("born") || name.equals("dob");
        boolean old = column.first() != null
                && column.first().plusYears(HUMAN_LIFE).isBefore(column.last())
                && column.spread();
        return named || old;
    }

    private List<FileProfile> facts() {
        List<FileProfile> facts = new ArrayList<>(files.stream()
                .filter(f -> isWide(f) || f.columns().stream().anyMatch(this::isRole))
                .filter(f -> !isLookup(f) || !amounts(f).isEmpty())
                .toList());
        // the longest file that is no plan is the default fact
        facts.sort(Comparator.comparing(ModelDrafter::isWide)
                .thenComparing(Comparator.comparingLong(FileProfile::rows).reversed()));
        return facts;
    }

    /** A file with a column for each month or year. */
    private static boolean isWide(FileProfile file) {
        return file.draft().flatMap(DraftFormat::months).isPresent();
    }

    /** A file whose rows have keys that another file uses, each only once. */
    private boolean isLookup(FileProfile file) {
        return files.stream()
                .flatMap(f -> f.links().stream())
                .anyMatch(link ->
                        link.lookup().equals(file.file()) && link.repeated().isEmpty());
    }

    private List<FileProfile.Column> amounts(FileProfile file) {
        if (isWide(file)) {
            String values = file.draft()
                    .flatMap(draft -> draft.format().unpivot())
                    .orElseThrow()
                    .values();
            return file.columns().stream()
                    .filter(column -> column.name().equals(values))
                    .toList();
        }
        return file.columns().stream()
                .filter(c -> c.type() == ValueType.NUMBER || c.type() == ValueType.FLOATING)
                .filter(c ->
                        file.links().stream().noneMatch(link -> link.column().equals(c.name())))
                .filter(c -> !isName(file, c))
                .toList();
    }

    /** Numbers that are names: of documents, customers, places. */
    private static boolean isName(FileProfile file, FileProfile.Column column) {
        boolean isSerial = column.isWhole() && column.distinct() == file.rows() && file.rows() >= FEWEST_DOCUMENTS;
        return isSerial || NAMES.matcher(column.name()).matches();
    }

    private Optional<FileProfile.KeyLink> linkOf(FileProfile file, FileProfile.Column column) {
        return file.links().stream()
                .filter(link -> link.column().equals(column.name()))
                .findFirst();
    }

    private FileProfile profile(Path file) {
        return files.stream()
                .filter(profile -> profile.file().equals(file))
                .findFirst()
                .orElseThrow();
    }

    String write() {
        List<FileProfile> facts = facts();
        if (facts.isEmpty()) {
            throw DataException.of(
                    "none of the files has a column of dates, such as 2026-04-01 or 31.12.2025, or a column for each month, so there is"
                            + " nothing to place in time; name a file with order, invoice or payment dates");
        }
        out.append(
                "# Drafted by mile new from what the files hold; read it, and correct what it could not know.\nmile: 1\n");
        files.stream()
                .flatMap(file -> file.draft().stream())
                .map(draft -> draft.format().locale())
                .filter(locale -> !locale.equals(Locale.ENGLISH))
                .findFirst()
                .ifPresent(locale -> out.append("# dates name months in this language\nlocale: ")
                        .append(locale.toLanguageTag())
                        .append('\n'));
        out.append(
                "\ncalendars:\n  # data do not show a company's fiscal year: this is the civil one; see docs/calendars.md for others\n"
                        + "  fiscal: {year_starts: january 1");
        monthLabels()
                .ifPresent(label ->
                        out.append(", labels: {month: \"").append(label).append("\"}"));
        out.append("}\n\nworking:\n  # an assumption, too: change the rest days, and add holidays\n  week:\n"
                + "    rest: [saturday, sunday]\n\n");
        range(facts);
        out.append("facts:\n");
        facts.forEach(this::fact);
        lookups(facts);
        measures(facts);
        leftOut(facts);
        return out.toString();
    }

    /** Returns how months are named in the columns of a wide file. */
    private Optional<String> monthLabels() {
        return files.stream()
                .flatMap(file -> file.draft().flatMap(DraftFormat::months).stream())
                .filter(wide -> wide != DraftFormat.Wide.YEARS)
                .findFirst()
                .map(wide -> (wide == DraftFormat.Wide.MONTHS ? "{month_name}" : "{mon}") + " {civil_year}");
    }

    private void range(List<FileProfile> facts) {
        out.append("dates:\n");
        for (FileProfile fact : facts) {
            fact.columns().stream().filter(this::isRole).forEach(c -> {
                if (SupportedDates.SENTINELS.contains(c.first())
                        || SupportedDates.SENTINELS.contains(c.last())
                        || c.first().isBefore(LocalDate.of(1950, 1, 1))) {
                    out.append("  # ")
                            .append(c.name())
                            .append(" reaches from ")
                            .append(c.first())
                            .append(" to ")
                            .append(c.last())
                            .append("; dates far from the others are left out of the range, and reported\n");
                }
            });
        }
        List<Integer> years = facts.stream()
                .filter(ModelDrafter::isWide)
                .flatMap(ModelDrafter::years)
                .sorted()
                .toList();
        boolean onlyPlans = facts.stream().allMatch(ModelDrafter::isWide);
        out.append("  from: ").append(onlyPlans ? years.get(0) + "-01-01" : "facts");
        out.append("\n  to: ")
                .append(years.isEmpty() ? "facts" : years.get(years.size() - 1) + "-12-31")
                .append("\n\n");
    }

    /** Returns the years that the columns of a wide file stand for. */
    private static Stream<Integer> years(FileProfile file) {
        FileFormat.Unpivot unpivot =
                file.draft().flatMap(draft -> draft.format().unpivot()).orElseThrow();
        String texts = unpivot.first() + " " + unpivot.last() + " " + unpivot.as();
        return Pattern.compile("\\b(19|20)[0-9]{2}\\b")
                .matcher(texts)
                .results()
                .map(year -> Integer.valueOf(year.group()));
    }

    private String source(FileProfile file) {
        String path = quoted(folder.relativize(file.file().toAbsolutePath()).toString());
        FileFormat format = file.draft().map(DraftFormat::format).orElse(FileFormat.PLAIN);
        if (format.isPlain()) {
            return path;
        }
        List<String> keys = new ArrayList<>(List.of("file: " + path));
        format.numbers().ifPresent(example -> keys.add("numbers: " + text(example)));
        Map<String, String> dates = format.dates();
        if (dates.containsKey("")) {
            keys.add("dates: " + text(dates.get("")));
        } else if (!dates.isEmpty()) {
            keys.add("dates: {"
                    + dates.entrySet().stream()
                            .map(e -> quoted(e.getKey()) + ": " + text(e.getValue()))
                            .collect(Collectors.joining(", "))
                    + "}");
        }
        format.encoding().ifPresent(encoding -> keys.add("encoding: " + encoding));
        format.separator().ifPresent(separator -> keys.add("separator: " + text(separator)));
        format.sheet().ifPresent(sheet -> keys.add("sheet: " + text(sheet)));
        if (format.header() > 1) {
            keys.add("header: " + format.header());
        }
        format.until().ifPresent(until -> keys.add("until: " + text(until)));
        format.unpivot()
                .ifPresent(unpivot -> keys.add("unpivot: {columns: "
                        + text(unpivot.first() + ".." + unpivot.last()) + ", into: " + unpivot.into() + ", values: "
                        + unpivot.values() + ", as: " + text(unpivot.as()) + "}"));
        return "{" + String.join(", ", keys) + "}";
    }

    private static String text(String value) {
        return '"' + value.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
    }

    private void doubts(FileProfile file, String indent) {
        file.draft().ifPresent(draft -> draft.doubts().forEach(doubt -> out.append(indent)
                .append("# to be checked: ")
                .append(doubt)
                .append('\n')));
    }

    private static String quoted(String text) {
        return text.matches("[A-Za-z][A-Za-z0-9_./-]*") && !text.matches("true|false|null")
                ? text
                : '"' + text.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
    }

    private static String role(String column) {
        String role = column.toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "_")
                .replaceAll("_?(date|day|on|at|time)$", "")
                .replaceAll("^(date|day)_?(of_)?", "")
                .replaceAll("^[^a-z]+", "");
        return role.isEmpty() ? "dated" : role;
    }

    private void fact(FileProfile file) {
        out.append("  ").append(names.get(file)).append(":\n");
        doubts(file, "    ");
        out.append("    source: ").append(source(file)).append('\n');
        if (isWide(file)) {
            FileFormat.Unpivot unpivot =
                    file.draft().flatMap(draft -> draft.format().unpivot()).orElseThrow();
            out.append("    # a column for each ")
                    .append(unpivot.into())
                    .append(
                            " became a row for each; as a plan, its amounts are spread over the days\n    dates: {for: ")
                    .append(unpivot.into())
                    .append("}\n    grain: ")
                    .append(unpivot.into())
                    .append("\n    plan: true\n");
        } else {
            roles(file);
        }
        List<String> links = new ArrayList<>();
        for (FileProfile.Column column : file.columns()) {
            linkOf(file, column).ifPresent(link -> {
                String said = quoted(column.name()) + ": " + names.get(profile(link.lookup()));
                if (link.repeated().isEmpty()) {
                    links.add(said);
                } else if (!facts().contains(profile(link.lookup()))) {
                    out.append("    # not linked, since ")
                            .append(link.lookup().getFileName())
                            .append(" has the ")
                            .append(link.key())
                            .append(" '")
                            .append(link.repeated().get())
                            .append("' twice; once that is corrected: links: {")
                            .append(said)
                            .append("}\n");
                }
            });
        }
        if (!links.isEmpty()) {
            out.append("    # these columns hold the keys of another file\n");
            out.append("    links: {").append(String.join(", ", links)).append("}\n");
        }
    }

    private void roles(FileProfile file) {
        List<String> roles = new ArrayList<>();
        List<String> used = new ArrayList<>();
        for (FileProfile.Column column : file.columns()) {
            if (isRole(column)) {
                String role = role(column.name());
                while (used.contains(role)) {
                    role += "_2";
                }
                used.add(role);
                roles.add(role + ": " + quoted(column.name()));
            } else if (column.type() == ValueType.DATE) {
                out.append("    # ")
                        .append(column.name())
                        .append(" is no role: it looks like a birth date, ")
                        .append(column.first())
                        .append(" to ")
                        .append(column.last())
                        .append('\n');
            }
        }
        out.append("    # every column of dates is a role; the first is the default\n");
        out.append("    dates: {").append(String.join(", ", roles)).append("}\n");
    }

    private void lookups(List<FileProfile> facts) {
        StringBuilder found = new StringBuilder();
        for (FileProfile file : files) {
            files.stream()
                    .flatMap(f -> f.links().stream())
                    .filter(link -> link.lookup().equals(file.file()) && !facts.contains(file))
                    .findFirst()
                    .ifPresent(link -> {
                        String line =
                                names.get(file) + ": {source: " + source(file) + ", key: " + quoted(link.key()) + "}";
                        link.repeated()
                                .ifPresentOrElse(
                                        key -> found.append("  # ")
                                                .append(file.file().getFileName())
                                                .append(" has the ")
                                                .append(link.key())
                                                .append(" '")
                                                .append(key)
                                                .append(
                                                        "' twice, and each key needs one row; once that is corrected:\n  # ")
                                                .append(line),
                                        () -> found.append("  ").append(line));
                        found.append('\n');
                        doubts(file, "  ");
                    });
        }
        if (!found.isEmpty()) {
            boolean hasOne = found.toString().lines().anyMatch(line -> !line.startsWith("  #"));
            out.append(hasOne ? "lookups:\n" : "# lookups:\n").append(found);
        }
    }

    private void leftOut(List<FileProfile> facts) {
        for (FileProfile file : files) {
            boolean isLinked = files.stream().flatMap(f -> f.links().stream()).anyMatch(link -> link.lookup()
                    .equals(file.file()));
            if (!facts.contains(file) && !isLinked) {
                out.append("# ")
                        .append(file.file().getFileName())
                        .append(" is left out: it has no dates, and no column of the other files holds its keys\n");
            }
        }
    }

    private void measures(List<FileProfile> facts) {
        FileProfile first = facts.get(0);
        String fact = names.get(first);
        out.append("\nmeasures:\n");
        List<FileProfile.Column> amounts = amounts(first);
        Optional<FileProfile.Column> amount = amounts.stream()
                .filter(c -> AMOUNTS.matcher(c.name()).matches())
                .findFirst()
                .or(() -> amounts.stream().findFirst());
        String main =
                amount.map(c -> "sum(" + fact + "." + column(c.name()) + ")").orElse("count(" + fact + ")");
        List<String> others = amounts.stream()
                .map(FileProfile.Column::name)
                .filter(name -> amount.stream().noneMatch(c -> c.name().equals(name)))
                .toList();
        out.append(
                amounts.isEmpty()
                        ? "  # no column of amounts was found, so rows are counted\n"
                        : others.isEmpty()
                                ? ""
                                : "  # the column that reads most like an amount; others: " + String.join(", ", others)
                                        + "\n");
        out.append("  total: ").append(yaml(main)).append('\n');
        out.append("  rows: count(").append(fact).append(")\n");
        List<String> show = new ArrayList<>(List.of("total"));
        if (!isWide(first)) {
            out.append(
                    "  total_ly: total over 1 year back\n  growth: {is: (total - total_ly) / total_ly, format: 0.0%}\n"
                            + "  total_to_date: total over year to date\n");
            show.addAll(List.of("total_ly", "growth", "total_to_date", "rows"));
        }
        facts.stream().filter(plan -> isWide(plan) && plan != first).forEach(plan -> {
            String name = names.get(plan) + "_total";
            out.append("  ")
                    .append(name)
                    .append(": ")
                    .append(yaml("sum(" + names.get(plan) + "."
                            + column(amounts(plan).get(0).name()) + ")"))
                    .append('\n');
            show.add(1, name);
        });
        String level =
                first.draft().flatMap(DraftFormat::months).orElse(DraftFormat.Wide.MONTHS) == DraftFormat.Wide.YEARS
                        ? "[year]"
                        : "[year, month]";
        out.append("\nreports:\n  overview:\n    title: ")
                .append(quoted("Overview of " + fact))
                .append("\n    rows: ")
                .append(level)
                .append("\n    show: [")
                .append(String.join(", ", show))
                .append("]\n");
        out.append("# ")
                .append(Messages.quantity(first.rows(), "row"))
                .append(" in ")
                .append(first.file().getFileName())
                .append('\n');
    }

    private static String column(String name) {
        return name.matches("[A-Za-z_][A-Za-z0-9_]*") ? name : '"' + name + '"';
    }

    private static String yaml(String text) {
        return "'" + text.replace("'", "''") + "'";
    }
}
