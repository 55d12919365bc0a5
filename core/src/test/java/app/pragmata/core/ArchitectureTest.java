package app.pragmata.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import com.tngtech.archunit.library.Architectures;

@AnalyzeClasses(packages = "app.pragmata.core", importOptions = DoNotIncludeTests.class)
class ArchitectureTest {
  @ArchTest
  static final ArchRule capabilities_depend_only_in_the_order_of_the_work =
      Architectures.layeredArchitecture()
          .consideringOnlyDependenciesInLayers()
          .layer("money")
          .definedBy("..core.money")
          .layer("customers")
          .definedBy("..core.customers")
          .layer("calls")
          .definedBy("..core.calls")
          .layer("people")
          .definedBy("..core.people")
          .layer("stores")
          .definedBy("..core.stores")
          .layer("quoting")
          .definedBy("..core.quoting")
          .layer("planning")
          .definedBy("..core.planning")
          .layer("field")
          .definedBy("..core.field")
          .layer("costing")
          .definedBy("..core.costing")
          .layer("billing")
          .definedBy("..core.billing")
          .layer("books")
          .definedBy("..core.books")
          .whereLayer("people")
          .mayOnlyBeAccessedByLayers("quoting", "planning", "field", "costing", "billing")
          .whereLayer("quoting")
          .mayOnlyBeAccessedByLayers("costing", "billing")
          .whereLayer("field")
          .mayOnlyBeAccessedByLayers("costing", "billing")
          .whereLayer("costing")
          .mayOnlyBeAccessedByLayers("billing")
          .whereLayer("billing")
          .mayNotBeAccessedByAnyLayer()
          .whereLayer("planning")
          .mayOnlyBeAccessedByLayers("calls")
          .whereLayer("calls")
          .mayNotBeAccessedByAnyLayer()
          .whereLayer("customers")
          .mayNotBeAccessedByAnyLayer()
          .whereLayer("books")
          .mayNotBeAccessedByAnyLayer();

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
