package dev.mile.engine.memory;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.RowExpressionReader;
import dev.mile.engine.RowPredicate;
import dev.mile.engine.SchemaCheck;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TruthValue;
import dev.mile.engine.rows.FactRows;
import dev.mile.engine.rows.JoinedRows;
import dev.mile.fact.ColumnValues;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.internal.Messages;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;

/**
 * Reads the rows of a fact one by one, as every engine must, for those who write an engine: dates in any role, members over any number of
 * lookups, conditions, arithmetic, time between dates, named columns and bands, and what must be refused. What is left to the engine is
 * to add up; docs/engines.md builds one.
 *
 * <p>Rows are numbered from 0. Safe for use by several threads.
 */
public final class FactReader {
    private final Fact fact;
    private final FactRows all;
    private final JoinedRows joined;

    private FactReader(DataSchema schema, Fact fact, Map<String, Table> tables) {
        this.fact = fact;
        this.all = new FactRows(schema, fact.name(), tables, 1);
        this.joined = new JoinedRows(fact, schema.lookups(), tables);
    }

    /**
     * {@return a reader of the rows of a fact}
     *
     * @param schema the facts and lookups
     * @param fact the name of the fact
     * @param tables the rows of the fact and of the lookups that hang on it, by name
     * @throws MileException if there is no such fact, or a table lacks what the schema names
     */
    public static FactReader over(DataSchema schema, String fact, Map<String, Table> tables) {
        requireNonNull(schema, "schema is null");
        Map<String, Table> known = new HashMap<>(tables);
        Fact found = schema.fact(requireNonNull(fact, "fact is null"));
        schema.tablesBelow(fact).forEach(name -> columns(schema, name, known));
        return new FactReader(schema, found, known);
    }

    /**
     * {@return the types of the columns of a fact or lookup, as an engine answers them}
     *
     * @param schema the facts and lookups
     * @param name the fact or lookup
     * @param tables the rows by the names of facts and lookups
     * @throws MileException if there is no such table, or it lacks what the schema names
     */
    public static Map<String, ValueType> columns(DataSchema schema, String name, Map<String, Table> tables) {
        requireNonNull(schema, "schema is null");
        Map<String, ValueType> types = table(name, tables).types();
        if (schema.facts().containsKey(name)) {
            SchemaCheck.fact(schema.fact(name), types.keySet(), "its table");
        } else {
            SchemaCheck.lookup(schema.lookups().get(name), types.keySet());
        }
        return types;
    }

    /**
     * {@return the table of a fact or lookup}
     *
     * @param name the fact or lookup
     * @param tables the rows by the names of facts and lookups
     * @throws MileException if there is none
     */
    public static Table table(String name, Map<String, Table> tables) {
        requireNonNull(name, "name is null");
        Table found = tables.get(name);
        if (found == null) {
            throw ModelException.of("no rows were given for '%s'%s", name, Messages.didYouMean(name, tables.keySet()));
        }
        return found;
    }

    /** {@return how many rows there are, those that the fact does not keep among them} */
    public int rows() {
        return joined.table().rows();
    }

    /**
     * {@return the epoch day of a row in a role; {@link Table#NO_DATE} where it has none, {@link Table#UNREADABLE} where it cannot be read}
     *
     * @param role the role
     * @param row the row
     */
    public int day(String role, int row) {
        return joined.day(role, row);
    }

    /**
     * {@return whether the filter of the fact holds for a row; true for all where it has none}
     *
     * @param days what is known of days
     */
    public RowPredicate filter(DayContext days) {
        return fact.resolveFilter(joined.table().types())
                .map(filter -> condition(filter, fact.defaultRole(), days))
                .orElse(row -> TruthValue.TRUE);
    }

    /**
     * {@return whether a condition holds for a row}
     *
     * @param condition the condition, its names looked up, as requests have it
     * @param role the role whose date places rows in time, for conditions on the day
     * @param days what is known of days
     * @throws MileException if it compares values of different kinds
     */
    public RowPredicate condition(Condition condition, String role, DayContext days) {
        requireNonNull(condition, "condition is null");
        return RowPredicate.of(condition, joined.source(row -> joined.day(role, row), row -> row, days), days);
    }

    /**
     * {@return what a row is grouped by: a text; null for a blank}
     *
     * @param group the column, as requests have it: of the fact or a lookup, or one that the fact names
     * @param days what is known of days
     */
    public IntFunction<@Nullable String> member(Operand.Field group, DayContext days) {
        ColumnValues.Texts texts = joined.coded(requireNonNull(group, "group is null"), days);
        return texts::text;
    }

    /**
     * {@return what a row is grouped by, in the order of the columns: texts, null for a blank}
     *
     * @param groups the columns, as requests have them
     * @param days what is known of days
     */
    public IntFunction<List<@Nullable String>> members(List<Operand.Field> groups, DayContext days) {
        List<IntFunction<@Nullable String>> members =
                groups.stream().map(group -> member(group, days)).toList();
        return row ->
                Arrays.asList(members.stream().map(member -> member.apply(row)).toArray(String[]::new));
    }

    /**
     * {@return the values of a column as texts, of which the different ones are counted; null for a blank}
     *
     * @param value the value of a column that counts different values
     * @param days what is known of days
     * @throws MileException if it is not a column
     */
    public IntFunction<@Nullable String> member(RowExpression value, DayContext days) {
        if (value instanceof RowExpression.Value column && column.operand() instanceof Operand.Field field) {
            return member(field, days);
        }
        throw ModelException.of("distinct counts the values of a column, not of `%s`", value);
    }

    /**
     * {@return whether a row counts for a total: true where its condition holds and its value, if it has one, is not blank}
     *
     * @param total the total, as requests have it
     * @param role the role whose date places rows in time
     * @param days what is known of days
     * @throws MileException if its condition compares values of different kinds
     */
    public RowPredicate counts(TotalColumn total, String role, DayContext days) {
        RowPredicate where =
                total.where().map(condition -> condition(condition, role, days)).orElse(row -> TruthValue.TRUE);
        RowPredicate blank =
                total.value().map(value -> joined.blankRow(value, days)).orElse(row -> TruthValue.FALSE);
        return row -> blank.test(row) == TruthValue.FALSE ? where.test(row) : TruthValue.FALSE;
    }

    /**
     * {@return the number of a row}
     *
     * @param value the value, as requests have it
     * @param days what is known of days
     * @throws MileException if it is not a number
     */
    public RowExpressionReader number(RowExpression value, DayContext days) {
        requireNonNull(value, "value is null");
        return RowExpressionReader.of(value, joined, days);
    }

    /** {@return how many rows each date has in every role, of those that the fact keeps} */
    public List<DateCount> dates() {
        return all.dates();
    }

    /**
     * {@return a row that has the date in the role, as people can find it; empty where none has}
     *
     * @param role the role
     * @param day the epoch day
     */
    public Optional<String> example(String role, long day) {
        return all.example(role, day);
    }

    /**
     * {@return what became of every row}
     *
     * @param amounts the amount columns that are added up
     * @param days what is known of days
     */
    public FactAccounts accounts(List<Operand.Field> amounts, DayContext days) {
        return all.accounts(amounts, days);
    }
}
