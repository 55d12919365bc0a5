package app.pragmata.core.jobs;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;

/** Extra work: a further accepted quote of a running job, whose promise is the sum of them. */
public final class ExtraWork {
  private ExtraWork() {}

  /**
   * Whether a quote may become part of a job's promise.
   *
   * @param promised the kind of what the job promises so far
   * @param further the kind of what the quote promises
   * @param sameSite whether both are for one site
   * @throws Refused when a promise of two kinds would come of it, or work at two places
   */
  public static void check(
      long jobNumber, PromiseKind promised, PromiseKind further, boolean sameSite) {
    if (!sameSite) {
      throw new Refused(
          Rule.OTHER_SITE,
          "Job %d is at another site. Make a job of its own of this quote.".formatted(jobNumber));
    }
    if (promised != further) {
      throw new Refused(
          Rule.PROMISES_OF_TWO_KINDS,
          "Job %d promises %s, this quote %s. Make a job of its own of it."
              .formatted(jobNumber, promised.words(), further.words()));
    }
  }
}
