package dev.mile.sql.files;

import dev.mile.DataException;
import dev.mile.fact.ValueType;
import dev.mile.internal.TextTypes;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.query.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** The columns of rows of texts: the type that all values of a column have, and the SQL of its values in that type. */
final class TextColumns {
    /** So many rows show what the others will be. */
    static final int SAMPLE = 2_000;

    private static final int MOST_DIGITS = 38;
    private static final int COLUMNS_AT_A_TIME = 100;

    /** The digits of decimals that the database holds in two, four, eight and sixteen bytes. */
    private static final List<Integer> WIDTHS = List.of(4, 9, 18, MOST_DIGITS);

    /** So many digits more than in the sample the other rows may have. */
    private static final int MORE_DIGITS = 3;

    private final Map<String, Profile> profiles = new LinkedHashMap<>();
    private final Set<String> texts;
    private final boolean isSample;

    private TextColumns(List<Profile> profiles, Set<String> texts, boolean isSample) {
        profiles.forEach(profile -> this.profiles.put(profile.column(), profile));
        this.texts = texts;
        this.isSample = isSample;
    }

    /** What a column holds. */
    private record Profile(String column, long values, long numbers, long dates, int digits, int decimals) {
        ValueType type() {
            if (values == 0) {
                return ValueType.BLANK_ONLY;
            }
            if (numbers == values) {
                return ValueType.NUMBER;
            }
            return dates == values ? ValueType.DATE : ValueType.TEXT;
        }
    }

    /**
     * Returns columns as their first rows show them. The SQL of their values fails where a later row shows another type.
     *
     * @param from rows of texts, for use behind FROM
     * @param texts columns that are texts whatever their values look like
     */
    static TextColumns ofFirstRows(Database database, String from, List<String> columns, Set<String> texts) {
        return new TextColumns(firstRows(database, from, columns), texts, true);
    }

    /**
     * Returns columns as all rows show them.
     *
     * @param from rows of texts, for use behind FROM
     * @param texts columns that are texts whatever their values look like
     */
    static TextColumns ofAllRows(Database database, String from, List<String> columns, Set<String> texts) {
        // shows which columns cannot be numbers or dates, so that all values are tried only as what they may be
        Map<String, ValueType> may = new LinkedHashMap<>();
        for (Profile first : firstRows(database, from, columns)) {
            if (texts.contains(first.column())) {
                may.put(first.column(), ValueType.TEXT);
            } else if (first.values() > 0) {
                // a column whose first rows are blank may still be anything
                may.put(first.column(), first.type());
            }
        }
        List<Profile> all = allRows(
                database,
                from,
                columns,
                c -> may.get(c) == null || may.get(c) == ValueType.NUMBER,
                c -> may.get(c) == null || may.get(c) == ValueType.DATE);
        return new TextColumns(all, texts, false);
    }

    /** Returns the type of each column, in their order. */
    Map<String, ValueType> types() {
        Map<String, ValueType> types = new LinkedHashMap<>();
        profiles.forEach((column, profile) -> types.put(column, type(profile)));
        return types;
    }

    private ValueType type(Profile profile) {
        return texts.contains(profile.column()) ? ValueType.TEXT : profile.type();
    }

    /**
     * Returns SQL that reads all columns, each in its type.
     *
     * @param from rows of texts, for use behind FROM
     * @param more further columns, over texts without blanks around them
     * @param file the file, for messages
     * @throws dev.mile.MileException if its numbers have more digits than can be held exactly
     */
    String select(String from, List<String> more, String file) {
        List<String> trimmed = new ArrayList<>();
        List<String> typed = new ArrayList<>();
        profiles.forEach((column, profile) -> {
            String name = Sql.name(column);
            boolean isText = type(profile) == ValueType.TEXT;
            trimmed.add((isText ? "nullif(" + name + ", '')" : trimmed(column)) + " AS " + name);
            typed.add(isText ? name : value(profile, file) + " AS " + name);
        });
        typed.addAll(more);
        // one level below the other, since the database computes an expression again where it stands twice
        return "SELECT " + String.join(", ", typed) + " FROM (SELECT " + String.join(", ", trimmed) + " FROM " + from
                + ")";
    }

    private String value(Profile profile, String file) {
        String value = Sql.name(profile.column());
        return switch (type(profile)) {
            case NUMBER -> checked(value, isNumber(profile), "CAST(" + value + " AS " + decimal(profile, file) + ")");
            case DATE -> checked(value, isDate(value), "CAST(" + value + " AS DATE)");
            default -> checked(value, "false", "CAST(NULL AS VARCHAR)");
        };
    }

    /** Returns the value, or blank; where the type was read off the first rows only, an error for a value of another type. */
    private String checked(String value, String isOfType, String typed) {
        return isSample
                ? "CASE WHEN " + value + " IS NULL THEN NULL WHEN " + isOfType + " THEN " + typed
                        + " ELSE error('a value of another type than those of the first rows') END"
                : typed;
    }

    private String isNumber(Profile profile) {
        int decimals = profile.decimals();
        String pattern = "[+-]?(0|[1-9][0-9]{0," + (width(profile) - decimals - 1) + "})"
                + (decimals == 0 ? "" : "(\\.[0-9]{1," + decimals + "})?");
        return "regexp_full_match(" + Sql.name(profile.column()) + ", " + Sql.text(pattern) + ")";
    }

    /** Returns the digits of the decimals that a column is read as. */
    private int width(Profile profile) {
        int width = Math.max(profile.digits(), 1) + profile.decimals();
        return isSample
                ? WIDTHS.stream()
                        .filter(w -> w >= width + MORE_DIGITS)
                        .findFirst()
                        .orElse(Math.max(width, MOST_DIGITS))
                : width;
    }

    private String decimal(Profile profile, String file) {
        int width = width(profile);
        if (width > MOST_DIGITS) {
            throw DataException.of(
                    "the column '%s' of %s has numbers of %d digits; at most %d can be held exactly",
                    profile.column(), file, width, MOST_DIGITS);
        }
        return "DECIMAL(" + width + ", " + profile.decimals() + ")";
    }

    /** Returns the SQL of a value without blanks around it; null where nothing else is there. */
    static String trimmed(String column) {
        return "nullif(trim(" + Sql.name(column) + "), '')";
    }

    /** Tells by its shape whether a text is meant as a date; whether it is one, the cast tells. */
    static String isDate(String value) {
        return "(length(" + value + ") = 10 AND substr(" + value + ", 5, 1) = '-' AND substr(" + value
                + ", 8, 1) = '-')";
    }

    // ---- profiles

    /** Looks at the different values of the first rows, of which there are few: to hold a value against patterns takes longest. */
    private static List<Profile> firstRows(Database database, String from, List<String> columns) {
        String numbers = IntStream.range(0, columns.size())
                .mapToObj(Integer::toString)
                .collect(Collectors.joining(", ", "unnest([", "]) AS c"));
        String values = columns.stream().map(Sql::name).collect(Collectors.joining(", ", "unnest([", "]) AS v"));
        String different = "SELECT DISTINCT " + numbers + ", " + values + " FROM (SELECT * FROM " + from + " LIMIT "
                + SAMPLE + ")";
        Profile[] profiles = columns.stream()
                .map(column -> new Profile(column, 0, 0, 0, 0, 0))
                .toArray(Profile[]::new);
        database.query(
                "SELECT c, count(v), " + countNumbers("v") + ", " + countDates("v") + ", " + mostDigits("v") + ", "
                        + mostDecimals("v") + " FROM (SELECT c, " + trimmed("v") + " AS v FROM (" + different
                        + ")) GROUP BY c",
                row -> profiles[row.getInt(1)] = profile(columns.get(row.getInt(1)), row, 2));
        return List.of(profiles);
    }

    private static List<Profile> allRows(
            Database database, String from, List<String> columns, Predicate<String> numbers, Predicate<String> dates) {
        List<Profile> profiles = new ArrayList<>();
        // the database takes long over statements of very many columns
        for (int first = 0; first < columns.size(); first += COLUMNS_AT_A_TIME) {
            int end = Math.min(first + COLUMNS_AT_A_TIME, columns.size());
            profiles.addAll(allRowsAtOnce(database, from, columns.subList(first, end), numbers, dates));
        }
        return profiles;
    }

    private static List<Profile> allRowsAtOnce(
            Database database, String from, List<String> columns, Predicate<String> numbers, Predicate<String> dates) {
        List<String> trimmed = new ArrayList<>();
        List<String> select = new ArrayList<>();
        for (String column : columns) {
            String value = Sql.name(column);
            boolean number = numbers.test(column);
            boolean date = dates.test(column);
            if (number || date) {
                trimmed.add(trimmed(column) + " AS " + value);
            }
            select.add(number || date ? "count(" + value + ")" : "1");
            select.add(number ? countNumbers(value) : "0");
            select.add(date ? countDates(value) : "0");
            select.add(number ? mostDigits(value) : "0");
            select.add(number ? mostDecimals(value) : "0");
        }
        String rows = trimmed.isEmpty() ? "" : " FROM (SELECT " + String.join(", ", trimmed) + " FROM " + from + ")";
        return database.query("SELECT " + String.join(", ", select) + rows, row -> profiles(row, columns))
                .get(0);
    }

    private static String countNumbers(String value) {
        return "count_if(regexp_full_match(" + value + ", " + Sql.text(TextTypes.NUMBER) + "))";
    }

    private static String countDates(String value) {
        return "count_if(" + isDate(value) + " AND try_cast(" + value + " AS DATE) IS NOT NULL)";
    }

    /** Returns the SQL of the most characters before a point. */
    private static String mostDigits(String value) {
        String point = "strpos(" + value + ", '.')";
        return "max(CASE WHEN " + point + " > 0 THEN " + point + " - 1 ELSE length(" + value + ") END)";
    }

    /** Returns the SQL of the most characters behind a point. */
    private static String mostDecimals(String value) {
        String point = "strpos(" + value + ", '.')";
        return "max(CASE WHEN " + point + " > 0 THEN length(" + value + ") - " + point + " ELSE 0 END)";
    }

    private static List<Profile> profiles(ResultSet row, List<String> columns) throws SQLException {
        List<Profile> profiles = new ArrayList<>();
        int at = 1;
        for (String column : columns) {
            profiles.add(profile(column, row, at));
            at += 5;
        }
        return profiles;
    }

    /** Reads five numbers of a row. */
    private static Profile profile(String column, ResultSet row, int at) throws SQLException {
        return new Profile(
                column,
                row.getLong(at),
                row.getLong(at + 1),
                row.getLong(at + 2),
                row.getInt(at + 3),
                row.getInt(at + 4));
    }
}
