package dev.mile.jackson;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.mile.SourceLocation;
import dev.mile.calendar.DateRange;
import dev.mile.measure.Value;
import dev.mile.render.text.Grids;
import dev.mile.report.Explanation;
import dev.mile.report.Finding;
import dev.mile.report.Grid;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class MileModuleTest {
    private static final ObjectMapper MAPPER = new ObjectMapper().findAndRegisterModules();

    private static JsonNode written(Object value) throws JsonProcessingException {
        return MAPPER.readTree(MAPPER.writeValueAsString(value));
    }

    @Test
    void aGridIsWrittenWithItsRowsAndNotes() throws JsonProcessingException {
        Grid grid = Grids.shops(List.of("A", "B"), Optional.empty());
        JsonNode json = written(Map.of("report", grid)).get("report");
        assertThat(json.get("keys")).extracting(JsonNode::asText).containsExactlyElementsOf(grid.keys());
        assertThat(json.get("rows")).hasSize(grid.rows().size());
        JsonNode leaf = json.get("rows").get(grid.rows().size() - 1);
        assertThat(leaf.get("labels").get(1).asText()).isEqualTo("B");
        assertThat(leaf.get("kind").asText()).isEqualTo("leaf");
    }

    @Test
    void rowsAreObjectsWithExactNumbers() throws JsonProcessingException {
        Grid grid = Grids.shops(List.of("A"), Optional.empty());
        assertThat(written(grid.leaves().findFirst().orElseThrow()))
                .hasToString("{\"year\":\"FY2026\",\"shop\":\"A\",\"sales\":100.25,\"growth\":0,\"goal_value\":100.25,"
                        + "\"goal_against\":50,\"goal_status\":\"met\"}");
        Grid.Row large = new Grid.Row(
                Grid.RowKind.LEAF,
                List.of("FY2026", ""),
                DateRange.EMPTY,
                List.of(),
                List.of(
                        Value.of(new BigDecimal("12345678901234567.89")),
                        Value.UNDEFINED,
                        Value.NOTHING,
                        Value.of(0.1),
                        Value.UNKNOWN),
                Map.of(),
                List.of());
        Grid one = new Grid(grid.header(), List.of(large), List.of());
        assertThat(written(one.leaves().toList()))
                .hasToString("[{\"year\":\"FY2026\",\"shop\":\"\",\"sales\":\"12345678901234567.89\",\"growth\":null,"
                        + "\"goal_value\":null,\"goal_against\":0.1,\"goal_status\":null}]");
    }

    @Test
    void anExplanationIsATree() throws JsonProcessingException {
        Explanation.Operand sales = new Explanation.Operand(
                "sum(sales.net)", Value.of(15, 1), Optional.empty(), Optional.of("sales"), 2, List.of(), List.of());
        Explanation explanation =
                new Explanation("sales", "FY2026", DateRange.EMPTY, Optional.empty(), sales, List.of("a note"));
        assertThat(written(explanation))
                .hasToString(
                        "{\"measure\":\"sales\",\"cell\":\"FY2026\",\"from\":null,\"to\":null,\"as_of\":null,\"value\":{\"text\":"
                                + "\"sum(sales.net)\",\"value\":1.5,\"rows_of\":\"sales\",\"rows\":2},\"notes\":[\"a note\"]}");
    }

    @Test
    void findingsAreData() throws JsonProcessingException {
        Finding finding = new Finding(
                Finding.Severity.WARNING,
                "sales",
                Optional.of(SourceLocation.of("mile.yaml", 3, 5)),
                "odd",
                Optional.empty());
        assertThat(written(List.of(finding)).toString())
                .isEqualTo(
                        "[{\"severity\":\"warning\",\"subject\":\"sales\",\"location\":{\"file\":\"mile.yaml\",\"line\":3,"
                                + "\"column\":5},\"text\":\"odd\",\"remedy\":null}]");
    }
}
