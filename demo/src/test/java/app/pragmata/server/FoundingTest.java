package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import app.pragmata.server.founding.Founding;
import app.pragmata.server.laws.Laws;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * A company in Helsinki is founded in an empty database by the product alone, and works from a
 * quote to a posted invoice with nothing else.
 */
class FoundingTest {
  private static FoundedCompany company;

  @BeforeAll
  static void found() {
    company = new FoundedCompany("founded", "2026-11-24T06:00:00Z");
  }

  @AfterAll
  static void stop() {
    company.close();
  }

  @Test
  void from_a_quote_to_a_posted_invoice_in_its_own_zone_currency_and_taxes() {
    long job = company.checkedJob("2026-11-24");
    JsonNode invoice = company.invoice(job);
    JsonNode sheet = company.sheet(job);
    // An hour and a half at 68.00 and a call-out at 55.00, with 25.5 %.
    assertThat(invoice.path("number").asLong()).isEqualTo(1);
    assertThat(invoice.path("netMinor").asLong()).isEqualTo(157_00);
    // Labour of 1:30 and driving of 0:30 at 19.00 x 1.25, ten miles at 0.60.
    assertThat(sheet.path("cost").path("actualMinor").asLong()).isEqualTo(35_63 + 11_88 + 6_00);
    JsonNode document =
        FoundedCompany.done(company.office().get("/api/invoices/" + invoice.path("id").asLong()))
            .path("document");
    assertThat(document.path("vatMinor").asLong()).isEqualTo(40_04);
    assertThat(document.path("currency").asString()).isEqualTo("EUR");
    assertThat(document.path("locale").asString()).isEqualTo("fi-FI");
    assertThat(document.path("invoiceDate").asString()).isEqualTo("2026-11-25");
    assertThat(document.path("dueDate").asString()).isEqualTo("2026-12-09");
    assertThat(document.path("vat").path(0).path("words").asString()).isEqualTo("ALV 25,5 %");
    assertThat(document.path("jobs").path(0).path("lines").findValuesAsString("description"))
        .containsExactly("Työ", "Käyntimaksu");
    assertThat(
            company
                .database()
                .fetchSingle("select content::text from quote_edition order by quote_id limit 1")
                .get(0, String.class))
        .contains("Hinta on kiinteä");
    assertThat(Laws.check(company.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void its_accounts_and_kinds_of_job_are_in_its_language() {
    assertThat(company.database().fetchValues("select name from account order by code").getFirst())
        .isEqualTo("Varasto");
    assertThat(
            company.database().fetchValues("select name from kind_of_job order by id").getFirst())
        .isEqualTo("Korjaus");
  }

  @Test
  void a_second_company_is_not_founded() {
    assertThatThrownBy(() -> company.bean(Founding.class).found(FoundedCompany.COMPANY, List.of()))
        .isInstanceOf(Refused.class)
        .hasMessageContaining("There is a company already");
  }
}
