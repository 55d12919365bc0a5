package app.pragmata.core;

/** What was typed cannot be read as what is asked for; the message shows examples that would be. */
public final class Unreadable extends IllegalArgumentException {
  private static final long serialVersionUID = 1L;

  private final Rule rule;

  public Unreadable(Rule rule, String message) {
    super(message);
    this.rule = rule;
  }

  /** The rule that the typed text breaks. */
  public Rule rule() {
    return rule;
  }

  @Override
  public String getMessage() {
    return String.valueOf(super.getMessage());
  }
}
