package app.pragmata.server.people;

import app.pragmata.core.people.Role;
import java.io.Serializable;
import java.security.Principal;

/** The person whose session it is. */
public record SignedIn(long personId, String name, String username, Role role)
    implements Serializable, Principal {
  @Override
  public String getName() {
    return username;
  }
}
