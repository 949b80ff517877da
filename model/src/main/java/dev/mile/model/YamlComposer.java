package dev.mile.model;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.common.Anchor;
import org.snakeyaml.engine.v2.events.AliasEvent;
import org.snakeyaml.engine.v2.events.Event;
import org.snakeyaml.engine.v2.events.MappingStartEvent;
import org.snakeyaml.engine.v2.events.NodeEvent;
import org.snakeyaml.engine.v2.events.ScalarEvent;
import org.snakeyaml.engine.v2.events.SequenceStartEvent;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;
import org.snakeyaml.engine.v2.nodes.Tag;
import org.snakeyaml.engine.v2.parser.Parser;
import org.snakeyaml.engine.v2.parser.ParserImpl;
import org.snakeyaml.engine.v2.scanner.StreamReader;

/**
 * Makes nodes of the events of a YAML file, which is refused where they would be too deep or too many. The library's own composer looks for
 * comments and types as well, which takes as long as all the rest of reading a model, and every start of the command line waits for it.
 */
final class YamlComposer {
    private static final int MAX_NESTING = 50;

    /** A few aliases of lists of aliases are more nodes than fit into memory. */
    private static final int MAX_ALIASES = 50;

    private final Parser events;
    private final String file;
    private final Map<Anchor, Node> anchors = new HashMap<>();
    private int aliases;

    private YamlComposer(Parser events, String file) {
        this.events = events;
        this.file = file;
    }

    /**
     * Returns the node of the only document of a text; empty where it has none.
     *
     * @param file what the text is called in errors
     */
    static Optional<Node> compose(String text, LoadSettings settings, String file) {
        return new YamlComposer(new ParserImpl(settings, new StreamReader(settings, text)), file).document();
    }

    private Optional<Node> document() {
        take(Event.ID.StreamStart);
        if (events.checkEvent(Event.ID.StreamEnd)) {
            return Optional.empty();
        }
        take(Event.ID.DocumentStart);
        Node root = node(0);
        take(Event.ID.DocumentEnd);
        if (!events.checkEvent(Event.ID.StreamEnd)) {
            throw error(
                    events.peekEvent(), "a second document begins here; a model is one, so take the line `---` away");
        }
        return Optional.of(root);
    }

    private void take(Event.ID expected) {
        Event event = events.next();
        if (event.getEventId() != expected) {
            throw new IllegalStateException("the parser gives " + event.getEventId() + "; expected " + expected);
        }
    }

    private Node node(int depth) {
        NodeEvent event = (NodeEvent) events.next();
        if (event instanceof AliasEvent alias) {
            return aliased(alias);
        }
        Node node = event instanceof ScalarEvent scalar
                ? new ScalarNode(
                        Tag.STR,
                        true,
                        scalar.getValue(),
                        scalar.getScalarStyle(),
                        scalar.getStartMark(),
                        scalar.getEndMark())
                : collection(event, depth + 1);
        // behind what it holds, so that nothing holds itself
        event.getAnchor().ifPresent(anchor -> anchors.put(anchor, node));
        return node;
    }

    private Node aliased(AliasEvent event) {
        Node node = anchors.get(event.getAlias());
        if (node == null) {
            throw error(
                    event,
                    "`*%s` repeats what is marked `&%s`, and nothing before it is; put a text that begins with * in quotes",
                    event.getAlias(),
                    event.getAlias());
        }
        if (!(node instanceof ScalarNode) && ++aliases > MAX_ALIASES) {
            throw error(event, "the file repeats lists or keys more than %d times by `*`; write them out", MAX_ALIASES);
        }
        return node;
    }

    private Node collection(NodeEvent event, int depth) {
        if (depth > MAX_NESTING) {
            throw error(event, "the file is nested more than %d levels deep", MAX_NESTING);
        }
        if (event instanceof SequenceStartEvent list) {
            List<Node> items = new ArrayList<>();
            while (!events.checkEvent(Event.ID.SequenceEnd)) {
                items.add(node(depth));
            }
            Event end = events.next();
            return new SequenceNode(Tag.SEQ, true, items, list.getFlowStyle(), list.getStartMark(), end.getEndMark());
        }
        MappingStartEvent map = (MappingStartEvent) event;
        List<NodeTuple> entries = new ArrayList<>();
        while (!events.checkEvent(Event.ID.MappingEnd)) {
            Node key = node(depth);
            entries.add(new NodeTuple(key, node(depth)));
        }
        Event end = events.next();
        return new MappingNode(Tag.MAP, true, entries, map.getFlowStyle(), map.getStartMark(), end.getEndMark());
    }

    private MileException error(Event event, String pattern, Object... arguments) {
        return ModelException.of(pattern, arguments)
                .withLocation(event.getStartMark()
                        .map(mark -> SourceLocation.of(file, mark.getLine() + 1, mark.getColumn() + 1))
                        .orElse(SourceLocation.of(file)));
    }
}
