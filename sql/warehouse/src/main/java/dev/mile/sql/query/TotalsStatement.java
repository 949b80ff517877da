package dev.mile.sql.query;

import dev.mile.calendar.DateRange;
import dev.mile.sql.dialect.Dialect;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * The parts of a statement that adds up by group and day.
 *
 * @param before the clause before SELECT
 * @param members the members of a group
 * @param day the epoch day
 * @param date the same day as a date, if the relation has such a column
 * @param columns the totals
 * @param fact the relation of the fact, with its alias
 * @param joins what is joined to it, which leaves its rows as they are
 * @param keep the condition of rows; {@code true} for all
 */
public record TotalsStatement(
        String before,
        List<Member> members,
        String day,
        Optional<String> date,
        List<Column> columns,
        String fact,
        String joins,
        String keep) {
    private static final String ROWS = "count(*)";

    /**
     * The member of a group.
     *
     * @param text the expression of its name
     * @param computed whether it is the key of a band or a number, rather than a text of the source
     * @param paysToNumber whether it is a column that is never null, which the source holds as numbers in a dictionary, of rows in no order
     */
    public record Member(String text, boolean computed, boolean paysToNumber) {}

    /**
     * A total.
     *
     * @param sql its expression
     * @param distinct the value whose different texts it lists, if it does
     * @param filter the condition of its rows; {@code true} for all
     */
    public record Column(String sql, Optional<String> distinct, String filter) {}

    /** Returns the statement with another expression of a column, and of those that hold the same; it needs one more join. */
    public TotalsStatement withColumn(int column, String sql, String join) {
        Column of = columns.get(column);
        Column other = new Column(sql, of.distinct(), of.filter());
        List<Column> changed =
                columns.stream().map(c -> c.equals(of) ? other : c).toList();
        return new TotalsStatement(before, members, day, date, changed, fact, joins + join, keep);
    }

    /** Returns the statement for other days than those of the rows, and one more join. */
    public TotalsStatement by(String day, String join) {
        return new TotalsStatement(before, members, day, date, columns, fact, joins + join, keep);
    }

    /** Returns the statement for another member of each group. */
    public TotalsStatement byMember(String text) {
        return new TotalsStatement(
                before, List.of(new Member(text, true, false)), day, date, columns, fact, joins, keep);
    }

    /** Returns an earlier column that holds the same; -1 if there is none. */
    public int same(int column) {
        int first = columns.indexOf(columns.get(column));
        return first == column ? -1 : first;
    }

    /** Returns whether a column counts the rows, which {@code n} does anyway. */
    public boolean isRows(int column) {
        return columns.get(column).sql().equals(ROWS);
    }

    /** Returns the name of a column in the rows of the statement. */
    public String name(int column) {
        return isRows(column) ? "n" : "c" + column;
    }

    /** Returns the statement: members as {@code g0} and so on, {@code epoch_day}, {@code n} rows, then {@code c0} and so on, each once. */
    public String grouped() {
        List<String> select = new ArrayList<>();
        for (int g = 0; g < members.size(); g++) {
            select.add(members.get(g).text() + " AS g" + g);
        }
        select.add(day + " AS epoch_day");
        select.add(ROWS + " AS n");
        for (int c = 0; c < columns.size(); c++) {
            if (same(c) < 0 && !isRows(c)) {
                select.add(columns.get(c).sql() + " AS c" + c);
            }
        }
        return before + "SELECT " + String.join(", ", select) + " FROM " + fact + joins
                + (keep.equals("true") ? "" : " WHERE " + keep) + " GROUP BY "
                + members.stream().map(member -> member.text() + ", ").collect(Collectors.joining())
                + day;
    }

    /** Returns a statement of the different values of an expression in the rows kept, as {@code v}. */
    public String values(String expression) {
        return before + "SELECT DISTINCT " + expression + " AS v FROM " + fact + joins + " WHERE " + keep;
    }

    /** Returns a statement that counts all rows of the fact. */
    public String all() {
        return before + "SELECT count(*) FROM " + fact;
    }

    /** Returns a statement that counts the rows kept of each day outside a range. */
    public String outside(DateRange range) {
        return before + "SELECT " + day + ", count(*) FROM " + fact + joins + " WHERE " + keep + " AND (" + day
                + " IS NULL OR " + day + " NOT BETWEEN " + range.firstEpochDay() + " AND " + range.lastEpochDay()
                + ") GROUP BY " + day;
    }

    /** Returns the statement with its rows by group, blanks last, then by day. */
    String ordered(Dialect dialect) {
        StringBuilder order = new StringBuilder();
        for (int g = 0; g < members.size(); g++) {
            Member member = members.get(g);
            order.append(
                            member.computed()
                                    ? dialect.orderOfComputed(member.text(), "g" + g)
                                    : dialect.byCodePoint(member.text()))
                    .append(" NULLS LAST, ");
        }
        return grouped() + " ORDER BY " + order + day;
    }
}
