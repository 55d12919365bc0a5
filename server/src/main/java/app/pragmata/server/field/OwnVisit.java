package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.VISIT_COMPANION;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.generated.tables.Visit;
import app.pragmata.server.jobs.LockedVisit;
import org.jooq.Condition;

/** What a technician may do on a visit, by its state and its crew. */
final class OwnVisit {
  private static final String GO_BACK = " Go back to today's stops.";
  private static final String ASK_OFFICE = " Ask the office to add it.";
  private static final String NOT_YOURS = "This visit is not among yours.";

  private OwnVisit() {}

  static Refused notThere() {
    return new Refused(Rule.NOT_FOUND, NOT_YOURS + GO_BACK);
  }

  /** Why something was not taken, in words for whoever reads it later and is not at the visit. */
  static String saidLater(String refusal) {
    String why = refusal.replace(GO_BACK, "").replace(ASK_OFFICE, "");
    return why.equals(NOT_YOURS) ? "The visit was not theirs any more." : why;
  }

  /** Whether a visit is the person's own, or one to which they come along. */
  static Condition ofCrew(Visit visit, long personId) {
    return visit
        .TECHNICIAN_ID
        .eq(personId)
        .or(
            exists(
                selectOne()
                    .from(VISIT_COMPANION)
                    .where(VISIT_COMPANION.VISIT_ID.eq(visit.ID))
                    .and(VISIT_COMPANION.PERSON_ID.eq(personId))));
  }

  /** Another technician's visit is not there at all for this one. */
  static LockedVisit require(LockedVisit visit, long personId) {
    if (!visit.isOfCrew(personId)) {
      throw notThere();
    }
    return visit;
  }

  static VisitState.OnSite requireOnSite(LockedVisit visit) {
    return switch (visit.state()) {
      case VisitState.OnSite onSite -> onSite;
      case VisitState.Planned planned -> throw new Refused(Rule.NOT_ON_SITE, "Arrive first.");
      case VisitState.Driving driving -> throw new Refused(Rule.NOT_ON_SITE, "Arrive first.");
      default -> throw over();
    };
  }

  static void requireBegun(LockedVisit visit) {
    if (!(visit.state() instanceof VisitState.Driving
        || visit.state() instanceof VisitState.OnSite)) {
      throw over();
    }
  }

  /** Whoever is or was on site may have been handed something there. */
  static void requireWasThere(LockedVisit visit) {
    if (!(visit.state() instanceof VisitState.OnSite
        || visit.state() instanceof VisitState.Finished
        || visit.state() instanceof VisitState.Checked)) {
      throw new Refused(
          Rule.NOT_ON_SITE, "Money is taken on site. Arrive first, or let the office record it.");
    }
  }

  static void requireRunning(LockedVisit visit) {
    switch (visit.state()) {
      case VisitState.OnSite onSite -> {}
      case VisitState.Planned planned -> throw partsOnSite();
      case VisitState.Driving driving -> throw partsOnSite();
      default ->
          throw new Refused(
              Rule.NOT_ON_SITE,
              "This visit is over, and parts are recorded while somebody is on site." + ASK_OFFICE);
    }
  }

  private static Refused partsOnSite() {
    return new Refused(
        Rule.NOT_ON_SITE,
        "Parts are recorded while you are on site. Arrive first, or ask the office to add it.");
  }

  private static Refused over() {
    return new Refused(
        Rule.VISIT_OVER, "This visit is over or was changed by the office." + GO_BACK);
  }
}
