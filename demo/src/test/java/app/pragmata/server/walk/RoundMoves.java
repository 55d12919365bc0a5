package app.pragmata.server.walk;

import app.pragmata.server.Visitor.Answer;
import java.util.List;
import java.util.Map;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/** What is agreed to come again, and the jobs that are opened for it. */
final class RoundMoves {
  private RoundMoves() {}

  /** A round that is due today and each so many weeks, with a price or by time and parts. */
  static @Nullable Answer agree(WalkedCompany company, Dice dice) {
    Record site = company.pick(dice, "from site t", "true");
    Record kind = company.pick(dice, "from kind_of_job t", "true");
    if (site == null || kind == null) {
      return null;
    }
    Answer agreement =
        company
            .office()
            .post(
                "/api/customers/" + site.get("customer_id") + "/agreements",
                Map.of("version", 0, "name", "Walked agreement", "from", "today"));
    if (agreement.status() != 200) {
      return agreement;
    }
    return company
        .office()
        .post(
            "/api/agreements/" + agreement.json().path("id").asLong() + "/rounds",
            Map.of(
                "version",
                0,
                "siteId",
                site.get("id"),
                "kindOfJobId",
                kind.get("id"),
                "title",
                "Walked service",
                "expected",
                "1:00",
                "price",
                dice.oneIn(2) ? "" : String.valueOf(20 + dice.next(200)),
                "withParts",
                dice.oneIn(2),
                "repeats",
                "every %d weeks on %s"
                    .formatted(1 + dice.next(3), company.today().getDayOfWeek())));
  }

  /** A day of a round gets its job, also one that has it already. */
  static @Nullable Answer open(WalkedCompany company, Dice dice) {
    Record round = company.pick(dice, "from round t", "true");
    return round == null
        ? null
        : company
            .office()
            .post(
                "/api/rounds/make",
                Map.of(
                    "dates",
                    List.of(
                        Map.of(
                            "roundId",
                            round.get("id"),
                            "dueOn",
                            round.get("from_day").toString()))));
  }
}
