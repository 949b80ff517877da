package dev.mile.model;

import dev.mile.calendar.Days;
import dev.mile.calendar.MileException;
import dev.mile.calendar.Texts;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.api.lowlevel.Compose;
import org.snakeyaml.engine.v2.common.ScalarStyle;
import org.snakeyaml.engine.v2.exceptions.Mark;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;

/** A value of the model file that knows where it stands. */
final class Yaml {
    private final Node node;
    private final String file;
    private final String path;

    private Yaml(Node node, String file, String path) {
        this.node = node;
        this.file = file;
        this.path = path;
    }

    static Yaml parse(String text, Path file) {
        String name = String.valueOf(file.getFileName());
        try {
            Optional<Node> node = new Compose(LoadSettings.builder()
                            .setLabel(name)
                            .setMaxAliasesForCollections(50)
                            .build())
                    .composeString(text);
            if (node.isEmpty()) {
                throw MileException.model(
                        "%s: the file is empty; start it with `mile: 1`, or let `mile new` draft one", name);
            }
            return new Yaml(node.get(), name, "");
        } catch (MarkedYamlEngineException e) {
            String place = e.getProblemMark()
                    .map(m -> name + ":" + (m.getLine() + 1) + ":" + (m.getColumn() + 1))
                    .orElse(name);
            throw MileException.model(
                            "this is not YAML: %s; check the indentation, and quotes around texts with ': '",
                            e.getProblem())
                    .at(place);
        }
    }

    /** Returns the place: {@code mile.yaml:12:5}. */
    String place() {
        return place(0);
    }

    private String place(int offset) {
        Optional<Mark> mark = node.getStartMark();
        if (mark.isEmpty()) {
            return file;
        }
        boolean quoted = node instanceof ScalarNode s
                && (s.getScalarStyle() == ScalarStyle.SINGLE_QUOTED || s.getScalarStyle() == ScalarStyle.DOUBLE_QUOTED);
        return file + ":" + (mark.get().getLine() + 1) + ":" + (mark.get().getColumn() + 1 + offset + (quoted ? 1 : 0));
    }

    MileException error(String pattern, Object... arguments) {
        return MileException.model(pattern, arguments).at(place());
    }

    private String what() {
        if (node instanceof MappingNode) {
            return "a mapping of keys";
        }
        return node instanceof SequenceNode ? "a list" : "'" + ((ScalarNode) node).getValue() + "'";
    }

    boolean isText() {
        return node instanceof ScalarNode;
    }

    boolean isList() {
        return node instanceof SequenceNode;
    }

    boolean isMap() {
        return node instanceof MappingNode;
    }

    String text() {
        if (node instanceof ScalarNode scalar) {
            return scalar.getValue();
        }
        throw error("`%s` is %s; expected a text", path, what());
    }

    boolean bool() {
        String text = text();
        if (text.equals("true") || text.equals("false")) {
            return text.equals("true");
        }
        throw error("`%s` is %s; expected true or false", path, what());
    }

    int whole() {
        try {
            return Integer.parseInt(text());
        } catch (NumberFormatException e) {
            throw error("`%s` is %s; expected a whole number", path, what());
        }
    }

    LocalDate date() {
        return Days.parse(text())
                .orElseThrow(() -> error(
                        "`%s` is %s; expected a date of the calendar as year-month-day, such as 2026-04-01",
                        path, what()));
    }

    /** Returns the value, read by a function whose errors get this place. */
    <T> T read(Function<String, T> how) {
        try {
            return how.apply(text());
        } catch (LanguageException e) {
            throw MileException.model("`%s`, character %d: %s", text(), e.at() + 1, e.getMessage())
                    .at(place(e.at()));
        } catch (MileException e) {
            throw e.at(place());
        }
    }

    /** Returns the list; a single text is a list of one. */
    List<Yaml> list() {
        if (node instanceof ScalarNode) {
            return List.of(this);
        }
        if (!(node instanceof SequenceNode sequence)) {
            throw error("`%s` is %s; expected a list such as [year, month]", path, what());
        }
        List<Yaml> items = new ArrayList<>();
        for (Node item : sequence.getValue()) {
            items.add(new Yaml(item, file, path));
        }
        return items;
    }

    /** Returns the entries in order, which may have any keys. */
    Map<String, Yaml> entries() {
        if (!(node instanceof MappingNode mapping)) {
            throw error("`%s` is %s; expected keys and values", path.isEmpty() ? file : path, what());
        }
        Map<String, Yaml> entries = new LinkedHashMap<>();
        for (NodeTuple tuple : mapping.getValue()) {
            Yaml key = new Yaml(tuple.getKeyNode(), file, path);
            String name = key.text();
            if (entries.put(name, new Yaml(tuple.getValueNode(), file, path.isEmpty() ? name : path + "." + name))
                    != null) {
                throw key.error("the key '%s' stands twice; keep one", name);
            }
        }
        return entries;
    }

    /** Returns the entries, whose keys must be known. */
    Map<String, Yaml> entries(String... known) {
        Map<String, Yaml> entries = entries();
        MappingNode mapping = (MappingNode) node;
        for (NodeTuple tuple : mapping.getValue()) {
            Yaml key = new Yaml(tuple.getKeyNode(), file, path);
            if (!Arrays.asList(known).contains(key.text())) {
                throw key.error(
                        "unknown key '%s'%s%s",
                        key.text(),
                        path.isEmpty() ? "" : " in `" + path + "`",
                        Texts.nearest(key.text(), List.of(known)));
            }
        }
        return entries;
    }

    /** Tells whether the value is absent: written with nothing behind the colon. */
    boolean isNothing() {
        return node instanceof ScalarNode s && s.getValue().isEmpty() && s.getScalarStyle() == ScalarStyle.PLAIN;
    }
}
