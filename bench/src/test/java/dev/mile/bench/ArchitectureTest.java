package dev.mile.bench;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.lang.ArchCondition;
import com.tngtech.archunit.lang.ConditionEvents;
import com.tngtech.archunit.lang.SimpleConditionEvent;
import com.tngtech.archunit.library.dependencies.SliceAssignment;
import com.tngtech.archunit.library.dependencies.SliceIdentifier;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** Holds the house as docs/architecture.md draws it: which package may use which, and that no class is part of a cycle. */
class ArchitectureTest {
    private static final Path ROOT = Path.of("..");

    /** What each package may use besides itself, {@code dev.mile} and {@code dev.mile.internal}. */
    private static final Map<String, List<String>> MAY_USE = new LinkedHashMap<>();

    static {
        MAY_USE.put("internal", List.of());
        MAY_USE.put("calendar", List.of());
        MAY_USE.put("workday", List.of("calendar"));
        MAY_USE.put("dimension", List.of("calendar", "workday"));
        MAY_USE.put("span", List.of("calendar", "workday"));
        MAY_USE.put("fact", List.of("calendar"));
        MAY_USE.put("measure", List.of("calendar", "span", "fact"));
        MAY_USE.put("engine", List.of("calendar", "fact"));
        MAY_USE.put("engine.rows", List.of("calendar", "fact", "engine"));
        MAY_USE.put("engine.memory", List.of("calendar", "fact", "engine", "engine.rows"));
        List<String> meanings = List.of("calendar", "workday", "dimension", "span", "fact", "measure", "engine");
        MAY_USE.put("report", meanings); // but for the session, which is the door to the rooms behind it
        MAY_USE.put("report.axis", with(meanings, "report"));
        MAY_USE.put("report.series", List.of("measure", "engine"));
        MAY_USE.put("report.plan", with(meanings, "report", "report.axis"));
        List<String> below = with(meanings, "report", "report.axis", "report.plan", "report.series");
        MAY_USE.put("report.run", with(below, "engine.rows"));
        MAY_USE.put("report.distributed", with(below, "report.run"));
        MAY_USE.put("model", with(meanings, "report"));
        MAY_USE.put("render.layout", with(meanings, "report"));
        MAY_USE.put("render.text", with(meanings, "report", "render.layout"));
        MAY_USE.put("render.excel", with(meanings, "report", "render.layout", "render.text"));
        MAY_USE.put("render.chart", with(meanings, "report", "render.layout"));
        MAY_USE.put("render.html", with(meanings, "report", "render.layout"));
        MAY_USE.put("jackson", List.of("report", "render.text"));
        List<String> asked = List.of("calendar", "fact", "engine");
        MAY_USE.put("sources", List.of("engine", "fact"));
        MAY_USE.put("sql.dialect", List.of("engine"));
        MAY_USE.put("sql.query", with(asked, "sql.dialect"));
        MAY_USE.put("sql.files", with(asked, "sources", "sql.dialect", "sql.query", "sql.duckdb", "sql.parquet"));
        MAY_USE.put("sql.parquet", asked);
        MAY_USE.put("sql.duckdb", with(asked, "sql.dialect", "sql.query"));
        MAY_USE.put("sql.warehouse", with(asked, "sql.dialect", "sql.query"));
        MAY_USE.put("sql.cache", with(asked, "sql.dialect", "sql.query", "sql.duckdb", "sql.files"));
        MAY_USE.put("sql", with(asked, "sql.files", "sql.warehouse"));
        MAY_USE.put("spark", with(meanings, "report", "report.distributed"));
        MAY_USE.put("demo", List.of());
        List<String> doors = with(
                meanings,
                "engine.memory",
                "report",
                "report.distributed",
                "model",
                "render.text",
                "render.excel",
                "render.chart",
                "render.html",
                "sources",
                "sql",
                "sql.files",
                "sql.warehouse",
                "sql.cache",
                "demo");
        MAY_USE.put("cli", doors);
        MAY_USE.put("bench", with(doors, "spark"));
    }

    private static final List<String> CORE =
            List.of("internal", "calendar", "workday", "dimension", "span", "fact", "measure", "engine", "report");

    private static final JavaClasses MILE = new ClassFileImporter()
            .withImportOption(new ImportOption.DoNotIncludeTests())
            .withImportOption(location -> !location.contains("jmh_generated"))
            // tests, though they are published
            .withImportOption(location -> !location.contains("testkit"))
            .importPackages("dev.mile");

    private static List<String> with(List<String> some, String... more) {
        List<String> all = new ArrayList<>(some);
        all.addAll(List.of(more));
        return all;
    }

    /** Returns the package below {@code dev.mile}; empty for {@code dev.mile} itself. */
    private static String room(JavaClass type) {
        return type.getPackageName().replaceFirst("dev\\.mile\\.?", "");
    }

    private static boolean isOfMile(JavaClass type) {
        return (type.getPackageName() + ".").startsWith("dev.mile.");
    }

    private static JavaClass file(JavaClass type) {
        return type.getEnclosingClass().map(ArchitectureTest::file).orElse(type);
    }

    private static final DescribedPredicate<JavaClass> OF_THE_CORE = DescribedPredicate.describe(
            "of the core",
            type -> room(type).isEmpty() || CORE.contains(room(type).split("\\.")[0]));

    @Test
    void packagesUseWhatIsBelowThem() {
        assertThat(MILE.size()).isGreaterThan(400);
        classes()
                .that()
                .resideInAPackage("dev.mile..")
                .should(new ArchCondition<JavaClass>("use only packages below") {
                    @Override
                    public void check(JavaClass type, ConditionEvents events) {
                        boolean session = file(type).getSimpleName().equals("Session");
                        type.getDirectDependenciesFromSelf().forEach(use -> {
                            JavaClass target = use.getTargetClass().getBaseComponentType();
                            String room = room(target);
                            if (isOfMile(target)
                                    && !room.isEmpty()
                                    && !room.equals("internal")
                                    && !room.equals(room(type))
                                    && !(session && room.startsWith("report."))
                                    && !MAY_USE.getOrDefault(room(type), List.of())
                                            .contains(room)) {
                                events.add(SimpleConditionEvent.violated(use, use.getDescription()));
                            }
                        });
                    }
                })
                .check(MILE);
    }

    @Test
    void noClassIsPartOfACycle() {
        slices().assignedFrom(new SliceAssignment() {
                    @Override
                    public SliceIdentifier getIdentifierOf(JavaClass type) {
                        return isOfMile(type) ? SliceIdentifier.of(file(type).getName()) : SliceIdentifier.ignore();
                    }

                    @Override
                    public String getDescription() {
                        return "source files";
                    }
                })
                .should()
                .beFreeOfCycles()
                .check(MILE);
    }

    @Test
    void theCoreUsesTheJdkOnly() {
        noClasses()
                .that(OF_THE_CORE)
                .should()
                .dependOnClassesThat(DescribedPredicate.describe(
                        "are neither of the JDK nor of Mile",
                        type -> !type.getPackageName().startsWith("java.")
                                && !type.getPackageName().startsWith("org.jspecify.")
                                && !isOfMile(type)
                                && !type.isPrimitive()
                                && !type.isArray()))
                .check(MILE);
    }

    @Test
    void theCoreReadsNeitherTheClockNorTheMachinesLocale() {
        noClasses()
                .that(OF_THE_CORE)
                .should()
                .callMethod(java.time.LocalDate.class, "now")
                .orShould()
                .callMethod(java.util.Locale.class, "getDefault")
                .check(MILE);
    }

    @Test
    void everyPackageSaysWhatItIsFor() throws IOException {
        try (var files = Files.walk(ROOT)) {
            assertThat(files.filter(path -> path.toString().matches(".*/src/main/java/dev/mile/.*\\.java"))
                            .map(Path::getParent)
                            .distinct()
                            .filter(folder -> !Files.exists(folder.resolve("package-info.java"))))
                    .isEmpty();
        }
    }

    /** Types that users and engines meet are those that the document names, each with a reason. */
    @Test
    void theDocumentNamesEachExportedType() throws IOException {
        String document = Files.readString(ROOT.resolve("docs/architecture.md"));
        List<String> unnamed = new ArrayList<>();
        try (var files = Files.walk(ROOT)) {
            for (Path module : files.filter(path -> path.endsWith("src/main/java/module-info.java"))
                    .toList()) {
                Matcher exports = Pattern.compile("exports ([\\w.]+);").matcher(Files.readString(module));
                while (exports.find()) {
                    String name = exports.group(1);
                    MILE.stream()
                            .filter(type -> type.getPackageName().equals(name) && type.isTopLevelClass())
                            .filter(type ->
                                    type.getModifiers().contains(com.tngtech.archunit.core.domain.JavaModifier.PUBLIC))
                            .filter(type -> !document.contains("`" + type.getSimpleName() + "`"))
                            .forEach(type -> unnamed.add(type.getName()));
                }
            }
        }
        assertThat(unnamed).as("types that docs/architecture.md does not name").isEmpty();
    }
}
