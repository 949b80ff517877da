package dev.mile.sql.query;

import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.Comparisons;
import dev.mile.engine.DayContext;
import dev.mile.engine.RowPredicate;
import dev.mile.fact.Bands;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.NamedColumn;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.TextFunction;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import dev.mile.sql.dialect.Dialect;
import dev.mile.sql.dialect.Sql;
import java.math.BigDecimal;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;

/** Writes conditions and row expressions of one fact as SQL, and remembers the joins they need. Used for one statement. */
final class SqlCompiler {
    /** The alias of the fact. */
    static final String FACT = "f";

    private final Dialect dialect;
    private final Fact fact;
    private final Map<String, Lookup> lookups;
    private final Function<String, Relation> relations;
    private final DayContext days;
    private final String role;
    private final Map<List<String>, String> joined = new LinkedHashMap<>();
    private final Map<String, String> dayJoins = new LinkedHashMap<>();
    private final StringBuilder joins = new StringBuilder();

    SqlCompiler(
            Fact fact,
            String role,
            Map<String, Lookup> lookups,
            Function<String, Relation> relations,
            DayContext days,
            Dialect dialect) {
        this.dialect = dialect;
        this.fact = fact;
        this.role = role;
        this.lookups = lookups;
        this.relations = relations;
        this.days = days;
    }

    /** Returns the relation with its joins, for use after FROM. */
    String from() {
        return fact() + joins();
    }

    /** Returns the relation alone. */
    String fact() {
        return relations.apply(fact.name()).sql() + " AS " + FACT;
    }

    /** Returns the joins that what was compiled so far needs. */
    String joins() {
        return joins.toString();
    }

    /** Returns the condition for rows that the fact keeps; {@code true} where it keeps all. */
    String keep() {
        return fact.resolveFilter(relations.apply(fact.name()).types())
                .map(this::condition)
                .orElse("true");
    }

    /** Returns the epoch day of the role. */
    static String day(String role) {
        return FACT + "." + Relation.dayColumn(role);
    }

    /** Returns the date column that holds the day of the role, if there is one. */
    Optional<String> date(String role) {
        return Optional.ofNullable(relations.apply(fact.name()).dates().get(role))
                .map(column -> FACT + "." + Sql.name(column));
    }

    String field(Operand.Field field) {
        if (field.named().isEmpty()) {
            return alias(field.path()) + "." + Sql.name(field.column());
        }
        NamedColumn named = field.named().get();
        return named.bands()
                .map(bands -> band(named.of(), bands, bands.labels()))
                .orElseGet(() -> expression(named.of()));
    }

    /** Returns the field as a text, the name of a member; a band as its key. */
    String member(Operand.Field field) {
        Optional<Bands> bands = field.named().flatMap(NamedColumn::bands);
        if (bands.isEmpty()) {
            return dialect.text(field(field));
        }
        return band(field.named().get().of(), bands.get(), bands.get().keys());
    }

    /** Returns the text of the band that holds a number; null where the number is. */
    private String band(RowExpression of, Bands bands, List<String> texts) {
        String number = expression(of);
        StringBuilder band = new StringBuilder("CASE WHEN ").append(number).append(" IS NULL THEN NULL");
        for (int i = 0; i < bands.edges().size(); i++) {
            band.append(" WHEN ")
                    .append(number)
                    .append(" < ")
                    .append(number(bands.edges().get(i)))
                    .append(" THEN ")
                    .append(Sql.text(texts.get(i)));
        }
        return band + " ELSE " + Sql.text(texts.get(texts.size() - 1)) + " END";
    }

    private String alias(List<String> path) {
        if (path.isEmpty()) {
            return FACT;
        }
        String known = joined.get(path);
        if (known != null) {
            return known;
        }
        List<String> before = path.subList(0, path.size() - 1);
        String left = alias(before);
        Lookup lookup = fact.lookupAt(path, lookups);
        String alias = Sql.name("l" + joined.size());
        joins.append(" LEFT JOIN ")
                .append(relations.apply(lookup.name()).sql())
                .append(" AS ")
                .append(alias)
                .append(" ON ")
                .append(dialect.text(left + "." + Sql.name(path.get(path.size() - 1))))
                .append(" = ")
                .append(dialect.text(alias + "." + Sql.name(lookup.key())));
        joined.put(List.copyOf(path), alias);
        return alias;
    }

    // ---- conditions

    String condition(Condition condition) {
        if (condition instanceof Condition.And and) {
            return and.parts().stream().map(this::condition).collect(Collectors.joining(" AND ", "(", ")"));
        }
        if (condition instanceof Condition.Or or) {
            return or.parts().stream().map(this::condition).collect(Collectors.joining(" OR ", "(", ")"));
        }
        if (condition instanceof Condition.Not not) {
            return "(NOT " + condition(not.part()) + ")";
        }
        List<Operand> operands = condition.operands();
        if (operands.stream().map(Operand::innermost).anyMatch(Operand.DayAttribute.class::isInstance)) {
            return dayCondition(condition, operands);
        }
        if (condition instanceof Condition.IsBlank blank) {
            Comparisons.type(blank.value(), days);
            return "(" + operand(blank.value(), null) + " IS NULL)";
        }
        if (condition instanceof Condition.Like like) {
            Comparisons.commonType(condition, List.of(like.value(), new Operand.Text("x")), days);
            return "(" + dialect.like(dialect.text(operand(like.value(), null)), like.pattern()) + ")";
        }
        if (condition instanceof Condition.Between b) {
            ValueType type = Comparisons.commonType(condition, operands, days);
            return "(" + operand(b.value(), type) + " BETWEEN " + operand(b.low(), type) + " AND "
                    + operand(b.high(), type) + ")";
        }
        ValueType type = Comparisons.commonType(condition, operands, days);
        if (condition instanceof Condition.In in) {
            return "(" + operand(in.value(), type) + " IN "
                    + in.among().stream().map(o -> operand(o, type)).collect(Collectors.joining(", ", "(", ")")) + ")";
        }
        Condition.Compare c = (Condition.Compare) condition;
        String sign = c.comparison() == Condition.Comparison.UNEQUAL
                ? "<>"
                : c.comparison().sign();
        return "(" + operand(c.left(), type) + " " + sign + " " + operand(c.right(), type) + ")";
    }

    private String operand(Operand operand, ValueType type) {
        if (operand instanceof Operand.Field field) {
            // nothing but blanks fits any comparison and any sum
            String nothing = type == null ? "CAST(NULL AS DECIMAL(1, 0))" : "NULL";
            if (field.type() == ValueType.BLANK_ONLY) {
                return nothing;
            }
            return type == ValueType.TEXT ? dialect.byCodePoint(field(field)) : field(field);
        }
        if (operand instanceof Operand.RowDate date) {
            String day = day(date.role());
            return "CASE WHEN " + day + " > " + Table.UNREADABLE + " THEN " + dialect.date(day) + " END";
        }
        if (operand instanceof Operand.Number number) {
            return number(number.value());
        }
        if (operand instanceof Operand.Computed computed) {
            return expression(computed.of());
        }
        if (operand instanceof Operand.Changed changed) {
            String text = changed(changed);
            return type == ValueType.TEXT ? dialect.byCodePoint(text) : text;
        }
        String text = ((Operand.Text) operand).value();
        return type == ValueType.DATE ? "DATE " + Sql.text(text) : dialect.byCodePoint(Sql.text(text));
    }

    private String changed(Operand.Changed changed) {
        if (Comparisons.type(changed, days) == ValueType.BLANK_ONLY) {
            return "CAST(NULL AS VARCHAR(1))";
        }
        String of = dialect.text(
                changed.of() instanceof Operand.Changed inner ? changed(inner) : operand(changed.of(), null));
        return switch (changed.function()) {
            case LOWER -> dialect.lower(of);
            case TRIM -> "nullif(" + dialect.trim(of, TextFunction.BLANKS) + ", '')";
        };
    }

    private static String number(BigDecimal value) {
        String plain = value.toPlainString();
        return "CAST(" + plain + " AS DECIMAL(" + Math.max(value.precision(), value.scale() + 1) + ", "
                + Math.max(value.scale(), 0) + "))";
    }

    /** Works a comparison of attributes of days out for every day, since the database knows no calendars. */
    private String dayCondition(Condition condition, List<Operand> operands) {
        for (Operand operand : operands) {
            if (!operand.innermost().isSameForAllRowsOfADay()) {
                throw ModelException.of(
                        "`%s` compares an attribute of the day with a column of the row; compare each with a constant",
                        condition);
            }
        }
        StringBuilder yes = new StringBuilder();
        StringBuilder unknown = new StringBuilder();
        DateRange placed = days.dimensionRange();
        RowPredicate.DayTest test = RowPredicate.dayTest(condition, days);
        for (int day = placed.firstEpochDay(); day <= placed.lastEpochDay(); day++) {
            switch (test.test(day)) {
                case TRUE -> yes.append(yes.isEmpty() ? "" : ",").append(day);
                case UNKNOWN -> unknown.append(unknown.isEmpty() ? "" : ",").append(day);
                default -> {}
            }
        }
        String day = day(role);
        return "(CASE WHEN " + in(day, yes) + " THEN true WHEN " + in(day, unknown) + " THEN NULL ELSE false END)";
    }

    private static String in(String value, StringBuilder list) {
        return list.isEmpty() ? "false" : value + " IN (" + list + ")";
    }

    // ---- row expressions

    String expression(RowExpression e) {
        if (e instanceof RowExpression.Constant c) {
            return number(c.value());
        }
        if (e instanceof RowExpression.Value v) {
            return operand(v.operand(), null);
        }
        if (e instanceof RowExpression.Elapsed elapsed) {
            return elapsed(elapsed);
        }
        if (e instanceof RowExpression.OrElse o) {
            String number = number(o.otherwise());
            return "coalesce(" + expression(o.of()) + ", " + (e.floating() ? dialect.floating(number) : number) + ")";
        }
        RowExpression.Arithmetic a = (RowExpression.Arithmetic) e;
        String left = expression(a.left());
        String right = expression(a.right());
        if (a.sign() == RowExpression.Sign.DIVIDED_BY) {
            return "(" + dialect.floating(left) + " / nullif(" + dialect.floating(right) + ", 0))";
        }
        if (e.floating()) {
            left = dialect.floating(left);
            right = dialect.floating(right);
        } else {
            left = dialect.wide(left);
        }
        return "(" + left + " " + a.sign().text() + " " + right + ")";
    }

    /** Returns the alias of the table of days, joined on the date. */
    private String dayRow(Operand date) {
        String day = date instanceof Operand.RowDate d
                ? day(d.role())
                : date instanceof Operand.Date d ? Integer.toString(EpochDays.of(d.date())) : day((Operand.Field) date);
        String known = dayJoins.get(day);
        if (known != null) {
            return known;
        }
        String alias = Sql.name("d" + dayJoins.size());
        dayJoins.put(day, alias);
        joins.append(" LEFT JOIN ")
                .append(DayTable.NAME)
                .append(" AS ")
                .append(alias)
                .append(" ON ")
                .append(alias)
                .append(".epoch_day = ")
                .append(day);
        return alias;
    }

    private String day(Operand.Field field) {
        String value = field(field);
        String day = field.type() == ValueType.DATE ? dialect.epochDay(value) : dialect.epochDayOfText(value);
        return "nullif(" + day + ", " + Table.UNREADABLE + ")";
    }

    private String elapsed(RowExpression.Elapsed e) {
        String a = dayRow(e.from());
        String b = dayRow(e.to());
        return switch (e.unit()) {
            case DAYS -> "(" + b + ".epoch_day - " + a + ".epoch_day)";
            case WEEKS -> {
                String elapsed = "(" + b + ".epoch_day - " + a + ".epoch_day)";
                yield "CAST((" + elapsed + " - " + elapsed + " % 7) / 7 AS INTEGER)";
            }
            case WORKING_DAYS -> {
                String index = "." + DayTable.week(e);
                yield "(CAST(" + b + index + " - " + a + index
                        + " AS DECIMAL(18, 0)) * CAST(0.000001 AS DECIMAL(7, 6)))";
            }
            case MONTHS ->
                complete(
                        a,
                        b,
                        "period_at",
                        (from, to) ->
                                "(" + to + ".day_in_unit < least(" + from + ".day_in_unit, " + to + ".unit_days))");
            case YEARS ->
                complete(
                        a,
                        b,
                        "year_at",
                        (from, to) -> "(" + to + ".number_in_year < " + from + ".number_in_year OR (" + to
                                + ".number_in_year = " + from + ".number_in_year AND " + to + ".day_in_unit < least("
                                + from + ".day_in_unit, " + to + ".unit_days)))");
        };
    }

    private interface NotYet {
        String sql(String from, String to);
    }

    /** Complete units: boundaries crossed, less one where the place in the unit is not reached yet; negative backwards. */
    private static String complete(String a, String b, String unit, NotYet notYet) {
        String ahead = "(" + b + "." + unit + " - " + a + "." + unit + " - CASE WHEN " + notYet.sql(a, b)
                + " THEN 1 ELSE 0 END)";
        String back = "(-(" + a + "." + unit + " - " + b + "." + unit + " - CASE WHEN " + notYet.sql(b, a)
                + " THEN 1 ELSE 0 END))";
        return "(CASE WHEN " + b + ".epoch_day >= " + a + ".epoch_day THEN " + ahead + " WHEN " + b + ".epoch_day < "
                + a + ".epoch_day THEN " + back + " END)";
    }
}
