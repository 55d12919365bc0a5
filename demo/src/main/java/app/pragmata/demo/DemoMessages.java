package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.field.TalkSide;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.people.Role;
import app.pragmata.server.field.JobMessages;
import app.pragmata.server.field.JobMessages.MessageForm;
import app.pragmata.server.records.Act;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jooq.SortField;
import org.springframework.stereotype.Component;

/**
 * What the demo's people say to each other about its jobs: a question from site that was answered,
 * what the office has just written to whoever goes there next, and what a customer wants to know.
 */
@Component
class DemoMessages {
  private record Spoken(long visitId, long jobId, long technicianId) {}

  private final DSLContext database;
  private final JobMessages messages;

  DemoMessages(DSLContext database, JobMessages messages) {
    this.database = database;
    this.messages = messages;
  }

  void exchange(Act office) {
    visits(VisitState.Code.FINISHED, VISIT.DAY.lt(office.today()), VISIT.DAY.desc())
        .forEach(visit -> askFromSite(office, visit));
    visits(VisitState.Code.PLANNED, VISIT.DAY.ge(office.today()), VISIT.DAY.asc())
        .forEach(
            visit ->
                messages.sendFromOffice(
                    office,
                    key("forecourt", visit),
                    visit.jobId(),
                    new MessageForm(
                        "They are laying the forecourt. Drive in from behind, past the bins.",
                        TalkSide.SITE)));
    visits(VisitState.Code.PLANNED, VISIT.DAY.gt(office.today()), VISIT.DAY.desc())
        .forEach(
            visit ->
                messages.sendFromCustomer(
                    Act.ofCustomer(office.at(), office.zone()),
                    key("remote", visit),
                    visit.jobId(),
                    "Could whoever comes bring a second remote control? Ours is shared by three."));
  }

  private void askFromSite(Act office, Spoken visit) {
    Instant asked =
        database
            .fetchSingle(VISIT, VISIT.ID.eq(visit.visitId()))
            .getFinishedAt()
            .minus(25, ChronoUnit.MINUTES);
    var technician = new Act(visit.technicianId(), Role.TECHNICIAN, asked, office.zone());
    messages.send(
        technician,
        key("keypad", visit),
        visit.visitId(),
        new MessageForm("There is an old keypad beside the door. Leave it or take it off?", null));
    messages.sendFromOffice(
        new Act(office.personId(), office.role(), asked.plus(4, ChronoUnit.MINUTES), office.zone()),
        key("keypad answered", visit),
        visit.jobId(),
        new MessageForm("Take it off, they have not used it for years.", TalkSide.SITE));
    messages.see(
        new Act(
            visit.technicianId(),
            Role.TECHNICIAN,
            asked.plus(6, ChronoUnit.MINUTES),
            office.zone()),
        visit.visitId());
  }

  private static String key(String about, Spoken visit) {
    return "demo-message-" + about + "-" + visit.visitId();
  }

  /** The first of those in a state that somebody goes or went to; none where there is none. */
  private List<Spoken> visits(VisitState.Code state, Condition when, SortField<?> order) {
    return database
        .select(VISIT.ID, VISIT.JOB_ID, VISIT.TECHNICIAN_ID)
        .from(VISIT)
        .where(VISIT.STATE.eq(state).and(when).and(VISIT.TECHNICIAN_ID.isNotNull()))
        .orderBy(order, VISIT.START_TIME, VISIT.ID)
        .limit(1)
        .fetch(Records.mapping(Spoken::new));
  }
}
