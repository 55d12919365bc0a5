package app.pragmata.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.records.Event;
import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.Dependency;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.domain.JavaCodeUnit;
import com.tngtech.archunit.core.domain.JavaModifier;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
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
          "pictures",
          "company",
          "live",
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
          "receipts",
          "offers",
          "calls",
          "planning",
          "rounds",
          "partswanted",
          "claims",
          "checklists",
          "field",
          "wages",
          "checkdesk",
          "telling",
          "billing",
          "workorders",
          "jobpages",
          "figures",
          // Readers over all that is below.
          "worklists",
          "sheet",
          "finding",
          "frontdesk",
          "importing",
          "staff",
          "founding",
          "history",
          "laws",
          // The program itself.
          "");

  private static final Path SOURCES = Path.of("../server/src/main/java/app/pragmata/server");

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

  /** What the description of the API says may happen is all that may happen. */
  @Test
  void the_history_knows_every_kind_of_event() {
    JavaClass history = CLASSES.get("app.pragmata.server.history.HistoryApi");
    Set<JavaClass> known =
        history.getDirectDependenciesFromSelf().stream()
            .map(Dependency::getTargetClass)
            .collect(Collectors.toSet());
    assertThat(CLASSES)
        .filteredOn(type -> type.isEnum() && type.isAssignableTo(Event.class))
        .hasSizeGreaterThan(8)
        .isSubsetOf(known);
  }

  /** A query may join what stands below, and never what stands above. */
  @Test
  void a_capability_touches_only_tables_of_its_own_and_of_those_before_it() throws IOException {
    Map<String, String> owners = ownersOfTables();
    var touched = new TreeSet<String>();
    for (Path file : files(SOURCES, ".java")) {
      String capability = SOURCES.relativize(file).getName(0).toString();
      String source = Files.readString(file);
      owners.forEach(
          (table, owner) -> {
            if (ORDER.indexOf(owner) > ORDER.indexOf(capability) && touches(source, table)) {
              touched.add(SOURCES.relativize(file) + " touches " + table + " of " + owner);
            }
          });
    }
    assertThat(owners).hasSizeGreaterThan(60);
    assertThat(touched).isEmpty();
  }

  /** The migrations are one file per capability: who makes a table owns it. */
  private static Map<String, String> ownersOfTables() throws IOException {
    var owners = new HashMap<String, String>();
    for (Path file : files(Path.of("../server/src/main/resources/db/migration"), ".sql")) {
      String capability = file.getFileName().toString().replaceFirst("^V\\d+__(\\w+)\\.sql$", "$1");
      Matcher made =
          Pattern.compile("^create table (\\w+)", Pattern.MULTILINE)
              .matcher(Files.readString(file));
      while (made.find()) {
        owners.put(made.group(1), capability);
      }
    }
    return owners;
  }

  private static boolean touches(String source, String table) {
    return source.contains("generated.Tables." + table.toUpperCase(Locale.ROOT) + ";")
        || Pattern.compile("\\b(from|join|into|update) " + table + "\\b").matcher(source).find();
  }

  private static List<Path> files(Path folder, String suffix) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(file -> file.toString().endsWith(suffix)).toList();
    }
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
