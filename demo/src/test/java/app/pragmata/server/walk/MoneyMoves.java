package app.pragmata.server.walk;

import app.pragmata.server.Visitor;
import app.pragmata.server.Visitor.Answer;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/** What is done with bills and money; null where there is nothing to do it to. */
final class MoneyMoves {
  private static final String CLOSABLE =
      "state = 'checked' and not exists (select from cost_release r where r.job_id = t.id and r.closes)";

  private MoneyMoves() {}

  static @Nullable Answer basis(WalkedCompany company, Dice dice) {
    Record job = company.pick(dice, "from job t", CLOSABLE);
    return job == null
        ? null
        : company
            .office()
            .put(
                "/api/jobs/" + job.get("id") + "/basis",
                Map.of(
                    "version", job.get("version"),
                    "basis",
                        dice.of(
                            List.of(
                                "fixed_price",
                                "time_and_parts",
                                "promised_on_site",
                                "not_charged")),
                    "told", dice.of(List.of("240", "1,200", "37.50")),
                    "withVat", dice.oneIn(2),
                    "reason", "Agreed on the telephone"));
  }

  static @Nullable Answer vat(WalkedCompany company, Dice dice) {
    Record job = company.pick(dice, "from job t", "state <> 'called_off'");
    if (job == null) {
      return null;
    }
    var form = new HashMap<String, Object>();
    form.put("version", job.get("version"));
    form.put(
        "vatCode",
        dice.oneIn(3)
            ? null
            : dice.of(List.of("standard", "reduced", "zero", "reverse_charge", "outside_scope")));
    return company.office().put("/api/jobs/" + job.get("id") + "/vat", form);
  }

  static @Nullable Answer invoice(WalkedCompany company, Dice dice) {
    Record job = company.pick(dice, "from job t", CLOSABLE);
    return job == null
        ? null
        : company
            .office()
            .post("/api/jobs/" + job.get("id") + "/invoice", Map.of("version", job.get("version")));
  }

  static @Nullable Answer closeAll(WalkedCompany company, Dice dice) {
    var jobs =
        company
            .database()
            .fetch("select id, version from job t where " + CLOSABLE + " order by id desc limit 4")
            .map(row -> Map.of("jobId", row.get(0), "version", row.get(1)));
    return jobs.isEmpty() ? null : company.office().post("/api/job-closings", Map.of("jobs", jobs));
  }

  static @Nullable Answer billStage(WalkedCompany company, Dice dice) {
    Record job =
        company.pick(
            dice,
            "from job t",
            """
            state <> 'called_off' and exists (select from accepted_stage s
              join accepted_quote a on a.quote_id = s.quote_id where a.job_id = t.id)
            """);
    return job == null
        ? null
        : bill(
            company,
            Map.of("jobId", job.get("id"), "version", job.get("version"), "kind", "stage"));
  }

  /** What one visit took. */
  static @Nullable Answer billPart(WalkedCompany company, Dice dice) {
    Record visit =
        company.pick(
            dice,
            "from visit t",
            """
            state = 'checked' and job_id in (select j.id from job j where j.billing_basis = 'time_and_parts'
              and not exists (select from cost_release r where r.job_id = j.id and r.closes))
            """);
    if (visit == null) {
      return null;
    }
    Object version =
        company
            .database()
            .fetchSingle("select version from job where id = ?", visit.get("job_id"))
            .get(0);
    return bill(
        company,
        Map.of(
            "jobId",
            visit.get("job_id"),
            "version",
            version,
            "kind",
            "part",
            "visitIds",
            List.of(visit.get("id"))));
  }

  private static Answer bill(WalkedCompany company, Map<String, Object> bill) {
    return company.office().post("/api/invoices", Map.of("jobs", List.of(bill)));
  }

  static @Nullable Answer credit(WalkedCompany company, Dice dice) {
    Record invoice =
        company.pick(
            dice,
            "from receivable t0 join (select invoice_id as id, version as v, * from receivable) t on t.id = t0.invoice_id",
            "true");
    if (invoice == null) {
      return null;
    }
    var form = new HashMap<String, Object>();
    form.put("version", invoice.get("version"));
    form.put("kind", dice.of(List.of("price", "work_taken_back")));
    form.put("reason", "Agreed on the telephone");
    if (dice.oneIn(2)) {
      form.put("kind", "price");
      form.put("lines", List.of(Map.of("position", 1, "amount", dice.amount(40))));
    }
    return company.office().post("/api/invoices/" + invoice.get("id") + "/credits", form);
  }

  /** Money for an invoice: all, too little or too much. */
  static @Nullable Answer pay(WalkedCompany company, Dice dice) {
    Record invoice =
        company.pick(
            dice,
            "from (select invoice_id as id, owed_minor, version from receivable) t",
            "owed_minor > 0");
    if (invoice == null) {
      return null;
    }
    long owed = invoice.get("owed_minor", Long.class);
    long amount = dice.oneIn(3) ? 1 + dice.next(60_000) : Math.max(owed, 1);
    return whose(company, dice)
        .post(
            "/api/receipts",
            Map.of(
                "amount", pounds(amount),
                "allocations",
                    List.of(
                        Map.of(
                            "invoiceId", invoice.get("id"), "version", invoice.get("version")))));
  }

  private static Visitor whose(WalkedCompany company, Dice dice) {
    return dice.oneIn(2) ? company.office() : company.bookkeeper();
  }

  private static String pounds(long minor) {
    return "%d.%02d".formatted(minor / 100, minor % 100);
  }

  /** Money before there is an invoice: for a quote, a job, or on account. */
  static @Nullable Answer payAhead(WalkedCompany company, Dice dice) {
    String kind = dice.of(List.of("quote", "job", "customer"));
    Record row =
        company.pick(
            dice, "from " + kind + " t", kind.equals("quote") ? "state <> 'draft'" : "true");
    return row == null
        ? null
        : whose(company, dice)
            .post("/api/receipts", Map.of("amount", dice.amount(500), kind + "Id", row.get("id")));
  }

  static @Nullable Answer allocate(WalkedCompany company, Dice dice) {
    Record receipt = company.pick(dice, "from receipt t", "left_minor > 0");
    if (receipt == null) {
      return null;
    }
    Record invoice =
        company.pick(
            dice,
            "from (select invoice_id as id, customer_id, owed_minor, version from receivable) t",
            "owed_minor > 0 and customer_id = " + receipt.get("customer_id"));
    return invoice == null
        ? null
        : whose(company, dice)
            .post(
                "/api/receipts/" + receipt.get("id") + "/allocations",
                Map.of(
                    "version", receipt.get("version"),
                    "allocations",
                        List.of(
                            Map.of(
                                "invoiceId",
                                invoice.get("id"),
                                "version",
                                invoice.get("version")))));
  }

  static @Nullable Answer takeAllocationBack(WalkedCompany company, Dice dice) {
    Record allocation = company.pick(dice, "from receipt_allocation t", "amount_minor > 0");
    if (allocation == null) {
      return null;
    }
    Object version =
        company
            .database()
            .fetchSingle("select version from receipt where id = ?", allocation.get("receipt_id"))
            .get(0);
    return whose(company, dice)
        .post(
            "/api/receipts/%s/allocations/%s/take-back"
                .formatted(allocation.get("receipt_id"), allocation.get("id")),
            Map.of("version", version));
  }

  static @Nullable Answer takeReceiptBack(WalkedCompany company, Dice dice) {
    Record receipt = company.pick(dice, "from receipt t", "true");
    return receipt == null
        ? null
        : company
            .office()
            .post(
                "/api/receipts/" + receipt.get("id") + "/take-back",
                Map.of("version", receipt.get("version"), "reason", "The cheque bounced"));
  }

  static @Nullable Answer giveBack(WalkedCompany company, Dice dice) {
    Record receipt = company.pick(dice, "from receipt t", "left_minor > 0");
    return receipt == null
        ? null
        : company
            .office()
            .post(
                "/api/receipts/" + receipt.get("id") + "/give-back",
                Map.of(
                    "version",
                    receipt.get("version"),
                    "amount",
                    dice.oneIn(2)
                        ? pounds(Math.max(receipt.get("left_minor", Long.class), 1))
                        : dice.amount(100)));
  }

  static Answer noteToDo(WalkedCompany company, Dice dice) {
    return company
        .bookkeeper()
        .post(
            "/api/to-dos",
            Map.of(
                "version",
                0,
                "what",
                "Call about bill " + dice.next(1_000),
                "forPersonId",
                company.personId("hal"),
                "due",
                "today"));
  }

  static @Nullable Answer closeToDo(WalkedCompany company, Dice dice) {
    Record toDo = company.pick(dice, "from to_do t", "state = 'open'");
    return toDo == null
        ? null
        : company
            .office()
            .post(
                "/api/to-dos/" + toDo.get("id") + "/close",
                Map.of("version", toDo.get("version"), "done", dice.oneIn(2), "outcome", "Called"));
  }
}
