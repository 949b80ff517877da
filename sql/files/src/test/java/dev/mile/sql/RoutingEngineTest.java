package dev.mile.sql;

import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.SourceLocation;
import dev.mile.engine.DataSchema;
import dev.mile.engine.Source;
import dev.mile.engine.Warehouse;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.sql.files.FileLimits;
import java.util.Map;
import org.junit.jupiter.api.Test;

class RoutingEngineTest {
    @Test
    void factsAndTheirLookupsAreInOnePlace() {
        Fact fact = Fact.of("t", "on", "day").withLink("shop", "shops");
        Lookup shops = new Lookup("shops", "shop", Map.of());
        Map<String, Source> sources = Map.of(
                "t",
                Source.table("t", "warehouse").withLocation(SourceLocation.of("mile.yaml", 12, 5)),
                "shops",
                Source.files("shops.csv"));
        assertThatThrownBy(() -> RoutingEngine.over(
                        DataSchema.of(Map.of("t", fact), Map.of("shops", shops)).withSources(sources),
                        Map.of("warehouse", Warehouse.of("warehouse", "jdbc:postgresql://localhost/sales")),
                        FileLimits.NONE))
                .hasMessage(
                        "mile.yaml:12:5: 't' is in the warehouse 'warehouse' and its lookup 'shops' in a file; they are joined, so put"
                                + " both into one place");
    }
}
