package dev.mile.cli;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.lang.ArchCondition;
import com.tngtech.archunit.lang.ArchRule;
import com.tngtech.archunit.lang.ConditionEvents;
import com.tngtech.archunit.lang.SimpleConditionEvent;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.Test;

/** Holds the house of section 11 of the design: arrows only run down its table. */
class ArchitectureTest {
    /** What each package may use, besides itself and what those use. */
    private static final Map<String, List<String>> MAY_USE = Map.ofEntries(
            Map.entry("calendar", List.of()),
            Map.entry("workday", List.of("calendar")),
            Map.entry("dimension", List.of("calendar", "workday")),
            Map.entry("span", List.of("calendar", "workday")),
            Map.entry("fact", List.of("calendar")),
            Map.entry("measure", List.of("calendar", "workday", "span", "fact")),
            Map.entry("report", List.of("calendar", "workday", "span", "fact", "measure", "dimension")),
            Map.entry("model", List.of("calendar", "workday", "span", "fact", "measure", "dimension", "report")),
            Map.entry("sql", List.of("calendar", "workday", "span", "fact", "measure", "dimension", "report")),
            Map.entry("render", List.of("calendar", "workday", "span", "fact", "measure", "dimension", "report")),
            Map.entry("demo", List.of()));

    private static final List<String> CORE =
            List.of("calendar", "workday", "dimension", "span", "fact", "measure", "report");

    private static final ArchCondition<JavaClass> USE_ONLY_WHAT_THEY_MAY =
            new ArchCondition<>("use only packages below") {
                @Override
                public void check(JavaClass type, ConditionEvents events) {
                    String own = slice(type);
                    List<String> may = MAY_USE.get(own);
                    type.getDirectDependenciesFromSelf().forEach(arrow -> {
                        JavaClass target = arrow.getTargetClass().getBaseComponentType();
                        if (target.getPackageName().startsWith("dev.mile.")
                                && may != null
                                && !slice(target).equals(own)
                                && !may.contains(slice(target))) {
                            events.add(SimpleConditionEvent.violated(arrow, arrow.getDescription()));
                        }
                    });
                }
            };

    private static String slice(JavaClass type) {
        return type.getPackageName().split("\\.")[2];
    }

    private static final ArchRule ARROWS_RUN_DOWN_THE_TABLE =
            classes().that().resideInAPackage("dev.mile..").should(USE_ONLY_WHAT_THEY_MAY);

    private static final ArchRule PACKAGES_FORM_NO_CYCLE =
            slices().matching("dev.mile.(*)..").should().beFreeOfCycles();

    private static final ArchRule THE_CORE_USES_THE_JDK_ONLY = noClasses()
            .that(DescribedPredicate.describe(
                    "are of the core", c -> c.getPackageName().startsWith("dev.mile.") && CORE.contains(slice(c))))
            .should()
            .dependOnClassesThat(DescribedPredicate.describe(
                    "are neither of the JDK nor of Mile",
                    c -> !c.getPackageName().startsWith("java.")
                            && !c.getPackageName().startsWith("dev.mile.")
                            && !c.isPrimitive()
                            && !c.isArray()));

    private static final ArchRule NOTHING_READS_THE_CLOCK_OR_THE_MACHINES_LOCALE = noClasses()
            .that()
            .resideInAnyPackage(
                    "dev.mile.calendar..",
                    "dev.mile.workday..",
                    "dev.mile.dimension..",
                    "dev.mile.span..",
                    "dev.mile.fact..",
                    "dev.mile.measure..",
                    "dev.mile.report..")
            .should()
            .callMethod(java.time.LocalDate.class, "now")
            .orShould()
            .callMethod(java.util.Locale.class, "getDefault");

    private static final JavaClasses MILE = new ClassFileImporter()
            .withImportOption(new ImportOption.DoNotIncludeTests())
            .importPackages("dev.mile");

    @Test
    void arrowsRunDownTheTable() {
        Assertions.assertThat(MILE.size()).isGreaterThan(150);
        ARROWS_RUN_DOWN_THE_TABLE.check(MILE);
    }

    @Test
    void packagesFormNoCycle() {
        PACKAGES_FORM_NO_CYCLE.check(MILE);
    }

    @Test
    void theCoreUsesTheJdkOnly() {
        THE_CORE_USES_THE_JDK_ONLY.check(MILE);
    }

    @Test
    void nothingReadsTheClockOrTheMachinesLocale() {
        NOTHING_READS_THE_CLOCK_OR_THE_MACHINES_LOCALE.check(MILE);
    }

    @Test
    void everyPackageSaysWhatItIsFor() throws IOException {
        try (var files = Files.walk(Path.of(".."))) {
            List<Path> silent = files.filter(p -> p.toString().matches(".*/src/main/java/dev/mile/\\w+"))
                    .filter(Files::isDirectory)
                    .filter(p -> !Files.exists(p.resolve("package-info.java")))
                    .toList();
            Assertions.assertThat(silent).isEmpty();
        }
    }
}
