package app.pragmata.core.jobs;

import app.pragmata.core.Coded;

/** Where the parts are that were recorded on a visit which did not come to anything. */
public enum PartsNow implements Coded {
  /** They go back into stock, and the job does not bear them. */
  BACK_IN_THE_VAN,
  /** They were used up or left there: what they cost stays on the job, and nobody is charged. */
  STAYED_THERE
}
