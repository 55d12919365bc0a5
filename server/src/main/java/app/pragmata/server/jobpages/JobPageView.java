package app.pragmata.server.jobpages;

import app.pragmata.core.jobs.VisitOutcome;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.ArrivalWindow;
import app.pragmata.server.company.Company;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A job as its customer sees it.
 *
 * @param locale of the words
 * @param visits in the order of their days
 * @param messages between the customer and us
 * @param words what the page says in the company's language, with {0} and so on for its figures
 */
record JobPageView(
    Company.Identity seller,
    boolean hasLogo,
    String locale,
    String currency,
    long jobNumber,
    String title,
    String customer,
    String site,
    String address,
    List<PageVisit> visits,
    List<PageMessage> messages,
    Map<String, String> words) {

  /**
   * A visit that has a day and was not dropped.
   *
   * @param window in which somebody comes; null once somebody has come
   * @param technician who comes, or came
   * @param outcome null until it is over
   * @param done what was done, in the technician's words; empty until it is over
   * @param signedBy null until somebody has signed
   * @param mayRate whether it is signed and nobody has said how they found it
   */
  record PageVisit(
      long visitId,
      VisitState.Code state,
      LocalDate day,
      @Nullable ArrivalWindow window,
      String technician,
      @Nullable VisitOutcome outcome,
      String done,
      @Nullable String signedBy,
      @Nullable LocalDate signedOn,
      @Nullable Short rating,
      boolean mayRate) {}

  /** What was said; the sender is null where the customer said it. */
  record PageMessage(String text, LocalDateTime sentAt, @Nullable String sentBy) {}
}
