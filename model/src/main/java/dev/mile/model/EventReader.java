package dev.mile.model;

import dev.mile.DataException;
import dev.mile.calendar.DateRange;
import dev.mile.dimension.Event;
import dev.mile.dimension.EventColumn;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Reads the events of a model file, which are columns of the date dimension. */
final class EventReader {
    private final Path folder;

    EventReader(Path folder) {
        this.folder = folder;
    }

    EventColumn read(String name, YamlNode yaml) {
        boolean keepFirst = false;
        YamlNode source = yaml;
        if (yaml.isMap()) {
            Map<String, YamlNode> keys = yaml.entries("source", "overlap");
            yaml.require(keys, "source", "source: promotions.csv");
            source = keys.get("source");
            if (keys.containsKey("overlap")) {
                String overlap = keys.get("overlap").text();
                if (!overlap.equals("keep first")) {
                    throw keys.get("overlap")
                            .error("`overlap` is '%s'; expected `keep first`, or nothing for an error", overlap);
                }
                keepFirst = true;
            }
        }
        List<Event> events = new ArrayList<>();
        for (ModelCsvFile.Line line :
                ModelCsvFile.read(source.file(folder), List.of("from", "to", "label"), List.of())) {
            DateRange days = DateRange.of(line.date("from"), line.date("to"));
            if (days.isEmpty()) {
                throw DataException.of(
                                "the event '%s' is from %s to %s; its first day comes after its last",
                                line.text("label"), line.text("from"), line.text("to"))
                        .withLocation(line.location());
            }
            events.add(Event.of(days, line.text("label")).withLocation(line.location()));
        }
        return keepFirst ? EventColumn.ofOverlapping(name, events) : EventColumn.of(name, events);
    }
}
