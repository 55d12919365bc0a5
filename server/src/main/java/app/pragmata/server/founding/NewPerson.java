package app.pragmata.server.founding;

import app.pragmata.core.people.Role;
import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;

/**
 * Somebody of a company that is founded, who can sign in from the beginning.
 *
 * @param wagePerHour of a technician; null for others
 */
public record NewPerson(
    String name, String username, String password, Role role, @Nullable BigDecimal wagePerHour) {}
