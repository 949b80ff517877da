package dev.mile.examples;

import dev.mile.engine.Engine;
import dev.mile.fact.Table;
import dev.mile.report.Project;
import dev.mile.testkit.EngineContract;
import dev.mile.testkit.TestRows;
import java.util.HashMap;
import java.util.Map;

/** The engine of the guide answers as every other does. */
class HashMapEngineTest extends EngineContract {
    @Override
    protected Engine engine(Project project, Map<String, TestRows> rows) {
        Map<String, Table> tables = new HashMap<>();
        rows.forEach((name, table) -> tables.put(name, table.table()));
        return new HashMapEngine(project.schema(), tables);
    }

    /** A slow engine; the deep profile tries more. */
    @Override
    protected int shallowRandomRows() {
        return 1;
    }
}
