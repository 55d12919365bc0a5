package app.pragmata.server.mail;

import app.pragmata.server.mail.MailQueue.Letter;
import java.util.Optional;
import org.springframework.core.io.ByteArrayResource;

/** Prints documents of one kind at the moment when the messages go out that they go with. */
public interface Attachments {
  /** A printed document under its file name. */
  record Attachment(String name, ByteArrayResource pdf) {}

  /**
   * What goes with a message, the same however often it is printed; empty for none of this kind.
   */
  Optional<Attachment> print(Letter letter);
}
