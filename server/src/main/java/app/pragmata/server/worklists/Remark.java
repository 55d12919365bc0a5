package app.pragmata.server.worklists;

import app.pragmata.core.Coded;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** What a row of a worklist says of itself; some with a number, of visits or of an invoice. */
public enum Remark implements Coded {
  NONE,
  DRAFT,
  SENT,
  LAPSED,
  NO_JOB_YET,
  NO_TIME_YET,
  PART_WANTED,
  PLANNED,
  DRIVING,
  ON_SITE,
  VISITS_TO_CHECK,
  BILL_AWAITED,
  FIXED_PRICE,
  TIME_AND_PARTS,
  PROMISED_ON_SITE,
  NOT_CHARGED,
  INVOICE,
  PART_OF_INVOICE,
  DEPOSIT,
  ON_ACCOUNT;

  /** In the words of the list's file. */
  String words(@Nullable Long number) {
    return switch (this) {
      case NONE -> "";
      case VISITS_TO_CHECK ->
          number != null && number == 1 ? "1 visit to check" : number + " visits to check";
      default ->
          name().toLowerCase(Locale.ROOT).replace('_', ' ') + (number == null ? "" : " " + number);
    };
  }
}
