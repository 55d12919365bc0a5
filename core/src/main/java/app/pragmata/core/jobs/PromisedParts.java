package app.pragmata.core.jobs;

import java.math.BigDecimal;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * What was promised of each part against what was fitted of it so far; several lines of one part
 * count together.
 */
public final class PromisedParts {
  /** A quantity of a part, in the part's own unit and without needless zeros. */
  public record Quantity(long partId, String description, BigDecimal quantity) {}

  // Negative where more was fitted than promised.
  private final Map<Long, Quantity> leftByPart = new LinkedHashMap<>();

  /** Nothing is fitted yet. */
  public PromisedParts(Collection<QuoteLine> promise) {
    for (QuoteLine line : promise) {
      if (line instanceof QuoteLine.Part part) {
        add(part.partId(), part.description(), part.quantity());
      }
    }
  }

  /** Counts a use; gives how much of it goes beyond the promise, at least nothing. */
  public BigDecimal use(long partId, String description, BigDecimal quantity) {
    BigDecimal left = add(partId, description, quantity.negate());
    return left.negate().min(quantity).max(BigDecimal.ZERO).stripTrailingZeros();
  }

  private BigDecimal add(long partId, String description, BigDecimal quantity) {
    return leftByPart
        .merge(
            partId,
            new Quantity(partId, description, quantity),
            (before, more) ->
                new Quantity(partId, before.description(), before.quantity().add(more.quantity())))
        .quantity();
  }

  /** What is promised and still to be fitted, in the order of the promise. */
  public List<Quantity> toFit() {
    return left(1).toList();
  }

  /** What was fitted beyond the promise. */
  public List<Quantity> beyond() {
    return left(-1)
        .map(left -> new Quantity(left.partId(), left.description(), left.quantity().negate()))
        .toList();
  }

  private Stream<Quantity> left(int sign) {
    return leftByPart.values().stream()
        .filter(left -> left.quantity().signum() == sign)
        .map(
            left ->
                new Quantity(
                    left.partId(), left.description(), left.quantity().stripTrailingZeros()));
  }
}
