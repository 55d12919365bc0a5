package app.pragmata.server.pictures;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.util.Base64;
import org.jspecify.annotations.Nullable;

/** A signature: a name that somebody typed, or one that they drew. */
public final class SignedHand {
  private static final int LONGEST = 200_000;
  private static final String DRAWING = "data:image/png;base64,";

  private SignedHand() {}

  /**
   * The signature as it is kept; null, with the field {@code signature} faulted, when what was sent
   * is none.
   *
   * @param drawn whether it is a drawing, a PNG in a data address (RFC 2397)
   */
  public static @Nullable String read(Reading reading, @Nullable String sent, boolean drawn) {
    String signature = reading.text("signature", sent, LONGEST);
    return signature == null || !drawn ? signature : drawing(reading, signature);
  }

  private static @Nullable String drawing(Reading reading, String sent) {
    try {
      if (sent.startsWith(DRAWING)) {
        byte[] picture =
            Pictures.drawing(Base64.getDecoder().decode(sent.substring(DRAWING.length())));
        return DRAWING + Base64.getEncoder().encodeToString(picture);
      }
    } catch (IllegalArgumentException | Refused noPicture) {
      // told below, as anything else that is no drawing
    }
    reading.fault("signature", Rule.UNREADABLE, "Draw your name in the box, or type it.");
    return null;
  }
}
