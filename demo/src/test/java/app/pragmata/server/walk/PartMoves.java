package app.pragmata.server.walk;

import app.pragmata.server.Visitor;
import app.pragmata.server.Visitor.Answer;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/** What is done about parts that are missing; null where there is nothing to do it to. */
final class PartMoves {
  private static final List<String> STEPS =
      List.of("order", "arrive", "arrive", "fit", "fit", "drop", "drop", "take-back");

  private PartMoves() {}

  /** On site, or by the office on a job. */
  static @Nullable Answer want(WalkedCompany company, Dice dice) {
    var form = new HashMap<String, Object>();
    form.put("partId", dice.oneIn(3) ? null : 1 + dice.next(4));
    form.put("words", dice.oneIn(3) ? "like the one on the other leaf" : "");
    form.put("quantity", dice.oneIn(4) ? "" : String.valueOf(1 + dice.next(3)));
    form.put("urgent", dice.oneIn(3));
    Record visit =
        company.pick(
            dice, "from visit t", "state in ('on_site', 'driving') and technician_id is not null");
    if (visit != null && visit.get("technician_id") != null && dice.oneIn(2)) {
      Visitor technician = company.technicianOf(visit);
      return technician.post("/api/pocket/visits/" + visit.get("id") + "/missing-parts", form);
    }
    Record job = company.pick(dice, "from job t", "state in ('open', 'worked')");
    return job == null
        ? null
        : company.office().post("/api/jobs/" + job.get("id") + "/parts-wanted", form);
  }

  static @Nullable Answer step(WalkedCompany company, Dice dice) {
    Record part = company.pick(dice, "from part_wanted t", "closed_at is null");
    if (part == null) {
      return null;
    }
    String step = dice.of(STEPS);
    var form = new HashMap<String, Object>();
    form.put("version", part.get("version"));
    switch (step) {
      case "order" -> {
        form.put("supplier", "Harrow & Lyle");
        form.put("expected", dice.oneIn(2) ? "tomorrow" : "");
      }
      case "drop" -> form.put("reason", "So it was");
      default -> {}
    }
    return company.office().post("/api/parts-wanted/" + part.get("id") + "/" + step, form);
  }

  /** Fitted on site, by whoever has the visit. */
  static @Nullable Answer fit(WalkedCompany company, Dice dice) {
    Record part =
        company.pick(
            dice,
            "from part_wanted t",
            """
            closed_at is null and exists (select from visit v
              where v.job_id = t.job_id and v.state = 'on_site')
            """);
    Record visit =
        part == null
            ? null
            : company
                .database()
                .fetchOne(
                    """
                    select * from visit where job_id = ? and technician_id is not null
                      order by state = 'on_site' desc, id limit 1
                    """,
                    part.get("job_id"));
    return visit == null
        ? null
        : company
            .technicianOf(visit)
            .post(
                "/api/pocket/visits/"
                    + visit.get("id")
                    + "/missing-parts/"
                    + part.get("id")
                    + "/fit",
                Map.of("version", part.get("version")));
  }
}
