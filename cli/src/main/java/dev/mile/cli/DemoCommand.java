package dev.mile.cli;

import java.util.concurrent.Callable;
import picocli.CommandLine.Command;

@Command(name = "demo", description = "todo")
final class DemoCommand extends Shared implements Callable<Integer> {
    @Override
    public Integer call() {
        return 2;
    }
}
