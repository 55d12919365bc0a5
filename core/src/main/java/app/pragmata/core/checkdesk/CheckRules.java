package app.pragmata.core.checkdesk;

import java.math.BigDecimal;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What the office wants to be told, and from where on.
 *
 * @param rules of those oddities about which somebody has said something
 */
public record CheckRules(Map<Oddity, CheckRule> rules) {
  /**
   * What is said about one.
   *
   * @param watched whether it is told at all
   * @param limit from where on; null for the usual one, and where it has none
   */
  public record CheckRule(boolean watched, @Nullable BigDecimal limit) {}

  /** Everything, from the usual limits on. */
  public static final CheckRules USUAL = new CheckRules(Map.of());

  public CheckRules {
    rules = Map.copyOf(rules);
    rules.forEach(
        (oddity, rule) -> {
          if (rule.limit() != null
              && (oddity.unit() == null || !oddity.unit().allows(rule.limit()))) {
            throw new IllegalArgumentException(oddity + " has no limit of " + rule.limit());
          }
        });
  }

  /** Whether it is told. */
  public boolean watches(Oddity oddity) {
    CheckRule rule = rules.get(oddity);
    return rule == null || rule.watched();
  }

  /** From where on it is told; only of one that has a limit. */
  public BigDecimal limit(Oddity oddity) {
    CheckRule rule = rules.get(oddity);
    return Objects.requireNonNull(
        rule == null || rule.limit() == null ? oddity.usualLimit() : rule.limit());
  }
}
