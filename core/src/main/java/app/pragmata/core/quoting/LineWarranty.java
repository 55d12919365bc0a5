package app.pragmata.core.quoting;

import app.pragmata.core.money.Share;

/**
 * What the equipment's warranty does for a line of an offer.
 *
 * @param covered the share that it covers on the day of the quote
 * @param exclusion why the line is not under it all the same; empty while it is
 */
public record LineWarranty(Share covered, String exclusion) {
  public static final LineWarranty NONE = new LineWarranty(Share.NOTHING, "");

  /** The share that comes off the line. */
  Share borne() {
    return exclusion.isEmpty() ? covered : Share.NOTHING;
  }
}
