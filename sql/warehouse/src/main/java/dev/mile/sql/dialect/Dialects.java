package dev.mile.sql.dialect;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.engine.Warehouse;
import java.util.ArrayList;
import java.util.List;
import java.util.ServiceLoader;

/** The dialects of this program. */
public final class Dialects {
    private static final List<Dialect> BUILT_IN = List.of(new PostgresDialect(), new H2Dialect());

    private Dialects() {}

    /**
     * {@return the dialect of a warehouse: one on the class path, or else one that comes with Mile}
     *
     * @param warehouse the warehouse
     * @throws MileException if none takes its URL
     */
    public static Dialect of(Warehouse warehouse) {
        requireNonNull(warehouse, "warehouse is null");
        List<Dialect> known = new ArrayList<>();
        ServiceLoader.load(Dialect.class).forEach(known::add);
        known.addAll(BUILT_IN);
        return known.stream()
                .filter(dialect -> warehouse.url().startsWith(dialect.urlPrefix()))
                .findFirst()
                .orElseThrow(() -> ModelException.of(
                                "no dialect is known for the url '%s' of the warehouse '%s'; known: %s; another is added by a class"
                                        + " that extends %s, named in META-INF/services",
                                warehouse.url(),
                                warehouse.name(),
                                String.join(
                                        ", ",
                                        known.stream().map(Dialect::urlPrefix).toList()),
                                Dialect.class.getName())
                        .withLocationOf(warehouse));
    }
}
