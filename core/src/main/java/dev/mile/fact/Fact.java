package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.fact.RowExpression.NamedColumn;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.internal.Messages;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A table of events or snapshots with amounts, dimension keys and one or more dates.
 *
 * @param name its name in measures
 * @param dates the columns of its date roles by role; the first is the default
 * @param links the lookups by the column that holds their key
 * @param filter the rows that count; empty for all
 * @param dayStarts the time at which a day of a column with times begins
 * @param grain the periods that its date column names; empty where rows have a day
 * @param spread how an amount of a period is spread over its days
 * @param plan whether it is about the future or an intention, so that the as-of date does not cut it
 * @param covers the days on which it can have rows
 * @param columns the columns that it names beside those of its source
 */
public record Fact(
        String name,
        Map<String, String> dates,
        Map<String, String> links,
        Optional<Condition> filter,
        LocalTime dayStarts,
        Optional<Grain> grain,
        Spread spread,
        boolean plan,
        CoveredDays covers,
        Map<String, NamedColumn> columns) {
    public Fact {
        requireNonNull(name, "name is null");
        dates = Collections.unmodifiableMap(new LinkedHashMap<>(dates));
        links = Collections.unmodifiableMap(new LinkedHashMap<>(links));
        requireNonNull(filter, "keep is null");
        requireNonNull(dayStarts, "dayStarts is null");
        requireNonNull(grain, "grain is null");
        requireNonNull(spread, "spread is null");
        requireNonNull(covers, "covers is null");
        columns = Collections.unmodifiableMap(new LinkedHashMap<>(columns));
        if (dates.isEmpty()) {
            throw ModelException.of(
                            "the fact '%s' has no date role; name one: Fact.of(\"%s\", \"ordered\", \"order_date\")",
                            name, name)
                    .withModelWords("the fact '%s' has no date role; name one: `dates: {ordered: order_date}`", name);
        }
        if (grain.isPresent() && !plan) {
            throw ModelException.of(
                            "the fact '%s' has a grain but is not a plan; make it one, with asPlan(), or take the grain away",
                            name)
                    .withModelWords(
                            "the fact '%s' has a grain but is not a plan; say `plan: true`, or take the grain away",
                            name);
        }
    }

    /**
     * {@return a fact of actual events with one date role}
     *
     * @param name the name
     * @param role the date role
     * @param column the column
     */
    public static Fact of(String name, String role, String column) {
        requireNonNull(name, "name is null");
        requireNonNull(role, "role is null");
        requireNonNull(column, "column is null");
        return new Fact(
                name,
                Map.of(role, column),
                Map.of(),
                Optional.empty(),
                LocalTime.MIDNIGHT,
                Optional.empty(),
                Spread.DAYS,
                false,
                CoveredDays.OF_ROWS,
                Map.of());
    }

    /**
     * {@return the fact with one more date role}
     *
     * @param role the date role
     * @param column the column
     */
    public Fact withDate(String role, String column) {
        requireNonNull(role, "role is null");
        requireNonNull(column, "column is null");
        Map<String, String> more = new LinkedHashMap<>(dates);
        more.put(role, column);
        return new Fact(name, more, links, filter, dayStarts, grain, spread, plan, covers, columns);
    }

    /**
     * {@return the fact with a column that holds the key of a lookup}
     *
     * @param column the column
     * @param lookup the lookup
     */
    public Fact withLink(String column, String lookup) {
        requireNonNull(column, "column is null");
        requireNonNull(lookup, "lookup is null");
        Map<String, String> more = new LinkedHashMap<>(links);
        more.put(column, lookup);
        return new Fact(name, dates, more, filter, dayStarts, grain, spread, plan, covers, columns);
    }

    /**
     * {@return the fact with only the rows for which the condition holds}
     *
     * @param condition the condition
     */
    public Fact withFilter(Condition condition) {
        requireNonNull(condition, "condition is null");
        return new Fact(name, dates, links, Optional.of(condition), dayStarts, grain, spread, plan, covers, columns);
    }

    /** {@return the fact as a plan} */
    public Fact asPlan() {
        return new Fact(name, dates, links, filter, dayStarts, grain, spread, true, covers, columns);
    }

    /**
     * {@return the fact as a plan whose rows are about whole periods}
     *
     * @param periods the periods that its rows are about
     * @param how how amounts are spread
     */
    public Fact withGrain(Grain periods, Spread how) {
        requireNonNull(periods, "periods is null");
        requireNonNull(how, "how is null");
        return new Fact(name, dates, links, filter, dayStarts, Optional.of(periods), how, true, covers, columns);
    }

    /**
     * {@return the fact with the days on which it can have rows, in place of what its rows show}
     *
     * @param days the days
     */
    public Fact withCoveredDays(CoveredDays days) {
        requireNonNull(days, "days is null");
        return new Fact(name, dates, links, filter, dayStarts, grain, spread, plan, days, columns);
    }

    /**
     * {@return the fact with a number computed from each row, to be used like a column}
     *
     * @param column the column
     * @param of the number
     * @throws MileException if it names such a column already
     */
    public Fact withColumn(String column, RowExpression of) {
        requireNonNull(of, "of is null");
        return withColumn(column, new NamedColumn(of, Optional.empty()));
    }

    /**
     * {@return the fact with the band of a number computed from each row, to be used like a column}
     *
     * @param column the column
     * @param of the number
     * @param bands the bands
     * @throws MileException if it names such a column already
     */
    public Fact withBands(String column, RowExpression of, Bands bands) {
        requireNonNull(of, "of is null");
        requireNonNull(bands, "bands is null");
        return withColumn(column, new NamedColumn(of, Optional.of(bands)));
    }

    private Fact withColumn(String column, NamedColumn named) {
        requireNonNull(column, "column is null");
        Map<String, NamedColumn> more = new LinkedHashMap<>(columns);
        if (more.put(column, named) != null) {
            throw ModelException.of("the fact '%s' names the column '%s' twice; names must differ", name, column);
        }
        return new Fact(name, dates, links, filter, dayStarts, grain, spread, plan, covers, more);
    }

    /**
     * {@return the fact with days that begin at the time}
     *
     * @param time the time of day
     */
    public Fact withDayStart(LocalTime time) {
        requireNonNull(time, "time is null");
        return new Fact(name, dates, links, filter, time, grain, spread, plan, covers, columns);
    }

    /**
     * {@return the lookup at the end of a path of linked columns, which is not empty}
     *
     * @param path the linked columns that are followed from the fact
     * @param lookups the lookups by name
     */
    public Lookup lookupAt(List<String> path, Map<String, Lookup> lookups) {
        requireNonNull(path, "path is null");
        requireNonNull(lookups, "lookups is null");
        Map<String, String> hanging = links;
        Lookup at = null;
        for (String column : path) {
            at = lookups.get(hanging.get(column));
            hanging = at.links();
        }
        return at;
    }

    /**
     * {@return the links of the fact and, at any depth, of its lookups; each link comes before those of its lookup}
     *
     * @param lookups the lookups by name
     */
    public List<Link> linksAtAnyDepth(Map<String, Lookup> lookups) {
        requireNonNull(lookups, "lookups is null");
        List<Link> found = new ArrayList<>();
        addLinks(List.of(), links, lookups, found);
        return found;
    }

    private static void addLinks(
            List<String> before, Map<String, String> hanging, Map<String, Lookup> lookups, List<Link> into) {
        hanging.forEach((column, name) -> {
            List<String> path = new ArrayList<>(before);
            path.add(column);
            Lookup lookup = lookups.get(name);
            // lookups that link in a circle are refused where they are read
            if (path.size() <= lookups.size()) {
                into.add(new Link(path, lookup));
                addLinks(path, lookup.links(), lookups, into);
            }
        });
    }

    /** {@return the columns that are texts whatever their values look like: keys, and labels of periods} */
    public Set<String> textColumns() {
        Set<String> texts = new HashSet<>(links.keySet());
        if (grain.isPresent()) {
            texts.addAll(dates.values());
        }
        return texts;
    }

    /**
     * {@return the condition for rows that count, its names looked up among the fact's own columns}
     *
     * @param types the types of the columns of its source
     * @throws MileException if it names something else
     */
    public Optional<Condition> resolveFilter(Map<String, ValueType> types) {
        requireNonNull(types, "types is null");
        return filter.map(condition -> condition.map(operand -> resolveInFilter(operand, types)));
    }

    private Operand resolveInFilter(Operand operand, Map<String, ValueType> types) {
        if (operand instanceof Operand.Changed changed) {
            return new Operand.Changed(changed.function(), resolveInFilter(changed.of(), types));
        }
        if (operand instanceof Operand.Computed computed) {
            throw ModelException.of(
                            "the filter of the fact '%s' computes `%s`; it compares columns only, so put that into the measures or reports",
                            name, computed)
                    .withModelWords(
                            "`keep` of the fact '%s' computes `%s`; it compares columns only, so say it in `where`",
                            name, computed);
        }
        if (!(operand instanceof Operand.Name n)) {
            return operand;
        }
        String column = n.text().startsWith(name + ".") ? n.text().substring(name.length() + 1) : n.text();
        if (columns.containsKey(column)) {
            throw ModelException.of(
                            "the filter of the fact '%s' names '%s', which is computed; it compares columns of the source only, so"
                                    + " put that into the measures or reports",
                            name, n.text())
                    .withModelWords(
                            "`keep` of the fact '%s' names '%s', which is computed; it compares columns of the source only, so"
                                    + " say it in `where`",
                            name, n.text());
        }
        if (!types.containsKey(column)) {
            throw ModelException.of(
                            "the filter of the fact '%s' names '%s', which is not one of its columns%s",
                            name, n.text(), Messages.didYouMean(column, types.keySet()))
                    .withModelWords(
                            "`keep` of the fact '%s' names '%s', which is not one of its columns%s",
                            name, n.text(), Messages.didYouMean(column, types.keySet()));
        }
        return new Operand.Field(List.of(), column, types.get(column));
    }

    /** {@return the roles in order} */
    public List<String> roles() {
        return List.copyOf(dates.keySet());
    }

    /** {@return the default role, the first} */
    public String defaultRole() {
        return dates.keySet().iterator().next();
    }

    /**
     * {@return the column of the role}
     *
     * @param role the date role
     * @throws MileException if the fact has no such role
     */
    public String column(String role) {
        requireNonNull(role, "role is null");
        String column = dates.get(role);
        if (column == null) {
            throw unknownRole(role);
        }
        return column;
    }

    /**
     * {@return the error that the fact has no such date role}
     *
     * @param role the date role
     */
    public ModelException unknownRole(String role) {
        requireNonNull(role, "role is null");
        return ModelException.of(
                "the fact '%s' has no date role '%s'%s", name, role, Messages.didYouMean(role, dates.keySet()));
    }
}
