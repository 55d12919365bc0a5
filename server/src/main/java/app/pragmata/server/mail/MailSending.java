package app.pragmata.server.mail;

import static app.pragmata.server.generated.Tables.MAIL;

import app.pragmata.core.Reading;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.MailRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.todos.ToDoService;
import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import jakarta.mail.internet.AddressException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.mail.MailSendException;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.mail.javamail.MimeMessageHelper;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Hands waiting mail to the mail server, each message in a transaction of its own. A server that
 * does not answer is asked again, after a minute first and every half hour later, for three days;
 * an address that it refuses is not. What is given up on becomes a to-do for whoever sent it.
 */
@Component
public class MailSending {
  private static final Duration LONGEST_PAUSE = Duration.ofMinutes(30);
  private static final Duration PATIENCE = Duration.ofDays(3);
  private static final int MOST_DOUBLINGS = 5;
  private static final int LONGEST_FAULT = 300;

  private final DSLContext database;
  private final JavaMailSender sender;
  private final TransactionTemplate transaction;
  private final Clock clock;
  private final MailSettings settings;
  private final Attachments attachments;
  private final ToDoService toDos;
  private final CompanyStore companies;

  MailSending(
      DSLContext database,
      JavaMailSender sender,
      TransactionTemplate transaction,
      Clock clock,
      MailSettings settings,
      Attachments attachments,
      ToDoService toDos,
      CompanyStore companies) {
    this.database = database;
    this.sender = sender;
    this.transaction = transaction;
    this.clock = clock;
    this.settings = settings;
    this.attachments = attachments;
    this.toDos = toDos;
    this.companies = companies;
  }

  /** Tries every message that is due once; two servers never take the same one. */
  @Scheduled(fixedDelay = 2_000)
  public synchronized void sendWaiting() {
    boolean more = true;
    while (more) {
      more = Boolean.TRUE.equals(transaction.execute(status -> sendNext()));
    }
  }

  private boolean sendNext() {
    MailRecord mail =
        database
            .selectFrom(MAIL)
            .where(MAIL.STATE.eq(MailState.WAITING))
            .and(MAIL.NEXT_ATTEMPT_AT.le(clock.instant()))
            .orderBy(MAIL.NEXT_ATTEMPT_AT, MAIL.ID)
            .limit(1)
            .forUpdate()
            .skipLocked()
            .fetchOne();
    if (mail == null) {
      return false;
    }
    try {
      send(mail);
      mail.setState(MailState.SENT);
      mail.setSentAt(clock.instant());
      mail.setLastFault("");
    } catch (MessagingException | RuntimeException fault) {
      // Whatever is wrong with one message, the others behind it must go out.
      noteFault(mail, fault);
    }
    mail.setAttempts((short) (mail.getAttempts() + 1));
    mail.update();
    return true;
  }

  private void send(MailRecord mail) throws MessagingException {
    var message = sender.createMimeMessage();
    boolean attached = mail.getAttachedEdition() != null;
    var helper = new MimeMessageHelper(message, attached, StandardCharsets.UTF_8.name());
    helper.setFrom(settings.from());
    helper.setTo(mail.getToAddress());
    helper.setSubject(mail.getSubject());
    helper.setText(mail.getBody());
    if (attached) {
      var attachment = attachments.print(mail.getQuoteId(), mail.getAttachedEdition());
      helper.addAttachment(attachment.name(), attachment.pdf(), "application/pdf");
    }
    sender.send(message);
  }

  private void noteFault(MailRecord mail, Exception fault) {
    Instant now = clock.instant();
    String words = String.valueOf(fault.getMessage());
    mail.setLastFault(words.substring(0, Math.min(words.length(), LONGEST_FAULT)));
    if (isRefusedAddress(fault) || mail.getQueuedAt().plus(PATIENCE).isBefore(now)) {
      mail.setState(MailState.UNDELIVERABLE);
      tellOffice(mail, now);
      return;
    }
    Duration pause =
        Duration.ofMinutes(1L << Math.min(mail.getAttempts().intValue(), MOST_DOUBLINGS));
    mail.setNextAttemptAt(now.plus(pause.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : pause));
  }

  private void tellOffice(MailRecord mail, Instant now) {
    toDos.insertAboutQuote(
        Act.ofProgram(now, companies.getZone()),
        "Mail to %s did not arrive: “%s”. Ask for the right address and send it again."
            .formatted(Reading.abridged(mail.getToAddress()), Reading.abridged(mail.getSubject())),
        mail.getQueuedBy(),
        mail.getCustomerId(),
        mail.getQuoteId());
  }

  private static boolean isRefusedAddress(@Nullable Throwable fault) {
    for (Throwable cause = fault; cause != null; cause = cause.getCause()) {
      if (cause instanceof AddressException || refusesSome(cause)) {
        return true;
      }
      if (cause instanceof MailSendException send
          && send.getFailedMessages().values().stream().anyMatch(MailSending::isRefusedAddress)) {
        return true;
      }
    }
    return false;
  }

  private static boolean refusesSome(Throwable fault) {
    return fault instanceof SendFailedException refused
        && refused.getInvalidAddresses() != null
        && refused.getInvalidAddresses().length > 0;
  }
}
