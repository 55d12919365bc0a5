package app.pragmata.server;

import static app.pragmata.server.generated.Tables.KIND_OF_JOB;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;

/** A gate for a fixed price of 10,000.00, billed in stages of 3,000.00, 4,000.00 and the rest. */
final class StagedGate {
  private final SwingGate gate;

  /** Accepted, and made a job; nothing is billed. */
  StagedGate(RunningPragmata program) {
    long installation =
        program
            .database()
            .select(KIND_OF_JOB.ID)
            .from(KIND_OF_JOB)
            .where(KIND_OF_JOB.NAME.eq("Installation"))
            .fetchSingle()
            .value1();
    gate =
        new SwingGate(program, "piet")
            .agree("kindOfJobId", installation)
            .agree(
                "lines",
                List.of(
                    Map.of(
                        "category",
                        "other",
                        "description",
                        "Gate, made and fitted",
                        "quantity",
                        "1",
                        "cost",
                        "6000",
                        "price",
                        "10000")))
            .agree(
                "stages",
                List.of(
                    Map.of("name", "Order", "part", "3000"),
                    Map.of("name", "On site", "part", "4000"),
                    Map.of("name", "Handed over", "part", "3000")));
  }

  SwingGate gate() {
    return gate;
  }

  /** What is asked for of the job on an invoice. */
  static Map<String, Object> bill(SwingGate gate, String kind) {
    return new HashMap<>(Map.of("jobId", gate.job(), "version", gate.version(), "kind", kind));
  }

  static Visitor.Answer post(SwingGate gate, Map<String, Object> bill) {
    return gate.office().post("/api/invoices", Map.of("jobs", List.of(bill)));
  }

  /** Bills the next stage; gives the invoice's id. */
  long billStage() {
    return posted(post(gate, bill(gate, "stage")));
  }

  long billRest() {
    return posted(post(gate, bill(gate, "final")));
  }

  static long posted(Visitor.Answer answer) {
    if (answer.status() != 200) {
      throw new AssertionError("Refused: " + answer);
    }
    return answer.json().path("invoiceId").isMissingNode()
        ? answer.json().path("id").asLong()
        : answer.json().path("invoiceId").asLong();
  }

  Visitor.Answer spend(String cost) {
    return spend(gate, cost);
  }

  static Visitor.Answer spend(SwingGate gate, String cost) {
    return gate.office()
        .post(
            "/api/jobs/" + gate.job() + "/other-costs",
            Map.of("supplier", "Gate works", "description", "Gate leaf", "cost", cost));
  }

  /** Credits an invoice of the job; what is not said is all of it. */
  static Visitor.Answer credit(
      SwingGate gate, long invoiceId, String kind, Map<String, Object> said) {
    var form = new HashMap<>(said);
    form.putIfAbsent("version", row(gate, invoiceId).path("version").asInt());
    form.put("kind", kind);
    form.putIfAbsent("reason", "Agreed on the telephone");
    return gate.office().post("/api/invoices/" + invoiceId + "/credits", form);
  }

  static JsonNode row(SwingGate gate, long invoiceId) {
    return gate.office().get("/api/invoices/" + invoiceId).json().path("row");
  }

  /** The lines of an entry of the job's journal, the newest is nought: account, debit, credit. */
  static List<String> entry(SwingGate gate, int index) {
    var lines = new ArrayList<String>();
    gate.sheet()
        .path("journal")
        .path(index)
        .path("lines")
        .forEach(
            line ->
                lines.add(
                    "%s %d %d"
                        .formatted(
                            line.path("accountName").asString(),
                            line.path("debitMinor").asLong(),
                            line.path("creditMinor").asLong())));
    return lines;
  }
}
