package app.pragmata.demo;

import app.pragmata.server.mail.MailServer;
import com.icegreen.greenmail.util.GreenMail;
import com.icegreen.greenmail.util.GreenMailUtil;
import com.icegreen.greenmail.util.ServerSetup;
import jakarta.annotation.PreDestroy;
import jakarta.mail.BodyPart;
import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * A mail server of our own for the demo: it takes every message by SMTP and delivers none, so that
 * what the customer would get can be read in a page of the program.
 */
@Component
public class MailStandIn {
  private static final String HOST = "127.0.0.1";

  /** A message as its receiver would see it; the attachment's name is null when there is none. */
  public record Message(
      int number, String to, String subject, String body, @Nullable String attachmentName) {}

  private final GreenMail server;

  MailStandIn() {
    server = new GreenMail(new ServerSetup(freePort(), HOST, ServerSetup.PROTOCOL_SMTP));
    server.start();
  }

  private static int freePort() {
    try (var socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      return socket.getLocalPort();
    } catch (IOException fault) {
      throw new UncheckedIOException(fault);
    }
  }

  /** Stops answering, as a real mail server does now and then. */
  public void interrupt() {
    server.getSmtp().stopService();
  }

  /** Answers again on the same port. */
  public void resume() {
    server.reset();
  }

  @PreDestroy
  void stop() {
    server.stop();
  }

  /** Where it takes messages. */
  public MailServer address() {
    return new MailServer(HOST, server.getSmtp().getPort());
  }

  /** All messages, the newest first; one that came twice under its Message-ID stands once. */
  public List<Message> list() {
    MimeMessage[] received = server.getReceivedMessages();
    var known = new HashSet<String>();
    var messages = new ArrayList<Message>();
    for (int i = received.length - 1; i >= 0; i--) {
      if (known.add(messageId(received[i]))) {
        messages.add(read(i, received[i]));
      }
    }
    return messages;
  }

  /** How often a message was handed over, also one that came before. */
  public int received() {
    return server.getReceivedMessages().length;
  }

  private static String messageId(MimeMessage message) {
    try {
      return message.getMessageID();
    } catch (MessagingException fault) {
      throw new IllegalStateException("A message of the stand-in cannot be read", fault);
    }
  }

  /** The PDF that came with a message. */
  Optional<byte[]> findAttachment(int number) {
    MimeMessage[] received = server.getReceivedMessages();
    if (number < 0 || number >= received.length) {
      return Optional.empty();
    }
    try {
      BodyPart part = attachment(received[number]);
      if (part == null) {
        return Optional.empty();
      }
      try (InputStream content = part.getInputStream()) {
        return Optional.of(content.readAllBytes());
      }
    } catch (MessagingException fault) {
      throw new IllegalStateException("A message of the stand-in cannot be read", fault);
    } catch (IOException fault) {
      throw new UncheckedIOException(fault);
    }
  }

  private static Message read(int number, MimeMessage message) {
    try {
      BodyPart attached = attachment(message);
      return new Message(
          number,
          String.join(
              ", ", Arrays.stream(message.getAllRecipients()).map(Object::toString).toList()),
          String.valueOf(message.getSubject()),
          text(message),
          attached == null ? null : attached.getFileName());
    } catch (MessagingException fault) {
      throw new IllegalStateException("A message of the stand-in cannot be read", fault);
    } catch (IOException fault) {
      throw new UncheckedIOException(fault);
    }
  }

  private static String text(MimeMessage message) throws MessagingException, IOException {
    Object content = message.getContent();
    while (content instanceof Multipart parts) {
      content = parts.getBodyPart(0).getContent();
    }
    return content == null ? GreenMailUtil.getBody(message) : content.toString();
  }

  private static @Nullable BodyPart attachment(MimeMessage message)
      throws MessagingException, IOException {
    if (message.getContent() instanceof Multipart parts) {
      for (int i = 0; i < parts.getCount(); i++) {
        if (parts.getBodyPart(i).getFileName() != null) {
          return parts.getBodyPart(i);
        }
      }
    }
    return null;
  }
}
