package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_SIGNATURE;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.pictures.SignedHand;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** What whoever was there signed at the end of a visit. */
@Repository
class VisitSignatures {
  /**
   * A signature as it is sent.
   *
   * @param signature the typed name, or the drawing as a PNG in a data address
   * @param rating from one to five; null for none
   * @param words on it; empty for none
   */
  record SignedForm(
      @Nullable String name,
      @Nullable String signature,
      boolean drawn,
      @Nullable Integer rating,
      @Nullable String words) {}

  /** A signature as it is kept. */
  record VisitSignature(
      long visitId,
      String name,
      String signature,
      boolean drawn,
      @Nullable Short rating,
      String ratingWords,
      Instant signedAt) {}

  private static final int LONGEST_NAME = 100;
  private static final int LONGEST_WORDS = 1_000;

  private final DSLContext database;

  VisitSignatures(DSLContext database) {
    this.database = database;
  }

  /** The same form with everything in it as it is kept; null stays null. Notes every fault. */
  static @Nullable SignedForm read(Reading reading, @Nullable SignedForm form) {
    if (form == null) {
      return null;
    }
    String name = reading.text("name", form.name(), LONGEST_NAME);
    String signature = SignedHand.read(reading, form.signature(), form.drawn());
    String words = reading.optionalText("words", form.words(), LONGEST_WORDS);
    if (form.rating() != null && (form.rating() < 1 || form.rating() > 5)) {
      reading.fault("rating", Rule.EXCEEDS_LIMIT, "Rate it from one to five.");
    }
    return new SignedForm(name, signature, form.drawn(), form.rating(), words);
  }

  /** Keeps it with its visit, in place of one that was given before. */
  void keep(LockedVisit visit, SignedForm signed, Instant moment) {
    Short rating = signed.rating() == null ? null : signed.rating().shortValue();
    database
        .insertInto(VISIT_SIGNATURE)
        .set(VISIT_SIGNATURE.VISIT_ID, visit.id())
        .set(VISIT_SIGNATURE.NAME, Objects.requireNonNull(signed.name()))
        .set(VISIT_SIGNATURE.SIGNATURE, Objects.requireNonNull(signed.signature()))
        .set(VISIT_SIGNATURE.DRAWN, signed.drawn())
        .set(VISIT_SIGNATURE.RATING, rating)
        .set(VISIT_SIGNATURE.RATING_WORDS, Objects.requireNonNull(signed.words()))
        .set(VISIT_SIGNATURE.SIGNED_AT, moment)
        .onConflict(VISIT_SIGNATURE.VISIT_ID)
        .doUpdate()
        .setAllToExcluded()
        .execute();
  }

  /** Those of a job's visits. */
  List<VisitSignature> list(long jobId) {
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
  Optional<VisitSignature> find(long jobId, long visitId) {
    return list(jobId).stream().filter(one -> one.visitId() == visitId).findFirst();
  }
}
