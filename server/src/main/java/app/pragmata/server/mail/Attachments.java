package app.pragmata.server.mail;

import org.springframework.core.io.ByteArrayResource;

/** Prints what goes with a message at the moment when it goes out. */
public interface Attachments {
  /** A printed document under its file name. */
  record Attachment(String name, ByteArrayResource pdf) {}

  /** This edition of this quote, the same however often it is printed. */
  Attachment print(long quoteId, int edition);
}
