package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.SIGNATURE_ASKED;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_SIGNATURE;
import static org.jooq.impl.DSL.notExists;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.Rating;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.pictures.SignedHand;
import app.pragmata.server.records.Act;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** What the customer signed at the end of a visit, or later on their page of the job. */
@Repository
public class VisitSignatures {
  /**
   * A signature as it is sent.
   *
   * @param signature the typed name, or the drawing as a PNG in a data address
   * @param rating from one to five; null for none
   * @param words on it; empty for none
   */
  public record SignedForm(
      @Nullable String name,
      @Nullable String signature,
      boolean drawn,
      @Nullable Integer rating,
      @Nullable String words) {}

  /** A signature as it is kept. */
  public record VisitSignature(
      long visitId,
      String name,
      String signature,
      boolean drawn,
      @Nullable Short rating,
      String ratingWords,
      Instant signedAt) {}

  private static final int LONGEST_NAME = 100;
  public static final int LONGEST_WORDS = 1_000;

  private final DSLContext database;
  private final ReachableCustomer reachable;
  private final ToDoService toDos;

  VisitSignatures(DSLContext database, ReachableCustomer reachable, ToDoService toDos) {
    this.database = database;
    this.reachable = reachable;
    this.toDos = toDos;
  }

  /** The same form with everything in it as it is kept; null stays null. Notes every fault. */
  public static @Nullable SignedForm read(Reading reading, @Nullable SignedForm form) {
    if (form == null) {
      return null;
    }
    String name = reading.text("name", form.name(), LONGEST_NAME);
    String signature = SignedHand.read(reading, form.signature(), form.drawn());
    String words = reading.optionalText("words", form.words(), LONGEST_WORDS);
    if (form.rating() != null && (form.rating() < Rating.LEAST || form.rating() > Rating.MOST)) {
      reading.fault("rating", Rule.EXCEEDS_LIMIT, "Rate it from one to five.");
    }
    return new SignedForm(name, signature, form.drawn(), form.rating(), words);
  }

  /** Keeps it with its visit, in place of one that was given before. */
  public void keep(Act act, LockedVisit visit, SignedForm signed, Instant moment) {
    Short rating = signed.rating() == null ? null : signed.rating().shortValue();
    String words = Objects.requireNonNull(signed.words());
    database
        .insertInto(VISIT_SIGNATURE)
        .set(VISIT_SIGNATURE.VISIT_ID, visit.id())
        .set(VISIT_SIGNATURE.NAME, Objects.requireNonNull(signed.name()))
        .set(VISIT_SIGNATURE.SIGNATURE, Objects.requireNonNull(signed.signature()))
        .set(VISIT_SIGNATURE.DRAWN, signed.drawn())
        .set(VISIT_SIGNATURE.RATING, rating)
        .set(VISIT_SIGNATURE.RATING_WORDS, words)
        .set(VISIT_SIGNATURE.SIGNED_AT, moment)
        .onConflict(VISIT_SIGNATURE.VISIT_ID)
        .doUpdate()
        .setAllToExcluded()
        .execute();
    if (rating != null) {
      heed(act, visit, rating, words);
    }
  }

  /** Whoever is not content is called while it can still be put right. */
  private void heed(Act act, LockedVisit visit, int rating, String words) {
    if (!Rating.isBad(rating)) {
      return;
    }
    LockedJob job = visit.job();
    toDos.insertForOffice(
        act,
        act.personId(),
        ToDoForm.ofJob(
            "%s gave job %d %d of %d%s. Call them."
                .formatted(
                    database.fetchValue(CUSTOMER.NAME, CUSTOMER.ID.eq(job.customerId())),
                    job.number(),
                    rating,
                    Rating.MOST,
                    words.isEmpty() ? "" : ": “%s”".formatted(words)),
            act.today(),
            job.customerId(),
            job.id()));
  }

  /** Asks for it later; refused where nobody can be written to. */
  void ask(LockedVisit visit, Instant moment) {
    if (!reachable.of(visit.job().id())) {
      throw new Refused(
          List.of(
              new Fault(
                  "signsLater",
                  Rule.MISSING,
                  "Nobody knows where to write to this customer, so they cannot sign later. Let somebody sign here, or say that you come again.")));
    }
    database
        .insertInto(SIGNATURE_ASKED)
        .set(SIGNATURE_ASKED.VISIT_ID, visit.id())
        .set(SIGNATURE_ASKED.ASKED_AT, moment)
        .onConflict(SIGNATURE_ASKED.VISIT_ID)
        .doNothing()
        .execute();
  }

  /** Of which of a job's visits a signature is asked for and not given yet. */
  public Set<Long> listAsked(long jobId) {
    return database
        .select(SIGNATURE_ASKED.VISIT_ID)
        .from(SIGNATURE_ASKED)
        .join(VISIT)
        .on(VISIT.ID.eq(SIGNATURE_ASKED.VISIT_ID))
        .where(VISIT.JOB_ID.eq(jobId))
        .and(
            notExists(
                selectOne()
                    .from(VISIT_SIGNATURE)
                    .where(VISIT_SIGNATURE.VISIT_ID.eq(SIGNATURE_ASKED.VISIT_ID))))
        .fetchSet(SIGNATURE_ASKED.VISIT_ID);
  }

  /** How whoever signed found it, said later; refused when nobody signed, or when it is said. */
  public void rate(Act act, LockedVisit visit, int rating, String words) {
    int rated =
        database
            .update(VISIT_SIGNATURE)
            .set(VISIT_SIGNATURE.RATING, (short) rating)
            .set(VISIT_SIGNATURE.RATING_WORDS, words)
            .where(VISIT_SIGNATURE.VISIT_ID.eq(visit.id()).and(VISIT_SIGNATURE.RATING.isNull()))
            .execute();
    if (rated == 0) {
      throw new Refused(
          Rule.VISIT_RATED, "This visit is not signed yet, or somebody has rated it already.");
    }
    heed(act, visit, rating, words);
  }

  /** Those of a job's visits. */
  public List<VisitSignature> list(long jobId) {
    return database
        .select(
            VISIT_SIGNATURE.VISIT_ID,
            VISIT_SIGNATURE.NAME,
            VISIT_SIGNATURE.SIGNATURE,
            VISIT_SIGNATURE.DRAWN,
            VISIT_SIGNATURE.RATING,
            VISIT_SIGNATURE.RATING_WORDS,
            VISIT_SIGNATURE.SIGNED_AT)
        .from(VISIT_SIGNATURE)
        .join(VISIT)
        .on(VISIT.ID.eq(VISIT_SIGNATURE.VISIT_ID))
        .where(VISIT.JOB_ID.eq(jobId))
        .orderBy(VISIT_SIGNATURE.VISIT_ID)
        .fetch(Records.mapping(VisitSignature::new));
  }

  /** That of a visit. */
  public Optional<VisitSignature> find(long jobId, long visitId) {
    return list(jobId).stream().filter(one -> one.visitId() == visitId).findFirst();
  }
}
