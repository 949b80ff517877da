package dev.mile.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;

@Command(name = "check", description = "todo")
final class CheckCommand extends Shared implements Callable<Integer> {
    @Override
    public Integer call() {
        return 2;
    }
}
