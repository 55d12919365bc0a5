package app.pragmata.server.mail;

import static app.pragmata.server.generated.Tables.MAIL;

import app.pragmata.core.Reading;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.MailRecord;
import app.pragmata.server.live.LiveNotices;
import app.pragmata.server.mail.Attachments.Attachment;
import app.pragmata.server.mail.MailQueue.AttachedReport;
import app.pragmata.server.mail.MailQueue.Letter;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.todos.ToDoService;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import jakarta.mail.MessagingException;
import jakarta.mail.SendFailedException;
import jakarta.mail.internet.AddressException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.core.io.ByteArrayResource;
import org.springframework.mail.MailSendException;
import org.springframework.mail.javamail.MimeMessageHelper;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Hands waiting mail to the mail server. A server that does not answer is asked again, after a
 * minute first and every half hour later, for three days; an address that it refuses is not. What
 * is given up on becomes a to-do for whoever sent it.
 */
@Component
public class MailSending {
  private static final Duration LONGEST_PAUSE = Duration.ofMinutes(30);
  private static final Duration PATIENCE = Duration.ofDays(3);
  private static final int MOST_DOUBLINGS = 5;
  private static final Duration LOOKED_FOR_EVERY = Duration.ofSeconds(2);
  private static final Duration TAKEN_OVER_AFTER = Duration.ofSeconds(45);
  private static final int LONGEST_FAULT = 300;

  private final DSLContext database;
  private final TransactionTemplate transaction;
  private final Clock clock;
  private final MailServers servers;
  private final List<Attachments> attachments;
  private final ToDoService toDos;
  private final LiveNotices live;
  private final CompanyStore companies;

  MailSending(
      DSLContext database,
      TransactionTemplate transaction,
      Clock clock,
      MailServers servers,
      List<Attachments> attachments,
      ToDoService toDos,
      LiveNotices live,
      CompanyStore companies) {
    this.database = database;
    this.transaction = transaction;
    this.clock = clock;
    this.servers = servers;
    this.attachments = attachments;
    this.toDos = toDos;
    this.live = live;
    this.companies = companies;
  }

  @Bean
  static Task<Void> mail(MailSending sending) {
    return Tasks.recurring("mail", FixedDelay.of(LOOKED_FOR_EVERY))
        .execute((work, context) -> sending.sendWaiting());
  }

  /**
   * Tries every message that is due once. Each is taken up, handed over and noted in steps of their
   * own, so that nothing is locked while the mail server answers and no two servers send the same
   * one; what a killed server had taken up is due again a little later.
   */
  public void sendWaiting() {
    for (MailRecord mail = takeUp(); mail != null; mail = takeUp()) {
      handOver(mail);
    }
  }

  private @Nullable MailRecord takeUp() {
    return transaction.execute(
        status -> {
          MailRecord mail =
              database
                  .selectFrom(MAIL)
                  .where(MAIL.STATE.in(MailState.WAITING, MailState.GOING_OUT))
                  .and(MAIL.NEXT_ATTEMPT_AT.le(clock.instant()))
                  .orderBy(MAIL.NEXT_ATTEMPT_AT, MAIL.ID)
                  .limit(1)
                  .forUpdate()
                  .skipLocked()
                  .fetchOne();
          if (mail != null) {
            mail.setState(MailState.GOING_OUT);
            mail.setAttempts((short) (mail.getAttempts() + 1));
            mail.setNextAttemptAt(clock.instant().plus(TAKEN_OVER_AFTER));
            mail.update();
          }
          return mail;
        });
  }

  private void handOver(MailRecord mail) {
    Exception fault = null;
    try {
      send(mail);
    } catch (MessagingException | RuntimeException failed) {
      // Whatever is wrong with one message, the others behind it must go out.
      fault = failed;
    }
    Exception found = fault;
    transaction.executeWithoutResult(status -> note(mail, found));
  }

  private void note(MailRecord mail, @Nullable Exception fault) {
    if (fault == null) {
      mail.setState(MailState.SENT);
      mail.setSentAt(clock.instant());
      mail.setLastFault("");
    } else {
      noteFault(mail, fault);
    }
    mail.update();
    if (mail.getQuoteId() != null) {
      live.tell(RecordKind.QUOTE);
    }
  }

  private void send(MailRecord mail) throws MessagingException {
    MailServers.Ready server = servers.require();
    var message = server.sender().createMimeMessage();
    List<Attachment> attached =
        attachments.stream().flatMap(each -> each.print(letter(mail)).stream()).toList();
    var helper =
        new MimeMessageHelper(
            message,
            !attached.isEmpty() || mail.getCalendar() != null,
            StandardCharsets.UTF_8.name());
    String from = server.from();
    helper.setFrom(from);
    helper.setTo(mail.getToAddress());
    helper.setSubject(mail.getSubject());
    helper.setText(mail.getBody());
    for (Attachment attachment : attached) {
      helper.addAttachment(attachment.name(), attachment.pdf(), "application/pdf");
    }
    if (mail.getCalendar() != null) {
      var calendar = new ByteArrayResource(mail.getCalendar().getBytes(StandardCharsets.UTF_8));
      helper.addAttachment("visit.ics", calendar, "text/calendar; charset=UTF-8");
    }
    // Always the same, so that whoever gets it twice after a kill knows it again (RFC 5322, 3.6.4).
    message.setHeader(
        "Message-ID",
        "<%d.%d@%s>"
            .formatted(
                mail.getId(),
                mail.getQueuedAt().toEpochMilli(),
                from.substring(from.indexOf('@') + 1)));
    server.sender().send(message);
  }

  private static Letter letter(MailRecord mail) {
    return new Letter(
        mail.getToAddress(),
        mail.getSubject(),
        mail.getBody(),
        mail.getCustomerId(),
        mail.getQuoteId(),
        mail.getAttachedEdition() == null ? null : mail.getAttachedEdition().intValue(),
        mail.getReportVisitId() == null
            ? null
            : new AttachedReport(mail.getReportVisitId(), mail.getReportWithPrices()),
        mail.getCalendar());
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
    Duration pause = Duration.ofMinutes(1L << Math.min(mail.getAttempts() - 1, MOST_DOUBLINGS));
    mail.setState(MailState.WAITING);
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
