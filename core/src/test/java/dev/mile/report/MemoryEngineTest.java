package dev.mile.report;

import dev.mile.engine.Engine;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.testkit.EngineContract;
import dev.mile.testkit.TestRows;
import java.util.Map;

class MemoryEngineTest extends EngineContract {
    @Override
    protected Engine engine(Project project, Map<String, TestRows> rows) {
        MemoryEngine engine = MemoryEngine.over(project);
        rows.forEach((name, table) -> {
            if (project.facts().containsKey(name) || project.lookups().containsKey(name)) {
                engine.rows(name, table.table());
            }
        });
        return engine;
    }
}
