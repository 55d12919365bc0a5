package app.pragmata.core.company;

/** By when an hour is worked it costs and is charged differently. */
public enum RateClass {
  NORMAL("normal"),
  OVERTIME("overtime"),
  NIGHT("night");

  private final String label;

  RateClass(String label) {
    this.label = label;
  }

  public String label() {
    return label;
  }
}
