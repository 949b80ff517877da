package dev.mile.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;

@Command(name = "schema", description = "todo")
final class SchemaCommand extends Shared implements Callable<Integer> {
    @Override
    public Integer call() {
        return 2;
    }
}
