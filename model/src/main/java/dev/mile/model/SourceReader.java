package dev.mile.model;

import dev.mile.engine.FileFormat;
import dev.mile.engine.Source;
import dev.mile.engine.Warehouse;
import dev.mile.internal.Messages;
import java.nio.file.Path;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Reads the sources of a model file, and the warehouses that hold some of them. */
final class SourceReader {
    private final Path folder;
    private final Locale locale;
    private final Map<String, Warehouse> warehouses;

    SourceReader(Path folder, Locale locale, Map<String, Warehouse> warehouses) {
        this.folder = folder;
        this.locale = locale;
        this.warehouses = warehouses;
    }

    Source source(YamlNode yaml) {
        if (yaml.isMap() && yaml.entries().containsKey("file")) {
            return file(yaml);
        }
        if (yaml.isMap()) {
            Map<String, YamlNode> keys = yaml.entries("table", "query", "in", "unpivot");
            if (keys.containsKey("table") == keys.containsKey("query") || !keys.containsKey("in")) {
                throw yaml.error(
                        "a source is a file, as in {file: sales.csv}, a table with its connection, as in {table: sales, in: warehouse}, or a"
                                + " query, as in {query: \"select …\", in: warehouse}");
            }
            String in = keys.get("in").text();
            if (!warehouses.containsKey(in)) {
                throw keys.get("in")
                        .error("unknown warehouse '%s'%s", in, Messages.didYouMean(in, warehouses.keySet()));
            }
            Source.InWarehouse rows = keys.containsKey("query")
                    ? new Source.WarehouseQuery(keys.get("query").text(), in, Optional.of(yaml.location()))
                    : new Source.WarehouseTable(keys.get("table").text(), in, Optional.of(yaml.location()));
            return unpivot(keys.get("unpivot"))
                    .map(columns -> Source.unpivoted(rows, columns).withLocation(yaml.location()))
                    .orElse(rows);
        }
        return Source.files(yaml.file(folder).toString()).withLocation(yaml.location());
    }

    private Source file(YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries(
                "file", "numbers", "dates", "encoding", "separator", "sheet", "header", "until", "unpivot", "rejects");
        Map<String, String> dates = new LinkedHashMap<>();
        Optional<YamlNode> said = Optional.ofNullable(keys.get("dates"));
        said.filter(YamlNode::isMap).ifPresent(byColumn -> byColumn.entries()
                .forEach((column, example) -> dates.put(column, example.text())));
        said.filter(one -> !one.isMap()).ifPresent(one -> dates.put("", one.text()));
        int header = keys.containsKey("header") ? keys.get("header").asInt() : 1;
        if (header < 1) {
            throw keys.get("header").error("`header` is %d; lines are counted from 1", header);
        }
        FileFormat format = new FileFormat(
                text(keys, "numbers"),
                dates,
                text(keys, "encoding"),
                text(keys, "separator"),
                text(keys, "sheet"),
                header,
                text(keys, "until"),
                unpivot(keys.get("unpivot")),
                countsRejects(keys.get("rejects")),
                locale);
        return Source.files(keys.get("file").file(folder).toString(), format).withLocation(yaml.location());
    }

    private static boolean countsRejects(@Nullable YamlNode yaml) {
        if (yaml == null || yaml.text().equals("stop")) {
            return false;
        }
        if (!yaml.text().equals("count")) {
            throw yaml.error("`rejects` is '%s'; expected stop or count", yaml.text());
        }
        return true;
    }

    private static Optional<FileFormat.Unpivot> unpivot(@Nullable YamlNode yaml) {
        if (yaml == null) {
            return Optional.empty();
        }
        Map<String, YamlNode> keys = yaml.entries("columns", "into", "values", "as");
        yaml.require(keys, "columns", "columns: Jan..Dec");
        yaml.require(keys, "into", "into: month");
        yaml.require(keys, "values", "values: amount");
        String[] ends = keys.get("columns").text().split("\\.\\.", 2);
        return Optional.of(new FileFormat.Unpivot(
                ends[0].strip(),
                ends[ends.length - 1].strip(),
                keys.get("into").text(),
                keys.get("values").text(),
                text(keys, "as").orElse("{column}")));
    }

    private static Optional<String> text(Map<String, YamlNode> keys, String key) {
        return Optional.ofNullable(keys.get(key)).map(YamlNode::text);
    }

    Warehouse warehouse(String name, YamlNode yaml) {
        Map<String, YamlNode> keys = yaml.entries("url", "user", "password_variable", "password_file", "timeout");
        yaml.require(keys, "url", "url: jdbc:postgresql://localhost/sales");
        Warehouse warehouse =
                keys.get("url").read(url -> Warehouse.of(name, url)).withLocation(yaml.location());
        if (keys.containsKey("user")) {
            warehouse = warehouse.withUser(keys.get("user").text());
        }
        if (keys.containsKey("password_variable")) {
            warehouse = warehouse.withPassword(new Warehouse.PasswordSource.Variable(
                    keys.get("password_variable").text()));
        } else if (keys.containsKey("password_file")) {
            String file = keys.get("password_file").file(folder).toString();
            warehouse = warehouse.withPassword(new Warehouse.PasswordSource.FirstLine(file));
        }
        if (keys.containsKey("timeout")) {
            Duration timeout = Duration.ofSeconds(keys.get("timeout").asInt());
            Warehouse known = warehouse;
            return keys.get("timeout").read(text -> known.withTimeout(timeout));
        }
        return warehouse;
    }
}
