package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;

import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;

/** The worked example's quote in the hands of its customer, who has a phone of their own. */
final class SentQuote {
  /** The place of the lamp among all lines. */
  static final int LAMP = 5;

  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");
  private final Visitor customer = new Visitor(program);

  SwingGate gate() {
    return gate;
  }

  Visitor customer() {
    return customer;
  }

  /** Sends it with a deposit of 25 % and a lamp if wanted. */
  SwingGate sent() {
    return gate.agree("deposit", "25%").offer(lamp("option")).sent();
  }

  /** A flashing lamp at 50.00, for the customer to choose. */
  Map<String, Object> lamp(String choice) {
    return Map.of(
        "category",
        "parts",
        "warrantyExclusion",
        "It is new",
        "partId",
        gate.part("LMP-F"),
        "quantity",
        "1",
        "price",
        "50.00",
        "choice",
        choice,
        "taken",
        false);
  }

  /** The customer's page as it is now. */
  JsonNode page() {
    return customer.get(gate.offerPath()).json();
  }

  /** The yes of the customer to this edition with these lines. */
  Visitor.Answer accept(int edition, List<Integer> taken) {
    return customer.post(
        gate.offerPath() + "/accept",
        Map.of(
            "edition",
            edition,
            "taken",
            taken,
            "name",
            "Mara Okafor",
            "signature",
            "Mara Okafor",
            "drawn",
            false));
  }

  /** Pays the deposit by this card. */
  Visitor.Answer pay(String card) {
    return customer.post(gate.offerPath() + "/deposit", Map.of("card", card));
  }

  /** The quote as the office sees it. */
  JsonNode quote() {
    return gate.office().get("/api/quotes/" + gate.quote()).json();
  }

  /** What is left of each deposit, in pence. */
  List<Long> heldDeposits() {
    JsonNode receipts =
        gate.office().get("/api/receipts?quoteId=" + gate.quote()).json().path("rows");
    return texts(receipts, "leftMinor").stream().map(Long::valueOf).toList().reversed();
  }
}
