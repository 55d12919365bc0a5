package app.pragmata.server.live;

import java.time.LocalDate;
import java.util.Set;

/** What open pages are told. */
sealed interface Notice {
  /**
   * Records changed.
   *
   * @param kinds codes of {@link app.pragmata.server.records.RecordKind}
   */
  record Changed(Set<String> kinds) implements Notice {}

  /** Something may have been missed; whoever hears it reads all that is shown anew. */
  record Everything(LocalDate day) implements Notice {}

  /** The stream is alive, and this is the company's day. */
  record Day(LocalDate day) implements Notice {}
}
