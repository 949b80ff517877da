package dev.mile.sql.cache;

import static java.util.Objects.requireNonNull;

import dev.mile.StoppedException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.BucketingCursor;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.UnreadValues;
import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.internal.InterruptibleLock;
import dev.mile.sql.files.FileFingerprint;
import dev.mile.sql.query.Database;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.IntToLongFunction;
import java.util.function.Supplier;
import java.util.stream.Stream;

/**
 * Keeps what an engine answers about files, and gives it again as long as nothing that the answer depends on has changed: the
 * files, the fact with its lookups, the zone, the question, and what was known of days. Where Parquet files were added to those
 * of a pattern, only they are read. Tables of warehouses may change without a trace, so their answers are not kept.
 */
public final class CachingEngine implements Engine {
    /** Cache format version; change it when results can differ. */
    static final String VERSION = "mile 0.1.0, store 16";

    private final InterruptibleLock lock = new InterruptibleLock();
    private final Engine base;
    private final DataSchema schema;
    private final CacheableTables tables;
    private final TotalsCache cache;
    private final Consumer<String> notices;
    private final Map<String, Optional<FileFingerprint>> fingerprints = new ConcurrentHashMap<>();
    private final Map<String, String> definitions = new ConcurrentHashMap<>();
    private final Map<String, List<DateCount>> datesByFact = new ConcurrentHashMap<>();
    private final Set<String> noticed = ConcurrentHashMap.newKeySet();

    /**
     * Returns an engine that caches answers.
     *
     * @param base what is asked where nothing is cached; closed with this one
     * @param tables which answers may be cached
     * @param cache where answers are kept
     * @param notices receives, once for each cause, why answers cannot be cached
     */
    public CachingEngine(Engine base, CacheableTables tables, TotalsCache cache, Consumer<String> notices) {
        requireNonNull(base, "base is null");
        requireNonNull(tables, "tables is null");
        requireNonNull(cache, "cache is null");
        requireNonNull(notices, "notices is null");
        this.base = base;
        this.schema = base.schema();
        this.tables = tables;
        this.cache = cache;
        this.notices = notices;
    }

    @Override
    public DataSchema schema() {
        return schema;
    }

    // ---- what answers depend on

    /** Returns what the rows of a table came from when they were first asked for. */
    private Optional<FileFingerprint> fingerprint(String table) {
        return fingerprints.computeIfAbsent(table, tables::fingerprint);
    }

    private List<String> files(String table) {
        return fingerprint(table).map(FileFingerprint::files).orElse(List.of());
    }

    /** Returns whether answers about the table may be cached. */
    private boolean isCacheable(String table) {
        return schema.tablesBelow(table).stream().allMatch(t -> fingerprint(t).isPresent());
    }

    /** Returns whether the files are still what they were when the answer was begun. */
    private boolean isUnchanged(String table) {
        return schema.tablesBelow(table).stream().allMatch(t -> {
            Optional<FileFingerprint> before = fingerprint(t);
            return before.filter(FileFingerprint::settled).isPresent() && before.equals(tables.fingerprint(t));
        });
    }

    /** Returns a key of all that an answer about the table depends on, but for the table's own files. */
    private CacheKey key(String question, String table) {
        return new CacheKey().add(VERSION).add(question).add(definitions.computeIfAbsent(table, this::definition));
    }

    /** Returns a digest of what a table and its lookups are, and of the files of the lookups. */
    private String definition(String table) {
        CacheKey key = new CacheKey().add(schema.zone().getId());
        for (String name : schema.tablesBelow(table)) {
            key.add(name).add(schema.facts().get(name)).add(schema.lookups().get(name));
            key.add(schema.source(name).map(Object::toString).orElse(""));
            if (!name.equals(table)) {
                key.add(files(name));
            }
        }
        return key.name();
    }

    // ---- small answers

    private <T> T cached(
            CacheKey key,
            String table,
            Supplier<T> asked,
            Function<T, List<List<String>>> written,
            Function<List<List<String>>, T> read) {
        if (!isCacheable(table)) {
            return asked.get();
        }
        String name = key.add(files(table)).name();
        Optional<List<List<String>>> known = cache.small(name);
        if (known.isPresent()) {
            return read.apply(known.get());
        }
        T answer = asked.get();
        keep(name, table, written.apply(answer));
        return answer;
    }

    private void keep(String name, String table, List<List<String>> rows) {
        if (isUnchanged(table)) {
            try {
                cache.keep(name, rows);
            } catch (IOException e) {
                failed(TotalsCache.words(e));
            }
        }
    }

    private void failed(String why) {
        // an interrupt is no fault of the store
        StoppedException.throwIfInterrupted(Thread.currentThread());
        String line = Database.firstLine(why);
        // one cause is enough: the others are of its kind
        if (noticed.isEmpty() && noticed.add(line)) {
            notices.accept("totals are not kept for the next time: " + line);
        }
    }

    @Override
    public Map<String, ValueType> columns(String table) {
        return cached(
                key("columns", table),
                table,
                () -> base.columns(table),
                types -> types.entrySet().stream()
                        .map(e -> List.of(e.getKey(), e.getValue().name()))
                        .toList(),
                rows -> {
                    Map<String, ValueType> types = new LinkedHashMap<>();
                    rows.forEach(row -> types.put(row.get(0), ValueType.valueOf(row.get(1))));
                    return types;
                });
    }

    @Override
    public List<DateCount> dates(String fact) {
        return isCacheable(fact)
                ? lock.during(() -> datesByFact.computeIfAbsent(fact, this::counted))
                : base.dates(fact);
    }

    /** The first row names the files that were counted; those of files that were added since are counted by themselves. */
    private List<DateCount> counted(String fact) {
        String name = key("dates", fact).name();
        List<String> files = files(fact);
        List<List<String>> kept = cache.small(name).orElse(List.of());
        List<String> counted = kept.isEmpty() ? List.of() : kept.get(0);
        if (counted.equals(files)) {
            return DatesCodec.read(kept.subList(1, kept.size()));
        }
        List<DateCount> all;
        if (mayAdd(fact, counted)) {
            try (Engine rest = added(fact, counted)) {
                all = together(DatesCodec.read(kept.subList(1, kept.size())), rest.dates(fact));
            }
        } else {
            all = base.dates(fact);
        }
        List<List<String>> rows = new ArrayList<>();
        rows.add(files);
        rows.addAll(DatesCodec.written(all));
        keep(name, fact, rows);
        return all;
    }

    /** Adds counts up, days of a role rising, roles in the order of the first. */
    private static List<DateCount> together(List<DateCount> a, List<DateCount> b) {
        Map<String, TreeMap<Long, Long>> counts = new LinkedHashMap<>();
        Stream.concat(a.stream(), b.stream()).forEach(d -> counts.computeIfAbsent(d.role(), r -> new TreeMap<>())
                .merge(d.day(), d.rows(), Long::sum));
        List<DateCount> all = new ArrayList<>();
        counts.forEach((role, days) -> days.forEach((day, rows) -> all.add(new DateCount(role, day, rows))));
        return all;
    }

    @Override
    public DateRange coverage(String fact, String role, DayContext days) {
        return cached(
                key("coverage", fact).add(role).add(days.dimensionRange()),
                fact,
                () -> base.coverage(fact, role, days),
                range -> range.isEmpty()
                        ? List.of()
                        : List.of(List.of(range.first().toString(), range.last().toString())),
                rows -> rows.isEmpty()
                        ? DateRange.EMPTY
                        : DateRange.of(
                                LocalDate.parse(rows.get(0).get(0)),
                                LocalDate.parse(rows.get(0).get(1))));
    }

    // ---- files that were added

    /** Returns whether Parquet files were added to those of an answer, and none of those has changed. */
    private boolean mayAdd(String fact, List<String> answered) {
        return tables.growsByFiles(fact) && !answered.isEmpty() && new HashSet<>(files(fact)).containsAll(answered);
    }

    /** Returns an engine over the files that are not among those of an answer. */
    private Engine added(String fact, List<String> answered) {
        return tables.openFiles(
                fact,
                files(fact).stream().filter(file -> !answered.contains(file)).toList());
    }

    @Override
    public Optional<String> example(String fact, String role, long day) {
        return base.example(fact, role, day);
    }

    @Override
    public Optional<UnreadValues> unread(String table, String column, ValueType as) {
        return base.unread(table, column, as);
    }

    @Override
    public FactAccounts.Rejected rejected(String fact) {
        return cached(
                key("rejected", fact),
                fact,
                () -> base.rejected(fact),
                r -> List.of(List.of(Long.toString(r.lines()), r.example(), Long.toString(r.afterEnd()))),
                rows -> new FactAccounts.Rejected(
                        Long.parseLong(rows.get(0).get(0)),
                        rows.get(0).get(1),
                        Long.parseLong(rows.get(0).get(2))));
    }

    @Override
    public FactAccounts accounts(String fact, List<Operand.Field> amounts, DayContext days) {
        return cached(
                key("accounts", fact).add(amounts).add(days.dimensionRange()).add((long) days.asOf()),
                fact,
                () -> base.accounts(fact, amounts, days),
                AccountsCodec::written,
                AccountsCodec::read);
    }

    @Override
    public Table rows(String table) {
        return cached(key("rows", table), table, () -> base.rows(table), TableCodec::written, TableCodec::read);
    }

    // ---- totals

    /**
     * Totals of each of all days are kept, which answer other reports too. Those of buckets are made of them, and kept as well:
     * they are the few that the same report asks for again.
     */
    @Override
    public TotalsCursor totals(TotalsRequest request, DayContext days) {
        String fact = request.fact();
        if (!isCacheable(fact)) {
            return base.totals(request, days);
        }
        TotalsRequest whole =
                TotalsRequest.daily(fact, request.role(), days.dimensionRange(), request.groups(), request.columns());
        if (request.buckets().isDaily()) {
            return new BucketingCursor(daily(whole, days), request);
        }
        return cachedOrComputed(
                request,
                name(request, days),
                ", stretches of days",
                before -> Optional.empty(),
                () -> new BucketingCursor(daily(whole, days), request));
    }

    private String name(TotalsRequest request, DayContext days) {
        CacheKey key = key("totals", request.fact()).add(request);
        addDays(key, request, days);
        return key.name();
    }

    private TotalsCursor daily(TotalsRequest request, DayContext days) {
        // floating sums would depend in their last digit on which files came when
        boolean exact = request.columns().stream()
                .noneMatch(c -> c.value().filter(RowExpression::floating).isPresent());
        return cachedOrComputed(
                request,
                name(request, days),
                " and day",
                before -> exact && mayAdd(request.fact(), before.notes().files())
                        ? appended(request, days, before)
                        : Optional.empty(),
                () -> base.totals(request, days));
    }

    /**
     * Returns the totals that are kept, or makes them and keeps them.
     *
     * @param made makes them of those that are kept of other files, if it can; otherwise these are closed
     * @param anew computes them from the sources
     */
    private TotalsCursor cachedOrComputed(
            TotalsRequest request,
            String name,
            String by,
            Function<CachedTotalsCursor, Optional<TotalsCursor>> made,
            Supplier<TotalsCursor> anew) {
        String fact = request.fact();
        int groups = request.groups().size();
        List<String> files = files(fact);
        Optional<CachedTotalsCursor> known =
                cache.totals(name, groups, request.columns().size());
        if (known.isPresent() && known.get().notes().files().equals(files)) {
            cache.used(name);
            return known.get();
        }
        Optional<TotalsCursor> more = known.flatMap(made);
        if (more.isEmpty()) {
            known.ifPresent(CachedTotalsCursor::close);
        }
        String about = fact + " by " + request.role() + by
                + request.groups().stream().map(g -> ", " + g).reduce("", String::concat);
        return cache.keeping(more.orElseGet(anew), name, groups, about, files, new TotalsCache.Listener() {
            @Override
            public boolean shouldKeep() {
                return isUnchanged(fact);
            }

            @Override
            public void failed(String why) {
                CachingEngine.this.failed(why);
            }
        });
    }

    /** Adds the totals of the files that are new to those that are kept; empty where the new ones have other columns. */
    private Optional<TotalsCursor> appended(TotalsRequest request, DayContext days, CachedTotalsCursor before) {
        String fact = request.fact();
        Engine rest = added(fact, before.notes().files());
        if (!rest.columns(fact).equals(base.columns(fact))) {
            rest.close();
            return Optional.empty();
        }
        return Optional.of(new MergingCursor(before, rest.totals(request, days), request, rest::close));
    }

    // ---- what was known of days

    private void addDays(CacheKey key, TotalsRequest request, DayContext days) {
        List<RowExpression.Elapsed> elapsed = request.elapsed().toList();
        boolean attributes = schema.fact(request.fact()).filter().isPresent();
        for (TotalColumn column : request.columns()) {
            attributes |= column.where().isPresent();
        }
        if (attributes) {
            Set<String> named = new TreeSet<>();
            request.columns().forEach(c -> c.where().ifPresent(where -> collect(where, named)));
            schema.fact(request.fact()).filter().ifPresent(keep -> collect(keep, named));
            for (String attribute : named) {
                key.add(attribute).add(days.attributeType(attribute));
                DateRange placed = days.dimensionRange();
                for (int day = placed.firstEpochDay(); day <= placed.lastEpochDay(); day++) {
                    key.add(days.attribute(attribute, day));
                }
            }
        }
        addDays(key, elapsed, days);
    }

    private static void collect(Condition condition, Set<String> attributes) {
        for (Operand operand : condition.operands()) {
            if (operand.innermost() instanceof Operand.DayAttribute attribute) {
                attributes.add(attribute.column());
            }
        }
    }

    private static void addDays(CacheKey key, List<RowExpression.Elapsed> elapsed, DayContext days) {
        if (elapsed.isEmpty()) {
            return;
        }
        DateRange counted = days.elapsedRange();
        key.add(counted);
        List<IntToLongFunction> weeks = elapsed.stream()
                .filter(e -> e.unit() == RowExpression.TimeUnit.WORKING_DAYS)
                .map(days::cumulativeWorkingMillionths)
                .toList();
        for (int day = counted.firstEpochDay(); day <= counted.lastEpochDay(); day++) {
            for (IntToLongFunction worked : weeks) {
                key.add(worked.applyAsLong(day));
            }
        }
    }

    @Override
    public void close() {
        base.close();
    }
}
