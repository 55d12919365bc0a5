package app.pragmata.server;

import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.HOLIDAY;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.VISIT;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Walks the worked example over HTTP, one step a method, for tests that need a job at some point of
 * its life.
 */
public final class SwingGate {
  /** All that can speak against a time, for plans in which it does not matter. */
  public static final List<String> ANYTHING =
      List.of(
          "overlap",
          "absent",
          "held",
          "too_early",
          "outside_hours",
          "skill_missing",
          "out_of_area",
          "crew_too_small",
          "drive_does_not_fit",
          "after_respond_by",
          "window_broken",
          "site_closed");

  // Every example has a day of its own, later than all before it, as time runs in the real world.
  private static LocalDate lastDay = LocalDate.of(2026, 11, 24);

  private final RunningPragmata program;
  private final Visitor office;
  private final Visitor technician;
  private final String technicianName;
  private final LocalDate day;
  private final Map<String, Object> terms = new HashMap<>();
  private final List<Map<String, Object>> furtherLines = new ArrayList<>();
  private Runnable afterEachStep = () -> {};
  private boolean answered;
  private long quote;
  private long job;
  private long visit;

  /** A new example on the next working day. */
  public SwingGate(RunningPragmata program, String technicianName) {
    this(program, technicianName, takeDay(program));
  }

  private SwingGate(RunningPragmata program, String technicianName, LocalDate day) {
    this.program = program;
    this.technicianName = technicianName;
    this.day = day;
    at("08:30");
    program.keepInStock("RAM-230", 10, "212.40");
    program.keepInStock("PHO-02", 30, "14.25");
    office = Visitor.signedIn(program, "hester");
    technician = Visitor.signedIn(program, technicianName);
  }

  /**
   * A working day that no other example has, and for which no example before it planned a visit.
   */
  public static synchronized LocalDate takeDay(RunningPragmata program) {
    do {
      lastDay = workingDayAfter(program, lastDay);
    } while (program.database().fetchExists(VISIT, VISIT.DAY.eq(lastDay)));
    return lastDay;
  }

  private static LocalDate workingDayAfter(RunningPragmata program, LocalDate day) {
    DSLContext database = program.database();
    LocalDate next = day.plusDays(1);
    while (next.getDayOfWeek().getValue() > 5
        || database.fetchExists(HOLIDAY, HOLIDAY.DAY.eq(next))) {
      next = next.plusDays(1);
    }
    return next;
  }

  /** Another example of the same technician on the same day. */
  public SwingGate beside() {
    return new SwingGate(program, technicianName, day);
  }

  /** Sets the clock to a time of this example's day. */
  public void at(String time) {
    program.clock().set(day + "T" + time);
  }

  /** The Monday of its week. */
  public LocalDate monday() {
    return day.minusDays(day.getDayOfWeek().getValue() - 1L);
  }

  public void nextDayAt(String time) {
    program.clock().set(day.plusDays(1) + "T" + time);
  }

  public LocalDate day() {
    return day;
  }

  public LocalDate nextWorkingDay() {
    return workingDayAfter(program, day);
  }

  public Visitor office() {
    return office;
  }

  public Visitor technician() {
    return technician;
  }

  public long quote() {
    return quote;
  }

  public long job() {
    return job;
  }

  public long visit() {
    return visit;
  }

  /** Notes what the caller said was wrong. */
  public void giveFault(String faultCode) {
    office.put(
        "/api/jobs/" + job + "/codes",
        Map.of("version", sheet().path("version").asInt(), "faultCode", faultCode));
  }

  /**
   * Sends what the technician's phone kept of the visit, as if at the moment at which it was
   * tapped; gives what became of it.
   */
  public JsonNode late(String step, LocalDateTime tapped, Map<String, Object> form) {
    String moment = tapped.atZone(ZoneId.of("Europe/London")).toInstant().toString();
    return technician.late(
        "late-" + step + "-" + visit,
        Map.of("step", step, "visitId", visit, "tappedAt", moment, "sentAt", moment, "form", form));
  }

  public SwingGate quoted() {
    DSLContext database = program.database();
    // However far the days have gone, the ram is under warranty.
    database
        .update(EQUIPMENT)
        .set(EQUIPMENT.PARTS_WARRANTY_UNTIL, day.plusMonths(1))
        .where(EQUIPMENT.SERIAL_NUMBER.eq("FQ 19977"))
        .and(EQUIPMENT.PARTS_WARRANTY_UNTIL.lt(day.plusMonths(1)))
        .execute();
    long gate =
        database
            .select(EQUIPMENT.ID)
            .from(EQUIPMENT)
            .where(EQUIPMENT.SERIAL_NUMBER.eq("FQ 19977"))
            .fetchSingle()
            .value1();
    long site =
        database
            .select(EQUIPMENT.SITE_ID)
            .from(EQUIPMENT)
            .where(EQUIPMENT.ID.eq(gate))
            .fetchSingle()
            .value1();
    long repair =
        database
            .select(KIND_OF_JOB.ID)
            .from(KIND_OF_JOB)
            .where(KIND_OF_JOB.NAME.eq("Repair"))
            .fetchSingle()
            .value1();
    var form =
        new HashMap<String, Object>(
            Map.of(
                "version",
                0,
                "siteId",
                site,
                "equipmentId",
                gate,
                "kindOfJobId",
                repair,
                "title",
                "Swing gate, ram replaced",
                "lines",
                lines()));
    form.putAll(terms);
    quote = made(office.post("/api/quotes", form));
    return this;
  }

  private List<Map<String, Object>> lines() {
    var lines =
        new ArrayList<Map<String, Object>>(
            List.of(
                Map.of(
                    "category",
                    "labour",
                    "description",
                    "Change the ram",
                    "time",
                    "2:30",
                    "price",
                    "58"),
                Map.of("category", "drive", "time", "0:30", "miles", "15", "price", "45.00"),
                outOfWarranty(
                    Map.of("category", "parts", "partId", part("RAM-230"), "quantity", "1")),
                outOfWarranty(
                    Map.of("category", "parts", "partId", part("PHO-02"), "quantity", "1")),
                Map.of(
                    "category",
                    "other",
                    "description",
                    "Disposal",
                    "quantity",
                    "1",
                    "cost",
                    "0",
                    "price",
                    "76.50")));
    lines.addAll(furtherLines);
    return lines;
  }

  /** Before anybody has looked at it, nobody knows what the warranty will bear. */
  private static Map<String, Object> outOfWarranty(Map<String, Object> line) {
    var out = new HashMap<>(line);
    out.put("warrantyExclusion", "Only once the maker has said so");
    return out;
  }

  /** Agrees something for the whole offer, such as a deposit of "25%". */
  public SwingGate agree(String term, Object value) {
    terms.put(term, value);
    return this;
  }

  /** Offers one more line, after the five that every example has. */
  public SwingGate offer(Map<String, Object> line) {
    furtherLines.add(line);
    return this;
  }

  public SwingGate sent() {
    quoted();
    check(office.post("/api/quotes/" + quote + "/send", Map.of("version", 1)));
    return this;
  }

  /** What the customer's link leads to, as a path below the API. */
  public String offerPath() {
    String address =
        office.get("/api/quotes/" + quote).json().path("link").path("address").asString();
    return "/api/offers/" + address.substring(address.lastIndexOf('/') + 1);
  }

  /** The customer answered behind the link; nothing is left for the office to accept. */
  public SwingGate answered() {
    answered = true;
    return this;
  }

  public SwingGate accepted() {
    if (!answered) {
      sent();
      check(
          office.post(
              "/api/quotes/" + quote + "/accept", Map.of("version", 2, "acceptedBy", "M. Okafor")));
    }
    return this;
  }

  /** The job is there, and its visit waits for a time. */
  public SwingGate waiting() {
    accepted();
    job = made(office.post("/api/quotes/" + quote + "/job", Map.of()));
    visit = sheet().path("visits").path(0).path("id").asLong();
    return this;
  }

  /** Goes on with another job, whose visit waits for a time. */
  public SwingGate with(long otherJob) {
    job = otherJob;
    visit = sheet().path("visits").path(0).path("id").asLong();
    return this;
  }

  public SwingGate planned() {
    if (job == 0) {
      waiting();
    }
    check(planFor(technicianName, "15"));
    return this;
  }

  /** The office plans the visit anew, on the same day, whatever speaks against it. */
  public Visitor.Answer planFor(String username, String start) {
    return office.put(
        "/api/visits/" + visit + "/plan",
        Map.of(
            "version",
            visitVersion(),
            "technicianId",
            program.person(username),
            "day",
            day.toString(),
            "start",
            start,
            "expected",
            "2h30",
            "overruled",
            ANYTHING));
  }

  public SwingGate onSite() {
    planned();
    at("14:20");
    check(tap("drive", Map.of()));
    at("15:00");
    check(tap("arrive", Map.of("miles", "18.4")));
    check(tap("start-work", Map.of()));
    return this;
  }

  public SwingGate finished() {
    onSite();
    check(tap("parts", Map.of("partId", part("RAM-230"), "quantity", "1")));
    check(tap("parts", Map.of("partId", part("PHO-02"), "quantity", "3")));
    at("18:20");
    check(tap("finish", Map.of("note", "Second leaf adjusted, tested with customer.")));
    return this;
  }

  /**
   * The office moves the end of the normal hours by five minutes and takes one photocell pair off,
   * which was not fitted.
   */
  public SwingGate corrected() {
    finished();
    JsonNode times = sheet().path("visits").path(0).path("times");
    check(
        correct(
            times.path(2),
            Map.of(
                "from",
                "17:35",
                "to",
                "18:20",
                "rateClass",
                "overtime",
                "reason",
                "Customer says 17:35")));
    check(
        correct(
            times.path(1),
            Map.of(
                "from",
                "15:00",
                "to",
                "17:35",
                "rateClass",
                "normal",
                "reason",
                "Customer says 17:35")));
    JsonNode photocells = sheet().path("visits").path(0).path("parts").path(1);
    check(
        office.put(
            "/api/visit-parts/" + photocells.path("id").asLong(),
            Map.of("version", 1, "quantity", "2", "reason", "One is still in the van")));
    check(
        office.post(
            "/api/visit-parts/" + photocells.path("id").asLong() + "/warranty",
            Map.of("version", 2, "reason", "Not part of the ram")));
    return this;
  }

  public Visitor.Answer correct(JsonNode entry, Map<String, Object> values) {
    var form = new HashMap<>(values);
    form.put("version", entry.path("version").asInt());
    return office.put("/api/time-entries/" + entry.path("id").asLong(), form);
  }

  public SwingGate checked() {
    corrected();
    check(office.post("/api/visits/" + visit + "/check", Map.of("version", visitVersion())));
    return this;
  }

  public SwingGate billed() {
    checked();
    check(office.post("/api/jobs/" + job + "/invoice", Map.of("version", version())));
    return this;
  }

  public Visitor.Answer tap(String step, Map<String, Object> form) {
    return technician.post("/api/pocket/visits/" + visit + "/" + step, form);
  }

  /** The owner changes something about the kind of its job, for all jobs of that kind. */
  public void changeKind(String field, Object value) {
    JsonNode settings = office.get("/api/settings/kinds-of-job").json();
    long kind =
        program
            .database()
            .select(JOB.KIND_OF_JOB_ID)
            .from(JOB)
            .where(JOB.ID.eq(job))
            .fetchSingle(JOB.KIND_OF_JOB_ID);
    for (JsonNode each : settings.path("kinds")) {
      if (each.path("id").asLong() == kind) {
        var form = (ObjectNode) each.deepCopy();
        int minutes = each.path("defaultMinutes").asInt();
        form.remove(List.of("id", "uses"));
        form.put("version", settings.path("version").asInt());
        form.put("defaultMinutes", "%d:%02d".formatted(minutes / 60, minutes % 60));
        form.putPOJO(field, value);
        check(Visitor.signedIn(program, "orla").put("/api/settings/kinds-of-job/" + kind, form));
      }
    }
  }

  /** Where the gate is on the earth; null where nobody has said. */
  public void isAt(@Nullable Double latitude, @Nullable Double longitude) {
    program
        .database()
        .execute(
            "update site set latitude = ?, longitude = ? from job where job.site_id = site.id and job.id = ?",
            latitude,
            longitude,
            job);
  }

  /** Where the office sees the job. */
  public String jobAddress() {
    return "/jobs/" + sheet().path("number").asLong();
  }

  /** Where the office sees the quote. */
  public String quoteAddress() {
    return "/quotes/" + office.get("/api/quotes/" + quote).json().path("number").asLong();
  }

  /** What happened to the job, the newest first. */
  public JsonNode history() {
    return office.get("/api/history/job/" + job).json().path("entries");
  }

  /** What the check desk finds odd about its visit. */
  public List<String> oddities() {
    return office
        .get("/api/check-desk?from=" + day + "&to=" + day)
        .json()
        .path("visits")
        .valueStream()
        .filter(each -> each.path("visitId").asLong() == visit)
        .flatMap(each -> each.path("odd").valueStream())
        .map(odd -> odd.path("oddity").asString())
        .toList();
  }

  /** What the office has to do about the job. */
  public List<String> toDos() {
    return program
        .database()
        .fetch("select what from to_do where job_id = ? and state = 'open'", job)
        .getValues(0, String.class);
  }

  public JsonNode sheet() {
    return office.get("/api/jobs/" + job).json();
  }

  public int version() {
    return sheet().path("version").asInt();
  }

  public int visitVersion() {
    return sheet().path("visits").path(0).path("version").asInt();
  }

  public long part(String number) {
    return program
        .database()
        .select(PART.ID)
        .from(PART)
        .where(PART.NUMBER.eq(number))
        .fetchSingle()
        .value1();
  }

  private long made(Visitor.Answer answer) {
    return check(answer).json().path("id").asLong();
  }

  /** A step of the example, which must not be refused. */
  public Visitor.Answer check(Visitor.Answer answer) {
    if (answer.status() != 200) {
      throw new AssertionError("A step of the example was refused: " + answer);
    }
    afterEachStep.run();
    return answer;
  }

  /** Does something after every step from now on. */
  SwingGate afterEachStep(Runnable work) {
    afterEachStep = work;
    return this;
  }

  /** The gate's warranty bears so much of labour from now on; "" for none. */
  void bearLabour(String percent) {
    var gate =
        program
            .database()
            .selectFrom(EQUIPMENT)
            .where(EQUIPMENT.SERIAL_NUMBER.eq("FQ 19977"))
            .fetchSingle();
    var form = new HashMap<String, Object>();
    form.put("version", gate.getVersion());
    form.put("equipmentKindId", gate.getEquipmentKindId());
    form.put("model", gate.getModel());
    form.put("serialNumber", gate.getSerialNumber());
    form.put("fittedOn", gate.getFittedOn().toString());
    form.put("position", gate.getPosition());
    form.put("partsWarrantyUntil", gate.getPartsWarrantyUntil().toString());
    form.put("partsWarrantyPercent", "60");
    form.put(
        "labourWarrantyUntil", percent.isEmpty() ? "" : gate.getPartsWarrantyUntil().toString());
    form.put("labourWarrantyPercent", percent);
    check(office.put("/api/equipment/" + gate.getId(), form));
  }

  /** The invoice of the job as the sheet shows it. */
  JsonNode invoice() {
    return sheet().path("billing").path("invoices").path(0);
  }

  /** Money for the job's invoice; what is not said is as the office's form fills it in. */
  public Visitor.Answer receive(Map<String, ?> said) {
    return receive(office, said);
  }

  /** The same by somebody else. */
  Visitor.Answer receive(Visitor visitor, Map<String, ?> said) {
    JsonNode invoice = invoice();
    var form = new HashMap<String, Object>(said);
    form.putIfAbsent(
        "allocations",
        List.of(
            Map.of(
                "invoiceId",
                invoice.path("id").asLong(),
                "version",
                form.getOrDefault("version", invoice.path("version").asInt()))));
    form.remove("version");
    return visitor.post("/api/receipts", form);
  }
}
