package dev.mile.model;

import dev.mile.ModelException;
import dev.mile.SourceLocation;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.events.CollectionEndEvent;
import org.snakeyaml.engine.v2.events.CollectionStartEvent;
import org.snakeyaml.engine.v2.events.Event;
import org.snakeyaml.engine.v2.parser.Parser;
import org.snakeyaml.engine.v2.parser.ParserImpl;
import org.snakeyaml.engine.v2.scanner.StreamReader;

/** The events of a YAML file, which is refused where it is nested too deep: the library makes nodes of them by recursion. */
final class ShallowParser implements Parser {
    private static final int MAX_NESTING = 50;

    private final Parser parser;
    private final String file;
    private int depth;

    private ShallowParser(Parser parser, String file) {
        this.parser = parser;
        this.file = file;
    }

    static ShallowParser of(String text, LoadSettings settings, String file) {
        return new ShallowParser(new ParserImpl(settings, new StreamReader(settings, text)), file);
    }

    @Override
    public boolean checkEvent(Event.ID choice) {
        return parser.checkEvent(choice);
    }

    @Override
    public Event peekEvent() {
        return parser.peekEvent();
    }

    @Override
    public boolean hasNext() {
        return parser.hasNext();
    }

    @Override
    public Event next() {
        Event event = parser.next();
        if (event instanceof CollectionStartEvent && ++depth > MAX_NESTING) {
            throw ModelException.of("the file is nested more than %d levels deep", MAX_NESTING)
                    .withLocation(event.getStartMark()
                            .map(m -> SourceLocation.of(file, m.getLine() + 1, m.getColumn() + 1))
                            .orElse(SourceLocation.of(file)));
        }
        depth -= event instanceof CollectionEndEvent ? 1 : 0;
        return event;
    }
}
