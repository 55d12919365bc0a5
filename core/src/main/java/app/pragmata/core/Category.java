package app.pragmata.core;

/** What every cost and every charge is sorted by. */
public enum Category {
  LABOUR("labour"),
  DRIVE("drive"),
  PARTS("parts"),
  OTHER("other");

  private final String label;

  Category(String label) {
    this.label = label;
  }

  public String label() {
    return label;
  }
}
