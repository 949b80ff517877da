package dev.mile.cli;

import dev.mile.DataException;
import dev.mile.calendar.SupportedDates;
import dev.mile.fact.ValueType;
import dev.mile.internal.Messages;
import dev.mile.sql.files.FileProfile;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Words a model from what data files hold; comments say why each choice was made. Used once. */
final class ModelDrafter {
    private static final int HUMAN_LIFE = 25;

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
                .filter(f -> f.columns().stream().anyMatch(this::isRole))
                .filter(f -> keyOf(f) == null || amounts(f).size() > 0)
                .toList());
        // the longest file is the default fact
        facts.sort((a, b) -> Long.compare(b.rows(), a.rows()));
        return facts;
    }

    /** Returns the first column whose values are all there and all different. */
    private static FileProfile.Column keyOf(FileProfile file) {
        return file.columns().stream()
                .filter(c -> c.type() != ValueType.DATE && c.distinct() == file.rows() && file.rows() > 0)
                .findFirst()
                .orElse(null);
    }

    private List<FileProfile.Column> amounts(FileProfile file) {
        return file.columns().stream()
                .filter(c -> c.type() == ValueType.NUMBER || c.type() == ValueType.FLOATING)
                .filter(c -> lookupOf(file, c) == null
                        && !c.name().toLowerCase(Locale.ROOT).matches(".*(_id|_key|_no|number|year|month|code)|id|key"))
                .toList();
    }

    private FileProfile lookupOf(FileProfile file, FileProfile.Column column) {
        for (FileProfile other : files) {
            FileProfile.Column key = keyOf(other);
            if (other != file
                    && key != null
                    && key.name().equalsIgnoreCase(column.name())
                    && other.rows() < file.rows()) {
                return other;
            }
        }
        return null;
    }

    String write() {
        List<FileProfile> facts = facts();
        if (facts.isEmpty()) {
            throw DataException.of(
                    "none of the files has a column of dates written as 2026-04-01, so there is nothing to place in time; name a file"
                            + " with order, invoice or payment dates");
        }
        out.append(
                "# Drafted by mile new from what the files hold; read it, and correct what it could not know.\nmile: 1\n\n");
        out.append(
                "calendars:\n  # data do not show a company's fiscal year: this is the civil one; see docs/calendars.md for others\n  fiscal: {year_starts: january 1}\n\n");
        out.append(
                "working:\n  # an assumption, too: change the rest days, and add holidays\n  week:\n    rest: [saturday, sunday]\n\n");
        range(facts);
        out.append("facts:\n");
        facts.forEach(this::fact);
        lookups(facts);
        measures(facts);
        return out.toString();
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
        out.append("  from: facts\n  to: facts\n\n");
    }

    private String path(FileProfile file) {
        return quoted(folder.relativize(file.file().toAbsolutePath()).toString());
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
        out.append("  ")
                .append(names.get(file))
                .append(":\n    source: ")
                .append(path(file))
                .append('\n');
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
        List<String> links = new ArrayList<>();
        for (FileProfile.Column column : file.columns()) {
            FileProfile lookup = lookupOf(file, column);
            if (lookup != null) {
                links.add(quoted(column.name()) + ": " + names.get(lookup));
            }
        }
        if (!links.isEmpty()) {
            out.append("    # these columns have the name of a key of another file\n");
            out.append("    links: {").append(String.join(", ", links)).append("}\n");
        }
    }

    private void lookups(List<FileProfile> facts) {
        StringBuilder lookups = new StringBuilder();
        for (FileProfile file : files) {
            boolean linked = files.stream().anyMatch(f -> f.columns().stream().anyMatch(c -> lookupOf(f, c) == file));
            if (linked && !facts.contains(file)) {
                lookups.append("  ")
                        .append(names.get(file))
                        .append(": {source: ")
                        .append(path(file))
                        .append(", key: ")
                        .append(quoted(keyOf(file).name()))
                        .append("}\n");
            }
        }
        if (!lookups.isEmpty()) {
            out.append("lookups:\n").append(lookups);
        }
    }

    private void measures(List<FileProfile> facts) {
        FileProfile first = facts.get(0);
        String fact = names.get(first);
        out.append("\nmeasures:\n");
        List<FileProfile.Column> amounts = amounts(first);
        String main = amounts.stream()
                .filter(c -> c.name().toLowerCase(Locale.ROOT).matches(".*(amount|net|total|sales|revenue|value).*"))
                .findFirst()
                .or(() -> amounts.stream().findFirst())
                .map(c -> "sum(" + fact + "." + column(c.name()) + ")")
                .orElse("count(" + fact + ")");
        out.append("  # ")
                .append(
                        amounts.isEmpty()
                                ? "no column of amounts was found, so rows are counted"
                                : "the column that reads most like an amount; others: "
                                        + String.join(
                                                ", ",
                                                amounts.stream()
                                                        .map(FileProfile.Column::name)
                                                        .toList()))
                .append('\n');
        out.append("  total: ").append(yaml(main)).append('\n');
        out.append("  rows: count(").append(fact).append(")\n");
        out.append(
                "  total_ly: total over 1 year back\n  growth: {is: (total - total_ly) / total_ly, format: 0.0%}\n  total_to_date: total over year to date\n");
        out.append("\nreports:\n  overview:\n    title: ")
                .append(quoted("Overview of " + fact))
                .append("\n    rows: [year, month]\n    show: [total, total_ly, growth, total_to_date, rows]\n");
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
