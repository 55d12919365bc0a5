package app.pragmata.core.company;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;

/** Terms that change on certain days; asks which of them hold on a given day. */
public record InForce<T extends InForce.Dated>(String what, List<T> terms) {
  /** Something that holds from a day until the next of its kind. */
  public interface Dated {
    LocalDate fromDay();
  }

  public InForce {
    terms = terms.stream().sorted(Comparator.comparing(Dated::fromDay).reversed()).toList();
  }

  /** Whether any of them holds on the day. */
  public boolean isSetOn(LocalDate day) {
    return terms.stream().anyMatch(term -> !term.fromDay().isAfter(day));
  }

  /** The latest terms that began on or before the day; refused when there are none yet. */
  public T on(LocalDate day) {
    // A loop: every minute that is costed asks this several times.
    for (T term : terms) {
      if (!term.fromDay().isAfter(day)) {
        return term;
      }
    }
    throw new Refused(
        Rule.NOTHING_IN_FORCE, "No " + what + " is set for " + day + ". Enter it first.");
  }
}
