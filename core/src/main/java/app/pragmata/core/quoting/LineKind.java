package app.pragmata.core.quoting;

import app.pragmata.core.Category;
import app.pragmata.core.Coded;

/** What a line of a quote is: something with a price, by its category, or only words. */
public enum LineKind implements Coded {
  LABOUR,
  DRIVE,
  PARTS,
  OTHER,
  HEADING,
  TEXT;

  public boolean isWords() {
    return this == HEADING || this == TEXT;
  }

  /** By what its cost and price are sorted; words have neither. */
  public Category category() {
    return switch (this) {
      case LABOUR -> Category.LABOUR;
      case DRIVE -> Category.DRIVE;
      case PARTS -> Category.PARTS;
      case OTHER -> Category.OTHER;
      case HEADING, TEXT -> throw new IllegalStateException("Words have no category");
    };
  }

  /** The kind of a line of this category. */
  public static LineKind of(Category category) {
    return switch (category) {
      case LABOUR -> LABOUR;
      case DRIVE -> DRIVE;
      case PARTS -> PARTS;
      case OTHER -> OTHER;
    };
  }
}
