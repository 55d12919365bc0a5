package app.pragmata.core;

import java.util.List;

/**
 * Carries every fault of one request together to whoever asked. Nothing has been changed when it is
 * thrown.
 */
public final class Refused extends RuntimeException {
  private static final long serialVersionUID = 1L;

  private final transient List<Fault> faults;

  /** At least one fault; they are reported in this order. */
  public Refused(List<Fault> faults) {
    super(faults.getFirst().message());
    this.faults = List.copyOf(faults);
  }

  /** A refusal that concerns the request as a whole. */
  public Refused(Rule rule, String message) {
    this(List.of(new Fault("", rule, message)));
  }

  /** All that was wrong, never empty. */
  public List<Fault> faults() {
    return faults;
  }

  /** The rule of the first fault. */
  public Rule rule() {
    return faults.getFirst().rule();
  }
}
