package app.pragmata.server;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.QUOTE;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Every figure of the demo, from the first quote to the trial balance, against those on record. A
 * change that moves one shows which; a wanted change takes the file that the test writes.
 */
class DemoFiguresTest {
  private static final Map<String, String> UNITS =
      Map.of("minute", "min", "mile", "mi", "piece", "");

  private static final String ON_RECORD = "/demo-figures.txt";
  private static final Path FOUND = Path.of("target", "demo-figures.txt");

  @Test
  void every_quote_ladder_invoice_and_account_of_the_demo_is_as_on_record() throws IOException {
    List<String> figures = figures();
    Files.write(FOUND, figures);
    try (InputStream onRecord =
        Objects.requireNonNull(DemoFiguresTest.class.getResourceAsStream(ON_RECORD))) {
      String text = new String(onRecord.readAllBytes(), StandardCharsets.UTF_8);
      assertThat(figures)
          .as("the demo's figures; as they are now they lie in " + FOUND)
          .containsExactlyElementsOf(text.lines().toList());
    }
  }

  private static List<String> figures() {
    RunningPragmata program = RunningPragmata.untouched();
    try {
      var visitor = new Visitor(program);
      visitor.post("/api/sign-in", java.util.Map.of("username", "hester", "password", "ostmere"));
      var figures = new ArrayList<String>();
      program
          .database()
          .select(QUOTE.ID)
          .from(QUOTE)
          .orderBy(QUOTE.NUMBER)
          .fetch(QUOTE.ID)
          .forEach(id -> quote(figures, visitor.get("/api/quotes/" + id).json()));
      program
          .database()
          .select(JOB.ID)
          .from(JOB)
          .orderBy(JOB.NUMBER)
          .fetch(JOB.ID)
          .forEach(id -> job(figures, visitor.get("/api/jobs/" + id).json()));
      trialBalance(figures, visitor.get("/api/books/trial-balance").json());
      moneyLine(figures, visitor.get("/api/money-line").json());
      return figures;
    } finally {
      program.stop();
    }
  }

  private static void quote(List<String> figures, JsonNode quote) {
    JsonNode computed = quote.path("computed");
    JsonNode totals = computed.path("totals");
    figures.add(
        "quote %s %s: net %s, VAT %s, gross %s, cost %s, deposit %s, stages %s"
            .formatted(
                text(quote, "number"),
                text(quote, "state"),
                text(totals, "netMinor"),
                text(totals, "vatMinor"),
                text(totals, "grossMinor"),
                text(totals, "costMinor"),
                text(computed, "depositMinor"),
                computed.path("stageMinors")));
    for (int i = 0; i < quote.path("lines").size(); i++) {
      JsonNode line = quote.path("lines").path(i);
      JsonNode amounts = computed.path("lines").path(i);
      figures.add(
          "  %s “%s” %s: cost %s, net %s"
              .formatted(
                  text(line, "category"),
                  text(line, "description"),
                  text(line, "choice"),
                  text(amounts, "costMinor"),
                  text(amounts, "netMinor")));
    }
  }

  private static void job(List<String> figures, JsonNode job) {
    String billed = text(job.path("billing"), "state");
    figures.add(
        "job %s %s"
            .formatted(
                text(job, "number"), billed.equals("unbilled") ? text(job, "state") : billed));
    for (JsonNode rung : job.path("cost").path("rungs")) {
      figures.add(
          "  %s: quoted %s, actual %s, because “%s”"
              .formatted(
                  text(rung, "category"),
                  text(rung, "quotedMinor"),
                  text(rung, "actualMinor"),
                  because(rung.path("because"))));
    }
    JsonNode cost = job.path("cost");
    figures.add(
        "  net %s, margin %s, quoted margin %s, overhead %s"
            .formatted(
                text(cost, "netMinor"),
                text(cost, "marginMinor"),
                text(cost, "quotedMarginMinor"),
                text(cost, "overheadMinor")));
    JsonNode billing = job.path("billing");
    figures.add(
        "  fixed price %s, time and parts %s"
            .formatted(
                text(billing.path("fixedPrice"), "netMinor"),
                text(billing.path("timeAndParts"), "netMinor")));
    bill(figures, "draft", billing.path("draft"));
    for (JsonNode invoice : billing.path("invoices")) {
      bill(figures, text(invoice, "kind") + " invoice", invoice);
      for (JsonNode credit : invoice.path("credits")) {
        figures.add(
            "    credit %s, %s: net %s, gross %s"
                .formatted(
                    text(credit, "number"),
                    text(credit, "kind"),
                    text(credit, "netMinor"),
                    text(credit, "grossMinor")));
      }
    }
    for (JsonNode entry : job.path("journal")) {
      figures.add(
          "  entry %s %s: %s"
              .formatted(
                  text(entry, "number"),
                  text(entry, "date"),
                  StreamSupport.stream(entry.path("lines").spliterator(), false)
                      .map(
                          line ->
                              "%s %s/%s"
                                  .formatted(
                                      text(line, "accountCode"),
                                      text(line, "debitMinor"),
                                      text(line, "creditMinor")))
                      .toList()));
    }
  }

  /** What is, or was, held of deposits when the bill is posted. */
  private static String deposit(JsonNode bill) {
    if (bill.has("depositMinor")) {
      return text(bill, "depositMinor");
    }
    return String.valueOf(
        StreamSupport.stream(bill.path("receipts").spliterator(), false)
            .filter(paid -> !text(paid, "allocatedOn").equals(text(paid, "receivedOn")))
            .mapToLong(paid -> paid.path("amountMinor").asLong())
            .sum());
  }

  private static void bill(List<String> figures, String what, JsonNode bill) {
    if (!bill.isObject()) {
      return;
    }
    figures.add(
        "  %s %s: net %s, gross %s, deposit %s, owed %s"
            .formatted(
                what,
                text(bill, "number"),
                text(bill, "netMinor"),
                text(bill, "grossMinor"),
                deposit(bill),
                text(bill, "owedMinor")));
    for (JsonNode line : bill.path("lines")) {
      figures.add(
          "    %s “%s”: %s %s, full %s, warranty %s, net %s"
              .formatted(
                  text(line, "category"),
                  text(line, "description"),
                  text(line, "quantity"),
                  UNITS.get(text(line, "unit")),
                  text(line, "fullMinor"),
                  text(line, "warrantyReductionMinor"),
                  text(line, "netMinor")));
    }
    for (JsonNode rate : bill.path("vat")) {
      figures.add(
          "    VAT %s %%: net %s, VAT %s"
              .formatted(text(rate, "percent"), text(rate, "netMinor"), text(rate, "vatMinor")));
    }
  }

  private static void trialBalance(List<String> figures, JsonNode balance) {
    for (JsonNode account : balance.path("accounts")) {
      figures.add(
          "account %s: %s/%s"
              .formatted(
                  text(account, "code"),
                  text(account, "debitMinor"),
                  text(account, "creditMinor")));
    }
  }

  private static void moneyLine(List<String> figures, JsonNode line) {
    for (JsonNode stage : line) {
      figures.add(
          "stage %s: %s in %s"
              .formatted(text(stage, "stage"), text(stage, "amountMinor"), text(stage, "count")));
    }
  }

  private static String text(JsonNode node, String field) {
    return node.path(field).asString("–");
  }

  private static String because(JsonNode reasons) {
    var said = new StringBuilder();
    for (JsonNode reason : reasons) {
      String between =
          said.isEmpty() ? "" : reason.path("kind").asString().equals("rate") ? " · " : ", ";
      int minutes = reason.path("minutes").asInt();
      String hours = sign(minutes) + Minutes.text(Math.abs(minutes));
      long minor = reason.path("amountMinor").asLong();
      String amount = sign(minor) + Money.ofMinor(Math.abs(minor));
      BigDecimal quantity = reason.path("quantity").decimalValue().stripTrailingZeros();
      String many = sign(quantity.signum()) + quantity.abs().toPlainString();
      said.append(
          switch (reason.path("kind").asString()) {
            case "hours" -> "hours " + hours + ", " + amount;
            case "rate" -> between + "rate " + amount;
            case "drive_minutes" -> hours;
            case "miles" -> between + many + " mi";
            case "part" -> between + many + " " + reason.path("part").asString();
            default -> " and " + quantity.toPlainString() + " more";
          });
    }
    return said.toString();
  }

  private static String sign(long value) {
    return value < 0 ? "−" : "+";
  }
}
