package app.pragmata.server;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import com.tngtech.archunit.lang.syntax.ArchRuleDefinition;
import com.tngtech.archunit.library.dependencies.SlicesRuleDefinition;

@AnalyzeClasses(packages = "app.pragmata.server", importOptions = DoNotIncludeTests.class)
class ArchitectureTest {
  @ArchTest
  static final ArchRule the_books_know_nothing_of_the_work =
      ArchRuleDefinition.noClasses()
          .that()
          .resideInAPackage("..server.books..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "..server.quoting..",
              "..server.planning..",
              "..server.field..",
              "..server.costing..",
              "..server.billing..",
              "..server.sheet..");

  @ArchTest
  static final ArchRule quoting_knows_nothing_of_what_follows =
      ArchRuleDefinition.noClasses()
          .that()
          .resideInAPackage("..server.quoting..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "..server.planning..",
              "..server.field..",
              "..server.costing..",
              "..server.billing..",
              "..server.sheet..",
              "..server.worklists..");

  @ArchTest
  static final ArchRule capabilities_form_no_circles =
      SlicesRuleDefinition.slices()
          .matching(
              "app.pragmata.server.(quoting|planning|field|costing|billing|books|stores|customers|worklists|sheet|finding)..")
          .should()
          .beFreeOfCycles();
}
