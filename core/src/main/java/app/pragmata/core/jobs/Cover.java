package app.pragmata.core.jobs;

import app.pragmata.core.Category;
import app.pragmata.core.money.Share;

/** What a warranty bears of the charge on one day; cost is never reduced. */
public record Cover(Share parts, Share labour) {
  public static final Cover NONE = new Cover(Share.NOTHING, Share.NOTHING);

  /**
   * The share of a line of this category: labour's for the drive too, none of what others supply.
   */
  public Share of(Category category) {
    return switch (category) {
      case PARTS -> parts;
      case LABOUR, DRIVE -> labour;
      case OTHER -> Share.NOTHING;
    };
  }
}
