package dev.mile.report.plan;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.UnreadValues;
import dev.mile.fact.Bands;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.NamedColumn;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.ValueType;
import dev.mile.internal.InterruptibleLock;
import dev.mile.internal.Messages;
import dev.mile.report.axis.AxisNames;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiFunction;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** What names refer to: the columns of facts and lookups, roles, and attributes of days. */
public final class NameResolver implements AxisNames {
    private final InterruptibleLock lock = new InterruptibleLock();
    private final Map<String, Fact> facts;
    private final Map<String, Lookup> lookups;
    private final Set<String> attributes;
    private final Function<String, Map<String, ValueType>> columnsOf;
    private final Function<String, Map<String, Map<String, DateRange>>> memberDays;
    private final BiFunction<String, String, Optional<UnreadValues>> unread;
    private final LocalDate asOf;
    private final Map<String, Map<String, ValueType>> known = new HashMap<>();
    private final Set<String> underWay = new LinkedHashSet<>();

    /**
     * Returns the catalog.
     *
     * @param attributes the names of the columns of the date dimension
     * @param columnsOf the columns of a fact or lookup; asked once for each
     * @param memberDays of a lookup that limits the days of its members, these days by column and member
     * @param unread the values of a column of a fact that cannot be read as numbers
     * @param asOf the as-of date
     */
    public NameResolver(
            Map<String, Fact> facts,
            Map<String, Lookup> lookups,
            Set<String> attributes,
            Function<String, Map<String, ValueType>> columnsOf,
            Function<String, Map<String, Map<String, DateRange>>> memberDays,
            BiFunction<String, String, Optional<UnreadValues>> unread,
            LocalDate asOf) {
        this.facts = facts;
        this.lookups = lookups;
        this.attributes = attributes;
        this.columnsOf = columnsOf;
        this.memberDays = memberDays;
        this.unread = unread;
        this.asOf = asOf;
    }

    /** Returns the values of a column of a fact that cannot be read as numbers, where they are known. */
    Optional<UnreadValues> unread(String fact, String column) {
        return unread.apply(fact, column);
    }

    private Map<String, ValueType> columns(String table) {
        return lock.during(() -> {
            Map<String, ValueType> found = known.get(table);
            if (found == null) {
                found = withNamed(facts.get(table), columnsOf.apply(table));
                known.put(table, found);
            }
            return found;
        });
    }

    private static Map<String, ValueType> withNamed(@Nullable Fact fact, Map<String, ValueType> source) {
        if (fact == null || fact.columns().isEmpty()) {
            return source;
        }
        Map<String, ValueType> all = new LinkedHashMap<>(source);
        fact.columns().forEach((name, named) -> {
            if (all.put(name, named.type()) != null) {
                throw ModelException.of(
                        "the fact '%s' computes a column '%s', which its source has too; give it another name",
                        fact.name(), name);
            }
        });
        return all;
    }

    /**
     * Returns the fact of the name.
     *
     * @throws MileException if there is none
     */
    public Fact fact(String name) {
        Fact fact = facts.get(name);
        if (fact == null) {
            throw ModelException.unknownName("fact", name, facts.keySet());
        }
        return fact;
    }

    /**
     * Looks a name up for a fact: a column, a role, a column of a lookup, or an attribute of days.
     *
     * @return empty where the fact lacks what another fact has
     * @throws MileException if nothing has the name
     */
    public Optional<Operand> resolve(String name, Fact fact) {
        int dot = name.indexOf('.');
        if (dot < 0) {
            Optional<Operand> column = column(fact, name).map(f -> f);
            if (column.isPresent()) {
                return column;
            }
            if (attributes.contains(name)) {
                return Optional.of(new Operand.DayAttribute(name));
            }
            if (facts.values().stream().anyMatch(f -> column(f, name).isPresent())) {
                return Optional.empty();
            }
            throw unknown(name);
        }
        String table = name.substring(0, dot);
        String column = name.substring(dot + 1);
        if (table.equals(fact.name())) {
            if (fact.dates().containsKey(column)) {
                return Optional.of(new Operand.RowDate(column));
            }
            Optional<Operand.Field> found = column(fact, column);
            if (found.isEmpty()) {
                Set<String> all = new TreeSet<>(columns(table).keySet());
                all.addAll(fact.dates().keySet());
                throw ModelException.of(
                        "the fact '%s' has no column or date role '%s'%s",
                        table, column, Messages.didYouMean(column, all));
            }
            return found.map(f -> f);
        }
        if (lookups.containsKey(table)) {
            return lookupField(fact, table, column).map(f -> f);
        }
        if (facts.containsKey(table)) {
            return Optional.empty();
        }
        throw unknown(name);
    }

    private Optional<Operand.Field> column(Fact fact, String column) {
        ValueType type = columns(fact.name()).get(column);
        if (type == null) {
            return Optional.empty();
        }
        if (fact.columns().containsKey(column)) {
            NamedColumn named = lookUp(fact, column);
            return Optional.of(new Operand.Field(List.of(), column, named.type(), Optional.of(named)));
        }
        // keys are names, even where they look like numbers
        return Optional.of(
                new Operand.Field(List.of(), column, fact.links().containsKey(column) ? ValueType.TEXT : type));
    }

    /** Returns a named column of the fact, its names looked up; one that is named in it is replaced by what it is. */
    private NamedColumn lookUp(Fact fact, String column) {
        return lock.during(() -> {
            if (!underWay.add(column)) {
                throw ModelException.of(
                        "the column '%s' of the fact '%s' is computed from itself; break the circle",
                        column, fact.name());
            }
            try {
                NamedColumn named = fact.columns().get(column);
                return new NamedColumn(expression(named.of(), fact), named.bands());
            } finally {
                underWay.remove(column);
            }
        });
    }

    /**
     * Looks the names of a row expression up.
     *
     * @throws MileException if the fact and its lookups lack one
     */
    RowExpression expression(RowExpression expression, Fact fact) {
        return lookUp(expression, fact).mapValues(NameResolver::inlined);
    }

    /** Looks the names of a row expression up as {@link #expression} does, a named column staying one. */
    RowExpression lookUp(RowExpression expression, Fact fact) {
        return expression.map(operand -> operand(operand, fact));
    }

    private static RowExpression inlined(Operand operand) {
        return operand instanceof Operand.Field field
                        && field.named()
                                .filter(named -> named.bands().isEmpty())
                                .isPresent()
                ? field.named().get().of()
                : new RowExpression.Value(operand);
    }

    private Operand operand(Operand operand, Fact fact) {
        if (!(operand instanceof Operand.Name name)) {
            return operand;
        }
        if (operand.isAsOf()) {
            return new Operand.Date(asOf);
        }
        return resolve(name.text(), fact)
                .orElseThrow(() -> ModelException.of(
                        "'%s' is not a column of the fact '%s' or of its lookups; an aggregate takes rows of one fact",
                        name.text(), fact.name()));
    }

    /**
     * Returns the bands whose keys the members of a dimension are; empty for a dimension without bands.
     *
     * @throws MileException if facts have different bands under the name
     */
    @Override
    public Optional<Bands> bands(String dimension) {
        Set<Optional<Bands>> found = new LinkedHashSet<>();
        facts.values().stream()
                .filter(fact -> isDimension(dimension, fact))
                .forEach(fact -> found.add(
                        dimension(dimension, fact).flatMap(Operand.Field::named).flatMap(NamedColumn::bands)));
        if (found.size() > 1) {
            throw ModelException.of(
                    "'%s' has different bands in several facts; write it with its fact, such as %s.%s",
                    dimension, facts.keySet().iterator().next(), dimension);
        }
        return found.stream().findFirst().orElse(Optional.empty());
    }

    private Optional<Operand.Field> lookupField(Fact fact, String lookup, String column) {
        ValueType type = columns(lookup).get(column);
        if (type == null) {
            throw ModelException.of(
                    "the lookup '%s' has no column '%s'%s",
                    lookup, column, Messages.didYouMean(column, columns(lookup).keySet()));
        }
        List<List<String>> paths = new ArrayList<>();
        paths(fact.links(), lookup, new ArrayList<>(), paths);
        if (paths.size() > 1) {
            throw ModelException.of(
                    "the fact '%s' reaches the lookup '%s' in %d ways (over %s); give one of them a lookup name of its own",
                    fact.name(),
                    lookup,
                    paths.size(),
                    String.join(
                            ", ",
                            paths.stream().map(p -> String.join(" then ", p)).toList()));
        }
        boolean key = lookups.get(lookup).key().equals(column)
                || lookups.get(lookup).links().containsKey(column);
        return paths.isEmpty()
                ? Optional.empty()
                : Optional.of(new Operand.Field(paths.get(0), column, key ? ValueType.TEXT : type));
    }

    private void paths(Map<String, String> links, String lookup, List<String> so, List<List<String>> found) {
        links.forEach((column, name) -> {
            if (so.size() > lookups.size()) {
                throw ModelException.of("lookups link to each other in a circle: %s; break it", String.join(", ", so));
            }
            List<String> path = new ArrayList<>(so);
            path.add(column);
            if (name.equals(lookup)) {
                found.add(path);
            }
            Lookup next = lookups.get(name);
            if (next != null) {
                paths(next.links(), lookup, path, found);
            }
        });
    }

    /** Returns the days on which single members of a field could have rows; no entry for members that always could. */
    Map<String, DateRange> memberDays(Operand.Field field, Fact fact) {
        boolean key = field.path().isEmpty();
        String link = fact.links().get(field.column());
        if (key && link == null) {
            return Map.of();
        }
        Lookup lookup = key ? lookups.get(link) : fact.lookupAt(field.path(), lookups);
        if (lookup == null || lookup.covers().isEmpty()) {
            return Map.of();
        }
        return memberDays.apply(lookup.name()).getOrDefault(key ? lookup.key() : field.column(), Map.of());
    }

    /** Returns the columns of a fact or lookup by name. */
    public Map<String, ValueType> columnsOf(String table) {
        return columns(table);
    }

    /** Returns the field of a dimension for a fact; empty where the fact lacks it. */
    public Optional<Operand.Field> dimension(String name, Fact fact) {
        Optional<Operand.Field> field =
                resolve(name, fact).filter(Operand.Field.class::isInstance).map(Operand.Field.class::cast);
        field.flatMap(Operand.Field::named)
                .filter(named -> named.bands().isEmpty() && !named.of().whole())
                .ifPresent(named -> {
                    String column = field.get().column();
                    throw ModelException.of(
                                    "'%s' is a number with decimals, computed as `%s`; group by bands of it: Fact.withBands",
                                    name, named.of())
                            .withModelWords(
                                    "'%s' is a number with decimals, computed as `%s`; group by bands of it, such as `bands:"
                                            + " {%s_band: {of: %s, edges: [1, 10]}}`",
                                    name, named.of(), column, column);
                });
        return field;
    }

    /** Returns whether some fact has the dimension. */
    @Override
    public boolean isDimension(String name) {
        int dot = name.indexOf('.');
        if (dot >= 0 && lookups.containsKey(name.substring(0, dot))) {
            return columns(name.substring(0, dot)).containsKey(name.substring(dot + 1));
        }
        return facts.values().stream().anyMatch(fact -> isDimension(name, fact));
    }

    private boolean isDimension(String name, Fact fact) {
        int dot = name.indexOf('.');
        if (dot >= 0) {
            return name.substring(0, dot).equals(fact.name())
                    && columns(fact.name()).containsKey(name.substring(dot + 1));
        }
        return columns(fact.name()).containsKey(name);
    }

    /** Returns whether the name is a column of the date dimension. */
    public boolean isAttribute(String name) {
        return attributes.contains(name);
    }

    private MileException unknown(String name) {
        return ModelException.unknownName("name", name, all());
    }

    /** Returns every name that a condition or a row of a report may use. */
    @Override
    public Set<String> all() {
        Set<String> names = new TreeSet<>();
        facts.values().forEach(f -> columns(f.name()).keySet().forEach(c -> {
            names.add(c);
            names.add(f.name() + "." + c);
        }));
        lookups.keySet().forEach(l -> columns(l).keySet().forEach(c -> names.add(l + "." + c)));
        names.addAll(attributes);
        return names;
    }
}
