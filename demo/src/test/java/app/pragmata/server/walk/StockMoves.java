package app.pragmata.server.walk;

import app.pragmata.server.Visitor;
import app.pragmata.server.Visitor.Answer;
import java.util.Map;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/**
 * Deliveries, counts and parts that go from hand to hand; vans and store fall below zero by them.
 */
final class StockMoves {
  private StockMoves() {}

  static Answer deliver(WalkedCompany company, Dice dice) {
    return company
        .office()
        .post(
            "/api/held-parts/" + (1 + dice.next(4)) + "/deliveries",
            Map.of(
                "quantity",
                String.valueOf(1 + dice.next(5)),
                "unitCost",
                dice.oneIn(6) ? "0" : dice.next(20) + "." + (10 + dice.next(90))));
  }

  static @Nullable Answer count(WalkedCompany company, Dice dice) {
    Record place = company.pick(dice, "from stock_place t", "true");
    return place == null
        ? null
        : company
            .office()
            .post(
                "/api/held-parts/" + (1 + dice.next(4)) + "/counts",
                Map.of(
                    "placeId",
                    place.get("id"),
                    "counted",
                    String.valueOf(dice.next(4)),
                    "reason",
                    "Counted on Friday"));
  }

  static @Nullable Answer handOver(WalkedCompany company, Dice dice) {
    Record from = company.pick(dice, "from stock_place t", "true");
    Record to = company.pick(dice, "from stock_place t", "true");
    return from == null || to == null
        ? null
        : company
            .office()
            .post(
                "/api/handovers",
                Map.of(
                    "partId", 1 + dice.next(4),
                    "fromPlaceId", from.get("id"),
                    "toPlaceId", to.get("id"),
                    "quantity", String.valueOf(1 + dice.next(3))));
  }

  static @Nullable Answer answerHandover(WalkedCompany company, Dice dice) {
    Record waiting =
        company.pick(
            dice,
            "from (select h.*, h.answer_person_id as technician_id from handover h) t",
            "state = 'waiting'");
    if (waiting == null) {
      return null;
    }
    boolean office = waiting.get("answer_person_id") == null;
    Visitor answerer = office ? company.office() : company.technicianOf(waiting);
    return answerer.post(
        (office ? "/api/handovers/" : "/api/pocket/handovers/")
            + waiting.get("id")
            + (dice.oneIn(3) ? "/refuse" : "/agree"),
        Map.of("version", waiting.get("version")));
  }
}
