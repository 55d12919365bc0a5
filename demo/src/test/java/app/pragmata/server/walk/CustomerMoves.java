package app.pragmata.server.walk;

import app.pragmata.server.Visitor.Answer;
import java.util.Map;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/** What customers do on their page of a job, and what the office sends them. */
final class CustomerMoves {
  private CustomerMoves() {}

  /** The path of a job's page, which is made where there is none. */
  private static String page(WalkedCompany company, Object job) {
    String address =
        company
            .office()
            .post("/api/jobs/" + job + "/customer-page", Map.of())
            .json()
            .path("address")
            .asString();
    return "/api/job-pages/" + address.substring(address.lastIndexOf('/') + 1);
  }

  /** Signs a visit, or says how it was, at any time: before it is over it is refused. */
  static @Nullable Answer signLater(WalkedCompany company, Dice dice) {
    Record visit = company.pick(dice, "from visit t", "t.day is not null");
    if (visit == null) {
      return null;
    }
    String path = page(company, visit.get("job_id")) + "/visits/" + visit.get("id");
    return dice.oneIn(3)
        ? company
            .customer()
            .post(path + "/rating", Map.of("rating", 1 + dice.next(5), "words", "Walked"))
        : company
            .customer()
            .post(
                path + "/signature",
                Map.of("name", "M Quill", "signature", "M Quill", "drawn", false));
  }

  /** Writes to the office, or is written to. */
  static @Nullable Answer write(WalkedCompany company, Dice dice) {
    Record job = company.pick(dice, "from job t", "true");
    if (job == null) {
      return null;
    }
    return dice.oneIn(2)
        ? company
            .customer()
            .post(page(company, job.get("id")) + "/messages", Map.of("text", "Walked question"))
        : company
            .office()
            .post(
                "/api/jobs/" + job.get("id") + "/messages",
                Map.of("text", "Walked answer", "to", "customer"));
  }

  /** Sends a report; refused where the visit is not over. */
  static @Nullable Answer sendReport(WalkedCompany company, Dice dice) {
    Record visit = company.pick(dice, "from visit t", "t.finished_at is not null");
    return visit == null
        ? null
        : company
            .office()
            .post(
                "/api/visits/" + visit.get("id") + "/reports",
                Map.of("to", "walked@harbour.example", "withPrices", dice.oneIn(2)));
  }
}
