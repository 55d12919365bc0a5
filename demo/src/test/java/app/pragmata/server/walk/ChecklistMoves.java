package app.pragmata.server.walk;

import app.pragmata.server.Visitor.Answer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/** The office writes what is gone through on site, and technicians answer it. */
final class ChecklistMoves {
  private ChecklistMoves() {}

  /** A new list, or other questions on one that is there, so that visits stand at both editions. */
  static Answer write(WalkedCompany company, Dice dice) {
    Record list = company.pick(dice, "from checklist t", "true");
    var items = new ArrayList<Map<String, Object>>();
    items.add(
        Map.of(
            "question",
            "Force",
            "asks",
            "measurement",
            "unit",
            "N",
            "most",
            String.valueOf(350 + dice.next(100)),
            "required",
            false,
            "raisesToDo",
            true));
    items.add(
        Map.of(
            "question",
            "Stops",
            "asks",
            "yes_no",
            "wrong",
            List.of("no"),
            "required",
            false,
            "raisesToDo",
            dice.oneIn(2)));
    if (dice.oneIn(2)) {
      items.add(
          Map.of("question", "Remarks", "asks", "text", "required", false, "raisesToDo", false));
    }
    Map<String, Object> form =
        Map.of(
            "version",
            list == null ? 0 : list.get("version"),
            "name",
            "Walked checklist",
            "kindOfJobId",
            1,
            "active",
            true,
            "items",
            items);
    return list == null
        ? company.office().post("/api/checklists", form)
        : company.office().put("/api/checklists/" + list.get("id"), form);
  }

  static @Nullable Answer answer(WalkedCompany company, Dice dice) {
    Record visit =
        company.pick(
            dice,
            "from (select v.* from visit v join job j on j.id = v.job_id where j.kind_of_job_id = 1) t",
            "state = 'on_site' and technician_id is not null");
    Record item = company.pick(dice, "from checklist_item t", "true");
    if (visit == null || item == null) {
      return null;
    }
    String answer =
        switch (item.get("asks", String.class)) {
          case "measurement" -> String.valueOf(250 + dice.next(250));
          case "yes_no" -> dice.oneIn(3) ? "no" : "yes";
          default -> "Walked past";
        };
    return company
        .technicianOf(visit)
        .post(
            "/api/pocket/visits/" + visit.get("id") + "/checklist-answers",
            Map.of(
                "checklistItemId",
                item.get("id"),
                "answer",
                answer,
                "doesNotApply",
                false,
                "word",
                dice.oneIn(4) ? "" : "Seen to"));
  }
}
