package dev.mile.cli;

import dev.mile.model.ModelSchema;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;

/** {@code mile schema}. */
@Command(
        name = "schema",
        description = "Prints the JSON Schema of the model file, so that editors complete and check it.",
        footer = {"", "Example:", "  mile schema > mile.schema.json"})
final class SchemaCommand extends BaseCommand implements Callable<Integer> {
    @Override
    public Integer call() {
        out().print(ModelSchema.json());
        return 0;
    }
}
