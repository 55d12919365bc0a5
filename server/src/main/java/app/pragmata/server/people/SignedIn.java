package app.pragmata.server.people;

import app.pragmata.core.people.Role;
import java.security.Principal;

/** The person whose session it is. */
public record SignedIn(long personId, String name, String username, Role role)
    implements Principal {
  @Override
  public String getName() {
    return username;
  }
}
