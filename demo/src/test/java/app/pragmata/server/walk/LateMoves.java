package app.pragmata.server.walk;

import app.pragmata.server.Visitor.Answer;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/** What phones without a network do on a walk, and what the office says to it. */
final class LateMoves {
  private static final List<String> STEPS =
      List.of(
          "drive",
          "arrive",
          "start_work",
          "start_work",
          "pause",
          "finish",
          "use_part",
          "send_message",
          "tick_line",
          "answer_checklist",
          "note_time");

  private LateMoves() {}

  /** Something is sent that was tapped earlier, by whoever, or the office answers what waits. */
  static @Nullable Answer cameInLate(WalkedCompany company, Dice dice) {
    Record waiting = company.pick(dice, "from late_act t", "state = 'waiting'");
    return waiting != null && dice.oneIn(2) ? answer(company, dice, waiting) : send(company, dice);
  }

  private static Answer answer(WalkedCompany company, Dice dice, Record one) {
    List<Long> ids =
        company
            .database()
            .fetch(
                """
                select id from late_act where state = 'waiting'
                and visit_id is not distinct from ?::bigint and person_id = ?::bigint
                order by id limit 100
                """,
                one.get("visit_id"),
                one.get("person_id"))
            .getValues("id", Long.class);
    return dice.oneIn(3)
        ? company
            .office()
            .post("/api/late-acts/refuse", Map.of("lateActIds", ids, "reason", "Was not there"))
        : company
            .office()
            .post(
                "/api/late-acts/write-down",
                Map.of(
                    "lateActIds",
                    ids,
                    "ends",
                    ids.stream()
                        .map(
                            id ->
                                Map.of(
                                    "lateActId",
                                    id,
                                    "endedAt",
                                    "%d:%02d".formatted(dice.next(24), dice.next(60))))
                        .toList()));
  }

  private static Map<String, ?> form(WalkedCompany company, String step, Dice dice) {
    return switch (step) {
      case "use_part" -> Map.of("partId", 1 + dice.next(4), "quantity", "1");
      case "tick_line" -> Map.of("lineId", 1 + dice.next(40), "done", dice.oneIn(2));
      case "send_message" -> Map.of("text", "Walked late " + dice.next(100));
      case "answer_checklist" ->
          Map.of(
              "checklistItemId",
              1 + dice.next(4),
              "answer",
              "380",
              "doesNotApply",
              false,
              "word",
              "Seen to");
      case "note_time" -> {
        int from = dice.next(20 * 60);
        int to = from + 5 + dice.next(40);
        yield Map.of(
            "day",
            company.today(),
            "time",
            Map.of(
                "version",
                0,
                "kind",
                dice.oneIn(2) ? "drive" : "break",
                "from",
                "%d:%02d".formatted(from / 60, from % 60),
                "to",
                "%d:%02d".formatted(to / 60, to % 60),
                "reason",
                "Forgot the clock"));
      }
      default -> Map.of();
    };
  }

  private static @Nullable Answer send(WalkedCompany company, Dice dice) {
    Record visit = company.pick(dice, "from visit t", "technician_id is not null");
    if (visit == null || visit.get("technician_id") == null) {
      return null;
    }
    String step = dice.of(STEPS);
    Instant sent = Instant.parse("2026-11-24T18:00:00Z");
    var form = new HashMap<String, Object>();
    form.put("key", "walk-late-" + dice.next(1_000_000_000));
    form.put("step", step);
    form.put("visitId", visit.get("id"));
    form.put("tappedAt", sent.minusSeconds(60L * dice.next(600)));
    form.put("sentAt", sent);
    form.put("form", form(company, step, dice));
    return (dice.oneIn(4)
            ? company.technician(dice.of(WalkedCompany.TECHNICIANS))
            : company.technicianOf(visit))
        .post("/api/pocket/late-acts", Map.of("acts", List.of(form)));
  }
}
