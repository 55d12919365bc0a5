package app.pragmata.server.quoting;

import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.quoting.Offer;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A quote as it is typed; null and empty mean not entered.
 *
 * @param promise left out is what its kind of job promises
 */
public record QuoteForm(
    int version,
    @Nullable Long siteId,
    @Nullable Long equipmentId,
    @Nullable Long kindOfJobId,
    @Nullable String title,
    @Nullable PromiseKind promise,
    @Nullable String validUntil,
    @Nullable String notes,
    @Nullable String ownNotes,
    @Nullable String discount,
    @Nullable String deposit,
    @Nullable String depositDueDays,
    @Nullable List<TypedStage> stages,
    List<TypedLine> lines) {

  /** An offer without discount, deposit, stages or notes of our own. */
  public static QuoteForm plain(
      long siteId,
      @Nullable Long equipmentId,
      long kindOfJobId,
      String title,
      List<TypedLine> lines) {
    return new QuoteForm(
        0,
        siteId,
        equipmentId,
        kindOfJobId,
        title,
        null,
        null,
        null,
        null,
        null,
        null,
        null,
        null,
        lines);
  }

  /** The same of a quote that is at this version, with what it promises. */
  public QuoteForm promising(int shown, PromiseKind kind) {
    return new QuoteForm(
        shown,
        siteId,
        equipmentId,
        kindOfJobId,
        title,
        kind,
        validUntil,
        notes,
        ownNotes,
        discount,
        deposit,
        depositDueDays,
        stages,
        lines);
  }

  /** A stage as it is typed: when it falls due, and its share or amount. */
  public record TypedStage(@Nullable String name, @Nullable String part) {
    /** The stages of an offer as they would be typed. */
    static List<TypedStage> listOf(Offer offer) {
      return offer.stages().stream()
          .map(stage -> new TypedStage(stage.name(), stage.part().text()))
          .toList();
    }
  }
}
