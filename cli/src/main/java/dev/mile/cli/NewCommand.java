package dev.mile.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;

@Command(name = "new", description = "todo")
final class NewCommand extends Shared implements Callable<Integer> {
    @Override
    public Integer call() {
        return 2;
    }
}
