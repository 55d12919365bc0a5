package app.pragmata.server.staff;

import app.pragmata.core.people.Role;
import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;

/**
 * Somebody who starts to work here.
 *
 * @param username to sign in with, in small letters
 * @param pay of a technician, who gets a van too; null for others
 */
public record Starter(String name, String username, Role role, @Nullable Pay pay) {
  /**
   * What an hour costs.
   *
   * @param onCostShare what the employer pays on top, as a fraction
   */
  public record Pay(BigDecimal wagePerHour, BigDecimal onCostShare) {}
}
