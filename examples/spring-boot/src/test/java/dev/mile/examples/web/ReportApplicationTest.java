package dev.mile.examples.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import dev.mile.demo.DemoProject;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.web.client.TestRestTemplate;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** The service as its callers meet it: over HTTP. */
@SpringBootTest(webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT)
class ReportApplicationTest {
    private static Path folder;

    @Autowired
    private TestRestTemplate http;

    @DynamicPropertySource
    static void model(DynamicPropertyRegistry properties) throws IOException {
        // the service starts before a folder of the test framework would be there
        folder = Files.createTempDirectory(Files.createDirectories(Path.of("target")), "demo");
        DemoProject.write(folder, 2_000);
        properties.add("mile.model", () -> folder.resolve("mile.yaml").toString());
    }

    private JsonNode get(String path) {
        ResponseEntity<JsonNode> answer = http.getForEntity(path, JsonNode.class);
        assertThat(answer.getStatusCode()).as("%s: %s", path, answer.getBody()).isEqualTo(HttpStatus.OK);
        return answer.getBody();
    }

    private JsonNode total(String measure) {
        JsonNode report = get("/reports/roles");
        int column = List.of("sales", "sales_dispatched", "sales_paid").indexOf(measure);
        for (JsonNode row : report.get("rows")) {
            if (row.get("kind").asText().equals("total")) {
                return row.get("values").get(column);
            }
        }
        throw new AssertionError("the report has no total: " + report);
    }

    @Test
    void reportsAreJsonAndReloadedWhileTheyAreAskedFor() throws IOException {
        assertThat(get("/reports")).extracting(JsonNode::asText).contains("trading", "roles", "budget");
        JsonNode rows = get("/reports/roles/rows");
        assertThat(rows.get(0).fieldNames())
                .toIterable()
                .containsExactly("year", "quarter", "sales", "sales_dispatched", "sales_paid");
        double before = total("sales").asDouble();
        assertThat(before).isPositive();

        Path sales = folder.resolve("sales.csv");
        String header = Files.readAllLines(sales).get(0);
        String last = Files.readAllLines(sales).get(1_500);
        Files.writeString(sales, last + "\n", StandardOpenOption.APPEND);
        assertThat(total("sales").asDouble()).isEqualTo(before);
        assertThat(http.postForEntity("/reload", null, Void.class).getStatusCode())
                .isEqualTo(HttpStatus.NO_CONTENT);
        int amount = List.of(header.split(",")).indexOf("net_amount");
        double added = Double.parseDouble(last.split(",")[amount]);
        IntStream.range(0, 20).parallel().forEach(i -> assertThat(total("sales").asDouble())
                .isCloseTo(before + added, within(0.001)));
    }

    @Test
    void errorsAndFindingsAreData() {
        ResponseEntity<JsonNode> unknown = http.getForEntity("/reports/tradnig", JsonNode.class);
        assertThat(unknown.getStatusCode()).isEqualTo(HttpStatus.NOT_FOUND);
        assertThat(unknown.getBody().get("code").asText()).isEqualTo("UNKNOWN_NAME");
        assertThat(unknown.getBody().get("values").get(1).asText()).isEqualTo("tradnig");
        assertThat(unknown.getBody().get("detail").asText()).contains("did you mean 'trading'?");
        assertThat(get("/findings").get(0).get("severity").asText()).isIn("error", "warning", "note");
        assertThat(get("/explain?measure=sales&at=FY2025")
                        .get("value")
                        .get("text")
                        .asText())
                .isNotEmpty();
    }
}
