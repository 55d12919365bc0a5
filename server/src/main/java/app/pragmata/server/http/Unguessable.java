package app.pragmata.server.http;

import java.security.SecureRandom;
import java.util.Base64;

/** Secrets by which addresses open something: 24 random bytes in base64url (RFC 4648, 5). */
public final class Unguessable {
  private static final int BYTES = 24;
  private static final SecureRandom RANDOM = new SecureRandom();

  private Unguessable() {}

  /** A new one, of 32 characters. */
  public static String make() {
    byte[] bytes = new byte[BYTES];
    RANDOM.nextBytes(bytes);
    return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
  }
}
