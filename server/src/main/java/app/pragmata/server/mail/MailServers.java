package app.pragmata.server.mail;

import static app.pragmata.server.generated.Tables.MAIL_SERVER;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.MailServerRecord;
import jakarta.mail.MessagingException;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import java.util.Properties;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.mail.MailException;
import org.springframework.mail.javamail.JavaMailSenderImpl;
import org.springframework.mail.javamail.MimeMessageHelper;
import org.springframework.stereotype.Component;

/** Which server takes our mail: the one that is set, or a stand-in where one runs. */
@Component
public class MailServers {
  private static final int MILLISECONDS = 10_000;
  private static final int LONGEST_FAULT = 300;

  private final DSLContext database;
  private final CompanyStore companies;
  private final @Nullable MailServer standIn;

  MailServers(DSLContext database, CompanyStore companies, ObjectProvider<MailServer> standIn) {
    this.database = database;
    this.companies = companies;
    this.standIn = standIn.getIfAvailable();
  }

  /** Whether any mail can go out. */
  public boolean isSet() {
    return standIn != null || database.fetchExists(MAIL_SERVER);
  }

  /** A connection to it, and from whom mail comes. */
  record Ready(JavaMailSenderImpl sender, String from) {}

  /** Refused while no server is set. */
  Ready require() {
    Optional<MailServerRecord> row = find();
    String from = from(row);
    if (standIn != null) {
      return new Ready(plain(standIn.host(), standIn.port()), from);
    }
    return row.map(server -> new Ready(connect(server), from))
        .orElseThrow(
            () ->
                new Refused(
                    Rule.NO_MAIL_SERVER,
                    "No mail server is set. Enter the one of your provider under Settings, Mail."));
  }

  private Optional<MailServerRecord> find() {
    return database.selectFrom(MAIL_SERVER).fetchOptional();
  }

  /** From whom mail comes. */
  public String from() {
    return from(find());
  }

  private String from(Optional<MailServerRecord> row) {
    String own = companies.getCompany().identity().email();
    return row.map(MailServerRecord::getFromAddress)
        .filter(set -> !set.isEmpty())
        .orElse(own.isEmpty() ? "pragmata@localhost" : own);
  }

  /**
   * Sends a message that cannot wait, or whose text is not to be kept; refused with the server's
   * own words when it does not take it.
   */
  public void sendNow(String to, String subject, String body) {
    Ready server = require();
    var message = server.sender().createMimeMessage();
    try {
      var helper = new MimeMessageHelper(message, StandardCharsets.UTF_8.name());
      helper.setFrom(server.from());
      helper.setTo(to);
      helper.setSubject(subject);
      helper.setText(body);
      server.sender().send(message);
    } catch (MessagingException | MailException fault) {
      String words = String.valueOf(fault.getMessage());
      throw new Refused(
          Rule.DECLINED,
          "The mail server did not take the message: %s"
              .formatted(words.substring(0, Math.min(words.length(), LONGEST_FAULT))));
    }
  }

  private static JavaMailSenderImpl connect(MailServerRecord row) {
    JavaMailSenderImpl sender = plain(row.getHost(), row.getPort());
    Properties properties = sender.getJavaMailProperties();
    switch (row.getEncryption()) {
      case NONE -> {}
      case STARTTLS -> {
        properties.setProperty("mail.smtp.starttls.enable", "true");
        properties.setProperty("mail.smtp.starttls.required", "true");
      }
      case TLS -> properties.setProperty("mail.smtp.ssl.enable", "true");
    }
    properties.setProperty("mail.smtp.ssl.checkserveridentity", "true");
    if (!row.getUsername().isEmpty()) {
      properties.setProperty("mail.smtp.auth", "true");
      sender.setUsername(row.getUsername());
      sender.setPassword(row.getPassword());
    }
    return sender;
  }

  private static JavaMailSenderImpl plain(String host, int port) {
    var sender = new JavaMailSenderImpl();
    sender.setHost(host);
    sender.setPort(port);
    var properties = new Properties();
    for (String limit : new String[] {"connectiontimeout", "timeout", "writetimeout"}) {
      properties.setProperty("mail.smtp." + limit, Integer.toString(MILLISECONDS));
    }
    sender.setJavaMailProperties(properties);
    return sender;
  }
}
