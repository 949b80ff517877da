package dev.mile.bench;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import javax.tools.Diagnostic;
import javax.tools.DiagnosticCollector;
import javax.tools.JavaCompiler;
import javax.tools.JavaFileObject;
import javax.tools.StandardJavaFileManager;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** All that is exported is documented whole: each parameter, result and exception. The compiler looks, as it does for markup. */
class DocumentationTest {
    private static final Path ROOT = Path.of("..");

    /** A constructor without parameters of its own: those of the record are documented there. */
    private static final Pattern COMPACT_CONSTRUCTOR = Pattern.compile("\\s*public \\w+ \\{");

    @TempDir
    Path classes;

    @Test
    void whatIsExportedIsDocumentedWhole() throws IOException {
        List<String> missing = new ArrayList<>();
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        DiagnosticCollector<JavaFileObject> found = new DiagnosticCollector<>();
        try (StandardJavaFileManager files = compiler.getStandardFileManager(found, Locale.ROOT, null)) {
            List<Path> sources = new ArrayList<>();
            for (Path module : modules()) {
                sources.addAll(exported(module));
            }
            for (String type : List.of("EngineContract", "TestRows")) {
                sources.add(ROOT.resolve("core/src/test/java/dev/mile/testkit/" + type + ".java"));
            }
            assertThat(sources).hasSizeGreaterThan(100);
            List<String> options = List.of(
                    "-proc:none",
                    "-Xdoclint:all/protected",
                    "-Xmaxwarns",
                    "10000",
                    "-d",
                    classes.toString(),
                    "-classpath",
                    System.getProperty("java.class.path"));
            assertThat(compiler.getTask(null, files, found, options, null, files.getJavaFileObjectsFromPaths(sources))
                            .call())
                    .isTrue();
            for (Diagnostic<? extends JavaFileObject> one : found.getDiagnostics()) {
                if (one.getSource() != null && !isCompactConstructor(one)) {
                    missing.add(
                            one.getSource().getName() + ":" + one.getLineNumber() + ": " + one.getMessage(Locale.ROOT));
                }
            }
        }
        assertThat(missing).isEmpty();
    }

    /** Returns where the sources of each module that exports anything stand. */
    private static List<Path> modules() throws IOException {
        try (Stream<Path> all = Files.walk(ROOT)) {
            return all.filter(path -> path.endsWith("src/main/java/module-info.java"))
                    .map(Path::getParent)
                    .toList();
        }
    }

    private static List<Path> exported(Path sources) throws IOException {
        List<Path> found = new ArrayList<>();
        Matcher exports =
                Pattern.compile("exports ([\\w.]+);").matcher(Files.readString(sources.resolve("module-info.java")));
        while (exports.find()) {
            try (Stream<Path> files =
                    Files.list(sources.resolve(exports.group(1).replace('.', '/')))) {
                files.filter(file -> file.toString().endsWith(".java")).forEach(found::add);
            }
        }
        return found;
    }

    private static boolean isCompactConstructor(Diagnostic<? extends JavaFileObject> found) throws IOException {
        String line = found.getSource()
                .getCharContent(true)
                .toString()
                .lines()
                .skip(found.getLineNumber() - 1)
                .findFirst()
                .orElse("");
        return COMPACT_CONSTRUCTOR.matcher(line).matches();
    }
}
