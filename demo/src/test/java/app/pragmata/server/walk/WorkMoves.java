package app.pragmata.server.walk;

import app.pragmata.server.SwingGate;
import app.pragmata.server.Visitor;
import app.pragmata.server.Visitor.Answer;
import java.time.Duration;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/** What is done about visits, time and parts; null where there is nothing to do it to. */
final class WorkMoves {
  private static final String UNBILLED = "cost_release_id is null and removed_at is null";

  /** Whose clock runs somewhere goes on there. */
  private static final String NEXT_TO_BE_TAPPED =
      """
      state in ('driving', 'on_site')
        or state = 'planned' and technician_id not in
          (select o.technician_id from visit o where o.state in ('driving', 'on_site'))
      """;

  private WorkMoves() {}

  static Answer timePasses(WalkedCompany company, Dice dice) {
    company.pass(Duration.ofMinutes(5 + dice.next(90)));
    return company.office().get("/api/money-line");
  }

  static Answer nightPasses(WalkedCompany company, Dice dice) {
    company.sleep();
    return company.office().get("/api/money-line");
  }

  static @Nullable Answer plan(WalkedCompany company, Dice dice) {
    Record visit = company.pick(dice, "from visit t", "state in ('unplanned', 'planned')");
    return visit == null
        ? null
        : company
            .office()
            .put(
                "/api/visits/" + visit.get("id") + "/plan",
                planned(company, dice, visit.get("version", Integer.class)));
  }

  static @Nullable Answer furtherVisit(WalkedCompany company, Dice dice) {
    Record job = company.pick(dice, "from job t", "state in ('open', 'worked')");
    return job == null
        ? null
        : company
            .office()
            .post("/api/jobs/" + job.get("id") + "/visits", planned(company, dice, 0));
  }

  private static Map<String, Object> planned(WalkedCompany company, Dice dice, int version) {
    String leads = dice.of(WalkedCompany.TECHNICIANS);
    String along = dice.of(WalkedCompany.TECHNICIANS);
    return Map.of(
        "version",
        version,
        "technicianId",
        company.personId(leads),
        "companionIds",
        dice.oneIn(4) && !along.equals(leads) ? List.of(company.personId(along)) : List.of(),
        "day",
        company.today().toString(),
        "start",
        (8 + dice.next(9)) + ":00",
        "expected",
        "1:30",
        "overruled",
        dice.oneIn(4) ? List.of() : SwingGate.ANYTHING);
  }

  /** The next press of whoever has the visit, or one that does not fit. */
  static @Nullable Answer tap(WalkedCompany company, Dice dice) {
    Record visit = company.pick(dice, "from visit t", NEXT_TO_BE_TAPPED);
    if (visit == null || visit.get("technician_id") == null) {
      return null;
    }
    String step =
        dice.oneIn(10)
            ? dice.of(List.of("drive", "arrive", "start-work", "pause", "finish"))
            : switch (visit.get("state", String.class)) {
              case "planned" -> "drive";
              case "driving" -> "arrive";
              default -> dice.of(List.of("start-work", "start-work", "pause", "finish"));
            };
    company.pass(Duration.ofMinutes(1 + dice.next(50)));
    var form = new HashMap<String, Object>();
    if (step.equals("arrive")) {
      form.put("miles", dice.next(40) + "." + dice.next(10));
    }
    if (step.equals("start-work") && dice.oneIn(2)) {
      Record line = OnSiteMoves.promisedLine(company, dice, visit);
      form.put("lineId", line == null ? null : line.get("id"));
    }
    Visitor technician = company.technicianOf(visit);
    if (step.equals("finish")) {
      form.put("outcome", dice.of(List.of("done", "done", "done", "come_again", "not_let_in")));
      form.put("reason", "As it was");
    } else if (dice.oneIn(3)) {
      form.put("crewIds", crewOf(company, visit));
    }
    Answer answer = press(technician, "visits/" + visit.get("id") + "/" + step, form);
    return answer.rule().equals("CLOCK_FORGOTTEN")
        ? press(technician, "clock/stop", Map.of())
        : answer;
  }

  /** A press; of a clock that was left running over night it is said when it really ended. */
  private static Answer press(Visitor technician, String what, Map<String, Object> form) {
    Answer answer = technician.post("/api/pocket/" + what, form);
    boolean asked =
        answer.rule().equals("LONGER_THAN_SIXTEEN_HOURS")
            || (what.equals("clock/stop") && answer.rule().equals("CLOCK_FORGOTTEN"));
    if (!asked) {
      return answer;
    }
    var ended = new HashMap<>(form);
    ended.put("endedAt", "17:45");
    Answer inTheAfternoon = technician.post("/api/pocket/" + what, ended);
    if (!inTheAfternoon.rule().equals("ENDS_BEFORE_START")) {
      return inTheAfternoon;
    }
    ended.put("endedAt", "23:55");
    return technician.post("/api/pocket/" + what, ended);
  }

  private static List<Object> crewOf(WalkedCompany company, Record visit) {
    return company
        .database()
        .fetch("select person_id from visit_companion where visit_id = ?", visit.get("id"))
        .getValues("person_id", Object.class);
  }

  /** A break, a drive to no visit, other paid time, or the end of whatever runs. */
  static @Nullable Answer offVisit(WalkedCompany company, Dice dice) {
    Visitor technician = company.technician(dice.of(WalkedCompany.TECHNICIANS));
    company.pass(Duration.ofMinutes(1 + dice.next(20)));
    if (dice.oneIn(2)) {
      return press(technician, "clock/stop", Map.of("miles", "7"));
    }
    Answer answer =
        technician.post(
            "/api/pocket/clock",
            dice.of(
                List.of(
                    Map.of("kind", "drive"),
                    Map.of("kind", "break"),
                    Map.of("kind", "labour", "work", "Yard"))));
    return answer.rule().equals("CLOCK_FORGOTTEN")
        ? press(technician, "clock/stop", Map.of())
        : answer;
  }

  /** A technician puts a time of their own right. */
  static @Nullable Answer correctOwnTime(WalkedCompany company, Dice dice) {
    Record entry =
        company.pick(
            dice,
            "from time_entry t join person p on p.id = t.person_id left join visit v on v.id = t.visit_id",
            "t.ended_at is not null and t.removed_at is null and t.time_cost_minor is null and p.active");
    return entry == null
        ? null
        : company
            .technician(
                company
                    .database()
                    .fetchSingle("select username from person where id = ?", entry.get("person_id"))
                    .get("username", String.class))
            .put(
                "/api/pocket/time-entries/" + entry.get("id"),
                Map.of(
                    "version",
                    entry.get("version"),
                    "from",
                    "%02d:%02d".formatted(dice.next(24), dice.next(60)),
                    "to",
                    "%02d:%02d".formatted(dice.next(24), dice.next(60)),
                    "reason",
                    "Forgot the clock"));
  }

  /** A part on no list is noted, and priced or dropped. */
  static @Nullable Answer unlistedPart(WalkedCompany company, Dice dice) {
    Record open =
        company.pick(dice, "from unlisted_part t", "visit_part_id is null and dropped_at is null");
    if (open != null && dice.oneIn(2)) {
      String path = "/api/unlisted-parts/" + open.get("id");
      return dice.oneIn(4)
          ? company
              .office()
              .post(path + "/drop", Map.of("version", open.get("version"), "reason", "None"))
          : company
              .office()
              .post(
                  path + "/price",
                  Map.of(
                      "version",
                      open.get("version"),
                      "number",
                      "W-" + open.get("id"),
                      "name",
                      "Walked",
                      "unitCost",
                      (1 + dice.next(90)) + ".35"));
    }
    Record visit = company.pick(dice, "from visit t", "state = 'on_site'");
    return visit == null || visit.get("technician_id") == null
        ? null
        : company
            .technicianOf(visit)
            .post(
                "/api/pocket/visits/" + visit.get("id") + "/unlisted-parts",
                Map.of("name", "Walked", "quantity", (1 + dice.next(3)) + ".5"));
  }

  static @Nullable Answer tellPrice(WalkedCompany company, Dice dice) {
    Record visit = company.pick(dice, "from visit t", "state in ('on_site', 'finished')");
    return visit == null || visit.get("technician_id") == null
        ? null
        : company
            .technicianOf(visit)
            .post(
                "/api/pocket/visits/" + visit.get("id") + "/told-price",
                Map.of("told", dice.amount(900), "withVat", dice.oneIn(2)));
  }

  /** A technician accepts a visit, gives it back, or says that it gets later. */
  static @Nullable Answer notAsPlanned(WalkedCompany company, Dice dice) {
    Record visit = company.pick(dice, "from visit t", "state in ('planned', 'driving')");
    if (visit == null || visit.get("technician_id") == null) {
      return null;
    }
    String path = "/api/pocket/visits/" + visit.get("id");
    Visitor technician = company.technicianOf(visit);
    if (dice.oneIn(3)) {
      return technician.post(path + "/accept", Map.of());
    }
    return dice.oneIn(2)
        ? technician.post(path + "/hand-back", Map.of("reason", "The van does not start"))
        : technician.post(path + "/late", Map.of("late", "" + (5 + dice.next(60))));
  }

  /** Signs a week off, this one or one before. */
  static Answer signWeekOff(WalkedCompany company, Dice dice) {
    LocalDate today = company.today();
    LocalDate monday =
        today.minusDays(today.getDayOfWeek().getValue() - 1L).minusWeeks(dice.next(3));
    return company
        .technician(dice.of(WalkedCompany.TECHNICIANS))
        .post("/api/pocket/weeks/" + monday + "/sign-off", Map.of());
  }

  static Answer sendWages(WalkedCompany company, Dice dice) {
    LocalDate today = company.today();
    return company
        .office()
        .post(
            "/api/wages/runs",
            Map.of("from", today.minusDays(dice.next(20)).toString(), "to", today.toString()));
  }

  static @Nullable Answer partOnSite(WalkedCompany company, Dice dice) {
    Record visit = company.pick(dice, "from visit t", "state in ('on_site', 'finished')");
    return visit == null
        ? null
        : company
            .office()
            .post(
                "/api/visits/" + visit.get("id") + "/parts",
                Map.of(
                    "partId",
                    1 + dice.next(4),
                    "quantity",
                    (1 + dice.next(3)) + "." + dice.next(10)));
  }

  static @Nullable Answer correctPart(WalkedCompany company, Dice dice) {
    Record part = company.pick(dice, "from visit_part t", UNBILLED);
    return part == null
        ? null
        : company
            .office()
            .put(
                "/api/visit-parts/" + part.get("id"),
                Map.of("version", part.get("version"), "quantity", "2", "reason", "Counted again"));
  }

  static @Nullable Answer removePart(WalkedCompany company, Dice dice) {
    return withReason(company, dice, "from visit_part t", UNBILLED, "/api/visit-parts/", "/remove");
  }

  static @Nullable Answer addTime(WalkedCompany company, Dice dice) {
    Record visit =
        company.pick(
            dice,
            "from visit t",
            "state in ('planned', 'on_site', 'finished') and technician_id is not null");
    return visit == null
        ? null
        : company.office().post("/api/visits/" + visit.get("id") + "/time-entries", time(dice, 0));
  }

  private static Map<String, Object> time(Dice dice, int version) {
    var form = new HashMap<String, Object>();
    int from = dice.next(20 * 60);
    int to = from + 5 + dice.next(40);
    form.put("version", version);
    form.put("kind", dice.oneIn(3) ? "drive" : "labour");
    form.put("from", "%d:%02d".formatted(from / 60, from % 60));
    form.put("to", "%d:%02d".formatted(to / 60, to % 60));
    form.put("rateClass", dice.oneIn(3) ? dice.of(List.of("normal", "overtime", "night")) : null);
    form.put("miles", form.get("kind").equals("drive") ? "11.2" : "");
    form.put("reason", "Not written down");
    return form;
  }

  static @Nullable Answer correctTime(WalkedCompany company, Dice dice) {
    Record entry = company.pick(dice, "from time_entry t", UNBILLED + " and ended_at is not null");
    if (entry == null) {
      return null;
    }
    var form = new HashMap<>(time(dice, entry.get("version", Integer.class)));
    form.put("kind", entry.get("kind"));
    return company.office().put("/api/time-entries/" + entry.get("id"), form);
  }

  static @Nullable Answer removeTime(WalkedCompany company, Dice dice) {
    return withReason(
        company,
        dice,
        "from time_entry t",
        UNBILLED + " and ended_at is not null",
        "/api/time-entries/",
        "/remove");
  }

  static @Nullable Answer check(WalkedCompany company, Dice dice) {
    return withReason(
        company, dice, "from visit t", "state = 'finished'", "/api/visits/", "/check");
  }

  static @Nullable Answer checkAll(WalkedCompany company, Dice dice) {
    return together(company, "state = 'finished'", "");
  }

  static @Nullable Answer takeChecksBack(WalkedCompany company, Dice dice) {
    return together(
        company,
        """
        state = 'checked' and not exists (select from cost_fact c where c.visit_id = visit.id and c.cost_release_id is not null)
          and not exists (select from cost_release r where r.job_id = visit.job_id and r.closes)
        """,
        "/take-back");
  }

  /** What is done with the newest visits at once. */
  private static @Nullable Answer together(WalkedCompany company, String which, String what) {
    var visits =
        company
            .database()
            .fetch("select id, version from visit where " + which + " order by id desc limit 5")
            .map(row -> Map.of("visitId", row.get(0), "version", row.get(1)));
    return visits.isEmpty()
        ? null
        : company.office().post("/api/visit-checks" + what, Map.of("visits", visits));
  }

  static @Nullable Answer reopen(WalkedCompany company, Dice dice) {
    return withReason(
        company, dice, "from visit t", "state = 'checked'", "/api/visits/", "/reopen");
  }

  static @Nullable Answer notThisTime(WalkedCompany company, Dice dice) {
    return withReason(
        company,
        dice,
        "from visit t",
        "state in ('planned', 'finished')",
        "/api/visits/",
        "/not-this-time");
  }

  static @Nullable Answer callOffVisit(WalkedCompany company, Dice dice) {
    return withReason(
        company,
        dice,
        "from visit t",
        "state in ('unplanned', 'planned')",
        "/api/visits/",
        "/call-off");
  }

  static @Nullable Answer callOffJob(WalkedCompany company, Dice dice) {
    return withReason(company, dice, "from job t", "state = 'open'", "/api/jobs/", "/call-off");
  }

  static @Nullable Answer otherCost(WalkedCompany company, Dice dice) {
    Record job = company.pick(dice, "from job t", "state <> 'called_off'");
    return job == null
        ? null
        : company
            .office()
            .post(
                "/api/jobs/" + job.get("id") + "/other-costs",
                Map.of(
                    "supplier",
                    "Crane hire",
                    "description",
                    "Crane",
                    "cost",
                    dice.amount(250),
                    "vat",
                    "standard",
                    "passedOn",
                    dice.of(List.of("with_markup", "at_cost", "not_charged"))));
  }

  static @Nullable Answer orderWork(WalkedCompany company, Dice dice) {
    Record job = company.pick(dice, "from job t", "state <> 'called_off'");
    return job == null
        ? null
        : company
            .office()
            .post(
                "/api/jobs/" + job.get("id") + "/work-orders",
                Map.of("supplier", "Crane hire", "what", "Lift", "expected", dice.amount(250)));
  }

  static @Nullable Answer closeWorkOrder(WalkedCompany company, Dice dice) {
    Record order = company.pick(dice, "from work_order t", "state = 'ordered'");
    if (order == null) {
      return null;
    }
    String path = "/api/work-orders/" + order.get("id");
    Object version = order.get("version");
    return dice.oneIn(3)
        ? company
            .office()
            .post(path + "/drop", Map.of("version", version, "reason", "Done by hand"))
        : company
            .office()
            .post(path + "/bill", Map.of("version", version, "cost", dice.amount(250)));
  }

  static @Nullable Answer charge(WalkedCompany company, Dice dice) {
    Record job = company.pick(dice, "from job t", "state <> 'called_off'");
    return job == null
        ? null
        : company
            .office()
            .post(
                "/api/jobs/" + job.get("id") + "/charges",
                Map.of("description", "Certificate", "price", dice.amount(60)));
  }

  static @Nullable Answer removeCharge(WalkedCompany company, Dice dice) {
    Record charge = company.pick(dice, "from job_charge t", "removed_at is null");
    return charge == null
        ? null
        : company
            .office()
            .post(
                "/api/job-charges/" + charge.get("id") + "/remove",
                Map.of("version", charge.get("version")));
  }

  /** With its version and a reason where it takes one. */
  private static @Nullable Answer withReason(
      WalkedCompany company, Dice dice, String from, String which, String path, String what) {
    Record row = company.pick(dice, from, which);
    if (row == null) {
      return null;
    }
    var form = new HashMap<String, Object>();
    form.put("version", row.get("version"));
    if (!what.equals("/check") && !what.equals("/reopen")) {
      form.put("reason", "So it was");
    }
    if (from.equals("from visit t") && form.containsKey("reason")) {
      form.put("parts", dice.of(List.of("back_in_the_van", "stayed_there")));
    }
    return company.office().post(path + row.get("id") + what, form);
  }
}
