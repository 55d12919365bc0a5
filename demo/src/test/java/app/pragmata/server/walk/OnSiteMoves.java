package app.pragmata.server.walk;

import app.pragmata.server.Visitor;
import app.pragmata.server.Visitor.Answer;
import java.util.List;
import java.util.Map;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/** What technician and customer agree upon on site. */
final class OnSiteMoves {
  private static final List<String> METHODS = List.of("cash", "cheque", "card", "bank_transfer");

  private OnSiteMoves() {}

  private static @Nullable Record onSite(WalkedCompany company, Dice dice) {
    return company.pick(dice, "from visit t", "state = 'on_site' and technician_id is not null");
  }

  /** The customer hands something over. */
  static @Nullable Answer money(WalkedCompany company, Dice dice) {
    Record visit = onSite(company, dice);
    return visit == null
        ? null
        : company
            .technicianOf(visit)
            .post(
                "/api/pocket/visits/" + visit.get("id") + "/money",
                Map.of(
                    "amount",
                    (1 + dice.next(200)) + ".5",
                    "method",
                    METHODS.get(dice.next(METHODS.size())),
                    "card",
                    "41111111111" + (1 + dice.next(5))));
  }

  /** Site and office write to each other. */
  static @Nullable Answer message(WalkedCompany company, Dice dice) {
    Record visit = company.pick(dice, "from visit t", "technician_id is not null");
    return visit == null
        ? null
        : dice.oneIn(2)
            ? company
                .technicianOf(visit)
                .post(
                    "/api/pocket/visits/" + visit.get("id") + "/messages",
                    Map.of("text", "Walked past " + dice.next(100)))
            : company
                .office()
                .post(
                    "/api/jobs/" + visit.get("job_id") + "/messages",
                    Map.of("text", "Walk on " + dice.next(100)));
  }

  /** A line that the job of a visit promised. */
  static @Nullable Record promisedLine(WalkedCompany company, Dice dice, Record visit) {
    return company.pick(
        dice,
        "from (select l.id, q.job_id from promised_line l join accepted_quote q using (quote_id)) t",
        "job_id = " + visit.get("job_id"));
  }

  /** A promised line is ticked off, or not done after all. */
  static @Nullable Answer tick(WalkedCompany company, Dice dice) {
    Record visit = onSite(company, dice);
    if (visit == null) {
      return null;
    }
    Record line = promisedLine(company, dice, visit);
    return line == null
        ? null
        : company
            .technicianOf(visit)
            .post(
                "/api/pocket/visits/" + visit.get("id") + "/lines-done",
                Map.of("lineId", line.get("id"), "done", !dice.oneIn(4)));
  }

  /** Extra work is priced, or what was priced is answered. */
  static @Nullable Answer extraWork(WalkedCompany company, Dice dice) {
    Record visit = onSite(company, dice);
    if (visit == null) {
      return null;
    }
    Visitor technician = company.technicianOf(visit);
    String path = "/api/pocket/visits/" + visit.get("id") + "/extra-work";
    Record open =
        company
            .database()
            .fetch(
                """
                select q.id, q.edition from extra_work_offer o join quote q on q.id = o.quote_id
                where o.visit_id = ? and q.state = 'sent'
                """,
                visit.get("id"))
            .stream()
            .findFirst()
            .orElse(null);
    if (open == null) {
      return technician.post(
          path,
          Map.of(
              "what",
              "Walked further",
              "time",
              "0:" + (10 + dice.next(50)),
              "parts",
              List.of(Map.of("partId", 1 + dice.next(4), "quantity", "1"))));
    }
    String quote = path + "/" + open.get("id");
    return dice.oneIn(3)
        ? technician.post(
            quote + "/decline", Map.of("edition", open.get("edition"), "reason", "Too dear"))
        : technician.post(
            quote + "/accept",
            Map.of(
                "edition",
                open.get("edition"),
                "name",
                "Walked Customer",
                "signature",
                "Walked Customer",
                "drawn",
                false));
  }
}
