package dev.mile.report;

import dev.mile.engine.Engine;
import dev.mile.engine.memory.MemoryEngine;
import java.util.Map;

class MemoryEngineTest extends EngineContract {
    @Override
    protected Engine engine(Project project, Map<String, TestRows> rows) {
        MemoryEngine engine = new MemoryEngine();
        project.facts().forEach((name, fact) -> {
            if (rows.containsKey(name)) {
                engine.fact(fact, rows.get(name).table());
            }
        });
        project.lookups().forEach((name, lookup) -> {
            if (rows.containsKey(name)) {
                engine.lookup(lookup, rows.get(name).table());
            }
        });
        return engine;
    }
}
