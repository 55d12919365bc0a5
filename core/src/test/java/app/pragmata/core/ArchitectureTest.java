package app.pragmata.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

@AnalyzeClasses(
    packages = "app.pragmata.core",
    importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
  /** From the ground up: each knows only what stands before it. */
  private static final List<String> ORDER =
      List.of(
          // What everybody shares: reading, refusals, words.
          "",
          "money",
          "company",
          "people",
          "books",
          "receipts",
          "customers",
          "stores",
          "jobs",
          "quoting",
          "calls",
          "planning",
          "rounds",
          "partswanted",
          "claims",
          "checklists",
          "field",
          "wages",
          "checkdesk",
          "costing",
          "billing");

  private static final JavaClasses CLASSES =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("app.pragmata.core");

  private static String capability(JavaClass type) {
    return type.getPackageName().replaceFirst("^app\\.pragmata\\.core\\.?", "");
  }

  @Test
  void every_package_has_its_place_in_the_order() {
    assertThat(CLASSES.stream().map(ArchitectureTest::capability).collect(Collectors.toSet()))
        .isSubsetOf(ORDER);
  }

  @Test
  void a_capability_knows_only_what_stands_before_it() {
    for (String capability : ORDER) {
      List<String> after = ORDER.subList(ORDER.indexOf(capability) + 1, ORDER.size());
      noClasses()
          .that(in(List.of(capability)))
          .should()
          .dependOnClassesThat(in(after))
          .allowEmptyShould(true)
          .check(CLASSES);
    }
  }

  private static DescribedPredicate<JavaClass> in(List<String> capabilities) {
    return DescribedPredicate.describe(
        "of " + capabilities, type -> capabilities.contains(capability(type)));
  }

  @ArchTest
  static final ArchRule the_core_knows_no_framework_and_no_clock =
      noClasses()
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "org.springframework..", "org.jooq..", "java.sql..", "java.io..", "java.net..")
          .orShould()
          .callMethod(java.time.Instant.class, "now")
          .orShould()
          .callMethod(java.time.LocalDate.class, "now");
}
