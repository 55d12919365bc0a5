package app.pragmata.core.planning;

import app.pragmata.core.planning.TimeSearch.Found;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Lays visits on other people's days, one after the other: whoever was promised first has the first
 * choice, then whoever takes longest, for what is short finds a gap more easily.
 */
public final class Relay {
  /**
   * Where a visit goes.
   *
   * @param found null when nobody has room for it
   */
  public record Move(Wanted visit, @Nullable Found found) {}

  private Relay() {}

  /**
   * A move for each visit, in the order in which they chose; what one takes the next no longer has.
   *
   * @param days of everybody who may take them over
   */
  public static List<Move> propose(List<Wanted> visits, List<PersonDay> days, TimeSearch search) {
    List<PersonDay> left = days;
    var moves = new ArrayList<Move>();
    for (Wanted visit : visits.stream().sorted(ORDER).toList()) {
      Found found = find(visit, left, search);
      moves.add(new Move(visit, found));
      if (found != null) {
        left = found.taken(visit, left);
      }
    }
    return moves;
  }

  /** Whoever comes as the customer was told needs nobody to ring. */
  private static @Nullable Found find(Wanted visit, List<PersonDay> days, TimeSearch search) {
    Promised promised = visit.promised();
    if (promised != null) {
      List<Found> kept = search.keeping(promised, visit, days);
      if (!kept.isEmpty()) {
        return kept.getFirst();
      }
    }
    return search.best(visit, days, 1).stream().findFirst().orElse(null);
  }

  /** Whoever chooses first. */
  static final Comparator<Wanted> ORDER =
      Comparator.comparing(Wanted::respondBy, Comparator.nullsLast(Comparator.naturalOrder()))
          .thenComparing(Wanted::minutes, Comparator.reverseOrder())
          .thenComparing(Wanted::visitId, Comparator.nullsLast(Comparator.naturalOrder()));
}
