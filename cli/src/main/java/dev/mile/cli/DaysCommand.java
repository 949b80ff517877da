package dev.mile.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;

@Command(name = "days", description = "todo")
final class DaysCommand extends Shared implements Callable<Integer> {
    @Override
    public Integer call() {
        return 2;
    }
}
