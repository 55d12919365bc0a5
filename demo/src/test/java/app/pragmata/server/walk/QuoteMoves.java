package app.pragmata.server.walk;

import app.pragmata.server.Visitor.Answer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/** What is done with customers and quotes; null where there is nothing to do it to. */
final class QuoteMoves {
  private static final List<String> PROMISES = List.of("fixed_price", "estimate", "not_more_than");
  private static final List<String> VAT =
      List.of("standard", "reduced", "zero", "exempt", "reverse_charge");

  private static final List<String> WITHOUT_VERSION = List.of("/copy", "/job", "/extra-work");

  private QuoteMoves() {}

  static Answer newCustomer(WalkedCompany company, Dice dice) {
    int number = dice.next(9_000);
    return company
        .office()
        .post(
            "/api/customers",
            Map.of(
                "name", "Customer " + number,
                "phone", "01632 96%04d".formatted(number),
                "place", "%d Random Row, OS4 1AB".formatted(number)));
  }

  static @Nullable Answer changeCustomer(WalkedCompany company, Dice dice) {
    Record row = company.pick(dice, "from customer t", "merged_into is null");
    if (row == null) {
      return null;
    }
    var form = new HashMap<String, Object>();
    form.put("version", row.get("version"));
    form.put("name", row.get("name") + (dice.oneIn(2) ? "" : "s"));
    form.put("address", row.get("address"));
    form.put("paymentDays", String.valueOf(dice.next(60)));
    form.put("vatNumber", dice.oneIn(2) ? "GB123456789" : "");
    form.put("vatCode", dice.oneIn(4) ? "reverse_charge" : null);
    form.put("pricesWithVat", dice.oneIn(2));
    return company.office().put("/api/customers/" + row.get("id"), form);
  }

  static @Nullable Answer mergeCustomers(WalkedCompany company, Dice dice) {
    Record row = company.pick(dice, "from customer t", "merged_into is null");
    Record into = company.pick(dice, "from customer t", "merged_into is null");
    return row == null || into == null
        ? null
        : company
            .office()
            .post(
                "/api/customers/" + row.get("id") + "/merge",
                Map.of("version", row.get("version"), "intoId", into.get("id")));
  }

  static @Nullable Answer call(WalkedCompany company, Dice dice) {
    Record site = company.pick(dice, "from site t", "true");
    if (site == null) {
      return null;
    }
    return company
        .office()
        .post(
            "/api/calls",
            Map.of(
                "customerId", site.get("customer_id"),
                "siteId", site.get("id"),
                "about", "Gate does not close",
                "outcome", "job",
                "job",
                    Map.of(
                        "kindOfJobId",
                        1 + dice.next(5),
                        "priority",
                        dice.of(List.of("emergency", "urgent", "normal", "low")),
                        "expected",
                        "1:00")));
  }

  static @Nullable Answer quote(WalkedCompany company, Dice dice) {
    Record site = company.pick(dice, "from site t", "true");
    if (site == null) {
      return null;
    }
    var form = new HashMap<String, Object>();
    form.put("version", 0);
    form.put("siteId", site.get("id"));
    form.put("kindOfJobId", 1 + dice.next(5));
    form.put("title", "Gate, quoted");
    form.put("promise", dice.of(PROMISES));
    form.put("lines", lines(dice));
    form.put("discount", dice.oneIn(4) ? "5%" : "");
    form.put("deposit", dice.oneIn(3) ? "25%" : "");
    if (form.get("promise").equals("fixed_price") && dice.oneIn(2)) {
      form.put(
          "stages",
          List.of(Map.of("name", "Order", "part", "40%"), Map.of("name", "Rest", "part", "60%")));
    }
    return company.office().post("/api/quotes", form);
  }

  private static List<Map<String, Object>> lines(Dice dice) {
    var lines = new ArrayList<Map<String, Object>>();
    String vat = dice.oneIn(3) ? dice.of(VAT) : "standard";
    lines.add(Map.of("category", "labour", "time", (1 + dice.next(4)) + ":15", "vat", vat));
    if (dice.oneIn(2)) {
      lines.add(Map.of("category", "drive", "time", "0:40", "miles", "12.5", "vat", vat));
    }
    if (dice.oneIn(2)) {
      lines.add(
          Map.of(
              "category",
              "parts",
              "partId",
              1 + dice.next(4),
              "quantity",
              "1." + dice.next(10),
              "vat",
              vat));
    }
    if (dice.oneIn(2)) {
      lines.add(
          Map.of(
              "category", "other",
              "description", "Disposal",
              "quantity", "1",
              "cost", "10",
              "price", dice.amount(300),
              "choice", dice.oneIn(3) ? "option" : "included",
              "vat", vat));
    }
    return lines;
  }

  private static @Nullable Answer act(
      WalkedCompany company, Dice dice, String state, String what, Map<String, Object> said) {
    Record row = company.pick(dice, "from quote t", state);
    if (row == null) {
      return null;
    }
    var form = new HashMap<>(said);
    if (!WITHOUT_VERSION.contains(what)) {
      form.put("version", row.get("version"));
    }
    return company.office().post("/api/quotes/" + row.get("id") + what, form);
  }

  static @Nullable Answer send(WalkedCompany company, Dice dice) {
    return act(company, dice, "state = 'draft'", "/send", Map.of());
  }

  static @Nullable Answer copy(WalkedCompany company, Dice dice) {
    return act(company, dice, "true", "/copy", Map.of());
  }

  static @Nullable Answer accept(WalkedCompany company, Dice dice) {
    return act(company, dice, "state = 'sent'", "/accept", Map.of("acceptedBy", "Somebody"));
  }

  static @Nullable Answer decline(WalkedCompany company, Dice dice) {
    return act(company, dice, "state = 'sent'", "/decline", Map.of("reason", "Too dear"));
  }

  static @Nullable Answer takeBack(WalkedCompany company, Dice dice) {
    return act(company, dice, "state = 'sent'", "/take-back", Map.of());
  }

  static @Nullable Answer makeJob(WalkedCompany company, Dice dice) {
    return act(
        company,
        dice,
        "state = 'accepted' and not exists (select from accepted_quote a where a.quote_id = t.id and a.job_id is not null)",
        "/job",
        Map.of());
  }

  static @Nullable Answer extraWork(WalkedCompany company, Dice dice) {
    Record job = company.pick(dice, "from job t", "state = 'open'");
    if (job == null) {
      return null;
    }
    return act(
        company,
        dice,
        "state = 'accepted' and site_id = %s and not exists (select from accepted_quote a where a.quote_id = t.id and a.job_id is not null)"
            .formatted(job.get("site_id")),
        "/extra-work",
        Map.of("jobId", job.get("id")));
  }

  /** Behind the link: what was sent last is accepted with a typed name, or declined. */
  static @Nullable Answer customerAnswers(WalkedCompany company, Dice dice) {
    Record row = company.pick(dice, "from quote t", "state = 'sent'");
    if (row == null) {
      return null;
    }
    String address =
        company
            .office()
            .get("/api/quotes/" + row.get("id"))
            .json()
            .path("link")
            .path("address")
            .asString("");
    if (address.isEmpty()) {
      return null;
    }
    String path = "/api/offers/" + address.substring(address.lastIndexOf('/') + 1);
    int edition = row.get("edition", Integer.class);
    return dice.oneIn(5)
        ? company.customer().post(path + "/decline", Map.of("edition", edition, "reason", "Sold"))
        : company
            .customer()
            .post(
                path + "/accept",
                Map.of(
                    "edition",
                    edition,
                    "name",
                    "Somebody",
                    "signature",
                    "Somebody",
                    "drawn",
                    false,
                    "taken",
                    List.of()));
  }
}
