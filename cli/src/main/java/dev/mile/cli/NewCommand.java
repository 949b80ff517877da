package dev.mile.cli;

import dev.mile.ModelException;
import dev.mile.sql.files.FileProfile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code mile new}. */
@Command(
        name = "new",
        description =
                "Looks at data files and drafts a model: roles, lookups, amounts, range, first measures and a report.",
        footer = {"", "Example:", "  mile new sales.csv shops.csv items.csv"})
final class NewCommand extends BaseCommand implements Callable<Integer> {
    @Parameters(
            arity = "1..*",
            paramLabel = "FILE",
            description = "Data files: texts with separators, workbooks, Parquet or JSON.")
    private List<Path> files;

    @Option(
            names = {"-o", "--output"},
            defaultValue = "mile.yaml",
            paramLabel = "FILE",
            description = "The model to write (default: ${DEFAULT-VALUE}).")
    private Path output;

    @Option(names = "--force", description = "Replace a model that is there.")
    private boolean force;

    @Override
    public Integer call() {
        if (Files.exists(output) && !force) {
            throw ModelException.of(
                    "%s is there already; name another file with -o, or replace it with --force", output);
        }
        List<FileProfile> profiles = FileProfile.of(files);
        Path folder = output.toAbsolutePath().getParent();
        String draft = new ModelDrafter(profiles, folder).write();
        AtomicFiles.text(output, out -> out.append(draft));
        info("wrote " + output + "; try: mile check, mile report, mile dates");
        return 0;
    }
}
