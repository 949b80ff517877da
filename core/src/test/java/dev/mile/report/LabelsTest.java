package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.measure.Measure;
import dev.mile.testkit.TestRows;
import java.time.Month;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** How people read the names of dimensions, levels and measures. */
class LabelsTest {
    private static Project.Builder project() {
        return Project.named("p")
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .calendar("retail", FiscalCalendar.startingIn(Month.FEBRUARY))
                .fact(Fact.of("sales", "on", "on").withLink("shop", "shops").withLink("item", "items"))
                .lookup(new Lookup("shops", "shop", Map.of()))
                .lookup(new Lookup("items", "item", Map.of()))
                .measure("net_sales", Measure.sum("sales", "net"));
    }

    private static Grid.Header header(Project project, String... rows) {
        MemoryEngine engine = MemoryEngine.over(project)
                .rows(
                        "sales",
                        TestRows.of("on:date,shop,item,sales_channel,net:number", "2026-01-05,S1,I1,web,5")
                                .table())
                .rows(
                        "shops",
                        TestRows.of("shop,region,name", "S1,North,Alderwick").table())
                .rows("items", TestRows.of("item,region", "I1,East").table());
        try (Session session = Session.open(project, engine)) {
            return session.report(Report.of("year_end", List.of(rows), List.of("net_sales")))
                    .header();
        }
    }

    private static List<String> labels(Grid.Header header) {
        return header.keys().stream().map(Grid.Key::label).toList();
    }

    @Test
    void namesAreReadInWords() {
        Grid.Header header = header(project().build(), "retail.year", "weekday_name", "sales_channel", "shops.region");
        assertThat(labels(header)).containsExactly("Retail year", "Weekday name", "Sales channel", "Region");
        assertThat(header.keys())
                .extracting(Grid.Key::name)
                .containsExactly("retail.year", "weekday_name", "sales_channel", "shops.region");
        assertThat(header.title()).isEqualTo("Year end");
        assertThat(header.columns().get(0).label()).isEqualTo("Net sales");
        assertThat(header.columns().get(0).header()).isEqualTo("net_sales");
    }

    @Test
    void namesThatWouldBeReadAlikeSayWhatTheyBelongTo() {
        assertThat(labels(header(project().build(), "shops.region", "items.region", "shops.name")))
                .containsExactly("Shops region", "Items region", "Name");
        Project labelled = project()
                .label("shops.region", "Region")
                .label("shops.name", "Shop")
                .build();
        assertThat(labels(header(labelled, "shops.region", "items.region", "shops.name")))
                .containsExactly("Region", "Items region", "Shop");
        assertThat(labelled)
                .isNotEqualTo(project().build())
                .isEqualTo(labelled.toBuilder().build());
    }

    @Test
    void aDimensionHasOneLabel() {
        Project.Builder builder = project().label("sales_channel", "Channel").label("sales_channel", "Channel");
        assertThatThrownBy(() -> builder.label("sales_channel", "Way"))
                .hasMessage("the dimension 'sales_channel' has the labels 'Channel' and 'Way'; give it one");
    }
}
