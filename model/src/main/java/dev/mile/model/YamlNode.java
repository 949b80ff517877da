package dev.mile.model;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import dev.mile.calendar.SupportedDates;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import java.nio.charset.StandardCharsets;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Function;
import java.util.regex.Pattern;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.common.ScalarStyle;
import org.snakeyaml.engine.v2.exceptions.Mark;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;
import org.snakeyaml.engine.v2.exceptions.ReaderException;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.snakeyaml.engine.v2.exceptions.YamlVersionException;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;

/** A value of the model file, with its location. */
final class YamlNode {
    private static final int MAX_FILE_LENGTH = 3_000_000;

    /** The library takes long over a word of many letters. */
    private static final int MAX_LINE_LENGTH = 100_000;

    /** What file systems allow. */
    private static final int MAX_FILE_NAME_BYTES = 255;

    private static final int MAX_PATH_LENGTH = 4_000;
    private static final int MAX_NAME_LENGTH = 100;

    private static final Pattern NAME = Pattern.compile("[a-z][a-z0-9_]*");
    private static final Pattern BETWEEN_WORDS = Pattern.compile("[^\\p{L}\\p{N}_]+");

    private final Node node;
    private final String file;
    private final String path;

    private YamlNode(Node node, String file, String path) {
        this.node = node;
        this.file = file;
        this.path = path;
    }

    static YamlNode parse(String text, Path file) {
        String name = String.valueOf(file.getFileName());
        LoadSettings settings = LoadSettings.builder().setLabel(name).build();
        checkLength(text, name);
        try {
            Optional<Node> node = YamlComposer.compose(text, settings, name);
            if (node.isEmpty()) {
                throw ModelException.of("the file is empty; start it with `mile: 1`, or let `mile new` draft one")
                        .withLocation(SourceLocation.of(name));
            }
            return new YamlNode(node.get(), name, "");
        } catch (ReaderException e) {
            throw ModelException.of(
                            "the file holds a character that YAML does not allow (U+%04X); take it away",
                            e.getCodePoint())
                    .withLocation(locationAt(text, e.getPosition(), name));
        } catch (MarkedYamlEngineException e) {
            SourceLocation location = e.getProblemMark()
                    .map(m -> SourceLocation.of(name, m.getLine() + 1, m.getColumn() + 1))
                    .orElse(SourceLocation.of(name));
            throw ModelException.of(
                            "this is not YAML: %s; check the indentation, and quotes around texts with ': '",
                            e.getProblem())
                    .withLocation(location);
        } catch (YamlVersionException e) {
            throw ModelException.of("the file asks for another version of YAML; take the line %YAML away")
                    .withLocation(SourceLocation.of(name));
        } catch (YamlEngineException e) {
            throw ModelException.of("this is not YAML that can be read: %s", String.valueOf(e.getMessage()))
                    .withLocation(SourceLocation.of(name));
        }
    }

    private static void checkLength(String text, String name) {
        if (text.length() > MAX_FILE_LENGTH) {
            throw ModelException.of("the file is longer than %,d characters, which no model is", MAX_FILE_LENGTH)
                    .withLocation(SourceLocation.of(name));
        }
        int line = 1;
        for (int start = 0; start < text.length(); line++) {
            int end = text.indexOf('\n', start) < 0 ? text.length() : text.indexOf('\n', start);
            if (end - start > MAX_LINE_LENGTH) {
                throw ModelException.of("this line is longer than %,d characters; break it", MAX_LINE_LENGTH)
                        .withLocation(SourceLocation.of(name, line));
            }
            start = end + 1;
        }
    }

    private static SourceLocation locationAt(String text, int position, String name) {
        String before = text.substring(0, Math.min(position, text.length()));
        int line = (int) before.chars().filter(c -> c == '\n').count() + 1;
        return SourceLocation.of(name, line, before.length() - before.lastIndexOf('\n'));
    }

    /** Returns its location: {@code mile.yaml:12:5}. */
    SourceLocation location() {
        return location(0);
    }

    private SourceLocation location(int offset) {
        Optional<Mark> mark = node.getStartMark();
        if (mark.isEmpty()) {
            return SourceLocation.of(file);
        }
        boolean quoted = node instanceof ScalarNode s
                && (s.getScalarStyle() == ScalarStyle.SINGLE_QUOTED || s.getScalarStyle() == ScalarStyle.DOUBLE_QUOTED);
        return SourceLocation.of(
                file, mark.get().getLine() + 1, mark.get().getColumn() + 1 + offset + (quoted ? 1 : 0));
    }

    MileException error(String pattern, Object... arguments) {
        return ModelException.of(pattern, arguments).withLocation(location());
    }

    private String describe() {
        if (node instanceof MappingNode) {
            return "a mapping of keys";
        }
        return node instanceof SequenceNode ? "a list" : "'" + ((ScalarNode) node).getValue() + "'";
    }

    /** Hands over every text below, whole and by its words, with where it stands; not the keys. */
    void words(BiConsumer<String, SourceLocation> words) {
        if (node instanceof ScalarNode scalar) {
            words.accept(scalar.getValue(), location());
            for (String word : BETWEEN_WORDS.split(scalar.getValue())) {
                words.accept(word, location());
            }
        } else if (node instanceof SequenceNode sequence) {
            sequence.getValue().forEach(item -> new YamlNode(item, file, path).words(words));
        } else if (node instanceof MappingNode mapping) {
            mapping.getValue().forEach(entry -> new YamlNode(entry.getValueNode(), file, path).words(words));
        }
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
        throw error("`%s` is %s; expected a text", path, describe());
    }

    /** Returns the file, or the pattern of files, that it names in the folder. */
    Path file(Path folder) {
        String name = text();
        if (name.isBlank()) {
            throw error("`%s` is empty; expected the name of a file", path);
        }
        if (name.length() > MAX_PATH_LENGTH
                || Arrays.stream(name.split("[/\\\\]"))
                        .anyMatch(part -> part.getBytes(StandardCharsets.UTF_8).length > MAX_FILE_NAME_BYTES)) {
            throw error(
                    "'%s' is too long for the name of a file; a name has at most %d bytes, a path %d characters",
                    name, MAX_FILE_NAME_BYTES, MAX_PATH_LENGTH);
        }
        try {
            return folder.resolve(name);
        } catch (InvalidPathException e) {
            throw error("'%s' cannot be the name of a file: %s", name, e.getReason());
        }
    }

    boolean asBoolean() {
        String text = text();
        if (text.equals("true") || text.equals("false")) {
            return text.equals("true");
        }
        throw error("`%s` is %s; expected true or false", path, describe());
    }

    int asInt() {
        try {
            return Integer.parseInt(text());
        } catch (NumberFormatException e) {
            throw error("`%s` is %s; expected a whole number", path, describe());
        }
    }

    LocalDate date() {
        LocalDate date = EpochDays.parse(text())
                .orElseThrow(() -> error(
                        "`%s` is %s; expected a date of the calendar as year-month-day, such as 2026-04-01",
                        path, describe()));
        return read(text -> SupportedDates.require(date));
    }

    /** Checks what its key names in a section of the model. */
    void requireName(String name, String section) {
        if (name.length() > MAX_NAME_LENGTH) {
            // files are named after reports
            throw error(
                    "a name in `%s` has %d characters; expected at most %d", section, name.length(), MAX_NAME_LENGTH);
        }
        if (!NAME.matcher(name).matches()) {
            throw error(
                    "'%s' cannot be a name in `%s`; names are of small letters, digits and _, and begin with a letter",
                    name, section);
        }
    }

    /** Returns the value, read by a function whose errors get this place. */
    <T> T read(Function<String, T> how) {
        try {
            return how.apply(text());
        } catch (SyntaxException e) {
            throw ModelException.of(
                            "`%s`, character %d: %s",
                            Messages.excerpt(text(), e.offset()), e.offset() + 1, e.getMessage())
                    .withLocation(location(e.offset()));
        } catch (MileException e) {
            throw e.withLocation(location());
        }
    }

    /** Returns the value of an enumeration whose name the text is, in letters of any case. */
    <E extends Enum<E>> E oneOf(E[] values, String noun) {
        return read(text -> oneOf(values, text, noun));
    }

    /**
     * Returns the value of an enumeration whose name the text is, in letters of any case.
     *
     * @throws MileException if none has the name
     */
    static <E extends Enum<E>> E oneOf(E[] values, String text, String noun) {
        for (E value : values) {
            if (value.name().equalsIgnoreCase(text.strip())) {
                return value;
            }
        }
        List<String> known = Arrays.stream(values)
                .map(v -> v.name().toLowerCase(Locale.ROOT))
                .toList();
        throw ModelException.of("'%s' is not a %s%s", text, noun, Messages.didYouMean(text, known));
    }

    /**
     * Requires a key among those of this node.
     *
     * @throws MileException if it is missing, showing the example
     */
    void require(Map<String, YamlNode> keys, String key, String example) {
        if (!keys.containsKey(key)) {
            throw error("`%s` is missing; write `%s`", key, example);
        }
    }

    /** Returns the list; a single text is a list of one. */
    List<YamlNode> list() {
        if (node instanceof ScalarNode) {
            return List.of(this);
        }
        if (!(node instanceof SequenceNode sequence)) {
            throw error("`%s` is %s; expected a list such as [year, month]", path, describe());
        }
        List<YamlNode> items = new ArrayList<>();
        for (Node item : sequence.getValue()) {
            items.add(new YamlNode(item, file, path));
        }
        return items;
    }

    /** Returns the entries in order, which may have any keys. */
    Map<String, YamlNode> entries() {
        if (!(node instanceof MappingNode mapping)) {
            throw path.isEmpty()
                    ? error("the file is %s; expected keys and values", describe())
                    : error("`%s` is %s; expected keys and values", path, describe());
        }
        Map<String, YamlNode> entries = new LinkedHashMap<>();
        for (NodeTuple tuple : mapping.getValue()) {
            YamlNode key = new YamlNode(tuple.getKeyNode(), file, path);
            if (!key.isText()) {
                throw key.error("a key is %s; expected a name", key.describe());
            }
            String name = key.text();
            if (entries.put(name, new YamlNode(tuple.getValueNode(), file, path.isEmpty() ? name : path + "." + name))
                    != null) {
                throw key.error("the key '%s' occurs twice; keep one", name);
            }
        }
        return entries;
    }

    /** Returns the entries, whose keys must be known. */
    Map<String, YamlNode> entries(String... known) {
        Map<String, YamlNode> entries = entries();
        MappingNode mapping = (MappingNode) node;
        for (NodeTuple tuple : mapping.getValue()) {
            YamlNode key = new YamlNode(tuple.getKeyNode(), file, path);
            if (!Arrays.asList(known).contains(key.text())) {
                throw key.error(
                        "unknown key '%s'%s%s",
                        key.text(),
                        path.isEmpty() ? "" : " in `" + path + "`",
                        Messages.didYouMean(key.text(), List.of(known)));
            }
        }
        return entries;
    }

    /** Returns whether the value is absent: written with nothing behind the colon. */
    boolean isAbsent() {
        return node instanceof ScalarNode s && s.getValue().isEmpty() && s.getScalarStyle() == ScalarStyle.PLAIN;
    }
}
