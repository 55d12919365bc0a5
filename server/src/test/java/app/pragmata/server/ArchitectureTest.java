package app.pragmata.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaCodeUnit;
import com.tngtech.archunit.core.domain.JavaModifier;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

class ArchitectureTest {
  /** From the ground up: each knows only what stands before it. */
  private static final List<String> ORDER =
      List.of(
          "generated",
          "records",
          "http",
          "company",
          "people",
          // Below all that asks somebody to do something.
          "todos",
          "mail",
          "printing",
          "books",
          "customers",
          "stores",
          "jobs",
          "quoting",
          "deposits",
          "offers",
          "calls",
          "planning",
          "field",
          "billing",
          "figures",
          // Readers over all that is below.
          "worklists",
          "sheet",
          "finding",
          "history",
          "importing",
          "demo",
          // The program itself.
          "");

  private static final JavaClasses CLASSES =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("app.pragmata.server");

  private static String capability(JavaClass type) {
    return type.getPackageName().replaceFirst("^app\\.pragmata\\.server\\.?([a-z]*).*", "$1");
  }

  @Test
  void every_package_has_its_place_in_the_order() {
    assertThat(CLASSES.stream().map(ArchitectureTest::capability).collect(Collectors.toSet()))
        .isSubsetOf(ORDER);
  }

  @Test
  void a_capability_knows_only_what_stands_before_it() {
    for (String capability : ORDER.subList(1, ORDER.size())) {
      List<String> after = ORDER.subList(ORDER.indexOf(capability) + 1, ORDER.size());
      noClasses()
          .that(in(List.of(capability)))
          .should()
          .dependOnClassesThat(in(after))
          .allowEmptyShould(true)
          .check(CLASSES);
    }
  }

  /** Rows are held, and changed, by the capability whose tables they are of. */
  @Test
  void no_row_of_a_table_leaves_its_capability() {
    List<String> leaving =
        CLASSES.stream()
            .filter(type -> isOurs(type) && !capability(type).equals("generated"))
            .filter(ArchitectureTest::isSeenFromOutside)
            .flatMap(type -> type.getCodeUnits().stream())
            .filter(unit -> unit.getModifiers().contains(JavaModifier.PUBLIC))
            .filter(unit -> types(unit).anyMatch(ArchitectureTest::isRow))
            .map(JavaCodeUnit::getFullName)
            .sorted()
            .toList();
    assertThat(leaving).isEmpty();
  }

  private static boolean isSeenFromOutside(JavaClass type) {
    return type.getModifiers().contains(JavaModifier.PUBLIC)
        && type.getEnclosingClass().map(ArchitectureTest::isSeenFromOutside).orElse(true);
  }

  private static Stream<JavaClass> types(JavaCodeUnit unit) {
    return Stream.concat(Stream.of(unit.getReturnType()), unit.getParameterTypes().stream())
        .flatMap(type -> type.getAllInvolvedRawTypes().stream());
  }

  private static boolean isRow(JavaClass type) {
    return type.getPackageName().equals("app.pragmata.server.generated.tables.records");
  }

  private static DescribedPredicate<JavaClass> in(List<String> capabilities) {
    return DescribedPredicate.describe(
        "of " + capabilities, type -> capabilities.contains(capability(type)) && isOurs(type));
  }

  private static boolean isOurs(JavaClass type) {
    return type.getPackageName().startsWith("app.pragmata.server");
  }
}
