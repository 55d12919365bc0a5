package app.pragmata.server.founding;

import app.pragmata.core.people.Role;
import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;

/**
 * Somebody of a company that is founded.
 *
 * @param wagePerHour of a technician, who gets a van too; null for others
 */
public record NewPerson(
    String name, String username, String password, Role role, @Nullable BigDecimal wagePerHour) {}
