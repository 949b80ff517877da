package dev.mile.spark;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.MileException;
import dev.mile.SourceLocation;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.Engine;
import dev.mile.engine.EngineProvider;
import dev.mile.engine.Source;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.ValueType;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Map;
import java.util.ServiceLoader;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What the command line finds on the class path, over the files of a model. */
class SparkProviderTest {
    private static final SourceLocation PLACE = SourceLocation.of("mile.yaml", 3, 5);

    @TempDir
    Path folder;

    private static Source files(Path path) {
        return Source.files(path.toString()).withLocation(PLACE);
    }

    private static EngineProvider provider() {
        return ServiceLoader.load(EngineProvider.class).stream()
                .map(ServiceLoader.Provider::get)
                .filter(p -> p.name().equals("spark"))
                .findFirst()
                .orElseThrow();
    }

    private Source csv(String name, String text) throws IOException {
        return files(Files.writeString(folder.resolve(name), text));
    }

    private static Engine open(Map<String, Fact> facts, Map<String, Lookup> lookups, Map<String, Source> sources) {
        return provider().open(DataSchema.of(facts, lookups).withSources(sources), Map.of("master", "local[1]"));
    }

    @Test
    void textFilesAreTypedByAllTheirValues() throws IOException {
        Fact sales = Fact.of("sales", "ordered", "day").withLink("shop", "shops");
        Map<String, Source> sources = Map.of(
                "sales",
                csv(
                        "sales.csv",
                        "day,shop,code,amount,note\n2026-01-05,7,007,12.50,\"a \"\"b\"\", c\"\n2026-01-06,8,010,-3.125,\n"
                                + "soon,9,1,,x\n,7,2,900,y\n"),
                "shops",
                csv("shops.csv", "shop,region\n7,North\n8,South\n"));
        try (Engine engine =
                open(Map.of("sales", sales), Map.of("shops", new Lookup("shops", "shop", Map.of())), sources)) {
            assertThat(engine.columns("sales"))
                    .isEqualTo(Map.of(
                            "day", ValueType.TEXT,
                            "shop", ValueType.TEXT,
                            "code", ValueType.TEXT,
                            "amount", ValueType.NUMBER,
                            "note", ValueType.TEXT));
            assertThat(engine.rows("sales").textAt("amount", 1)).isEqualTo("-3.125");
            assertThat(engine.rows("sales").textAt("note", 0)).isEqualTo("a \"b\", c");
            assertThat(engine.dates("sales"))
                    .containsExactly(
                            new DateCount(
                                    "ordered", LocalDate.parse("2026-01-05").toEpochDay(), 1),
                            new DateCount(
                                    "ordered", LocalDate.parse("2026-01-06").toEpochDay(), 1));
            assertThat(engine.example(
                            "sales", "ordered", LocalDate.parse("2026-01-06").toEpochDay()))
                    .hasValueSatisfying(row -> assertThat(row).contains("-3.125"));
        }
    }

    @Test
    void whatCannotBeReadIsNamed() throws IOException {
        Map<String, Fact> facts = Map.of("t", Fact.of("t", "on", "day"));
        assertThatThrownBy(() -> open(
                        facts, Map.of(), Map.of("t", Source.table("t", "dwh").withLocation(PLACE))))
                .isInstanceOf(MileException.class)
                .hasMessageContaining("mile.yaml:3:5: the table 't' is in a warehouse");
        assertThatThrownBy(() -> open(facts, Map.of(), Map.of("t", files(folder.resolve("none.parquet")))))
                .isInstanceOf(MileException.class)
                .hasMessageContaining("none.parquet cannot be read");
        Path cut = Files.writeString(folder.resolve("cut.parquet"), "PAR1 and nothing more");
        assertThatThrownBy(() -> open(facts, Map.of(), Map.of("t", files(cut))))
                .isInstanceOf(MileException.class)
                .hasMessageContaining("cut.parquet cannot be read");
    }
}
