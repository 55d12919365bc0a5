package app.pragmata.server.mail;

import java.util.Properties;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.mail.javamail.JavaMailSenderImpl;

/** Which mail server takes our mail: the one that is set, or the stand-in where it runs. */
@Configuration(proxyBeanMethods = false)
class MailSettings {
  private static final int MILLISECONDS = 10_000;

  private final String from;

  MailSettings(@Value("${pragmata.mail.from:}") String from) {
    this.from = from;
  }

  /** Empty when none is set. */
  String from() {
    return from;
  }

  @Bean
  JavaMailSender mailSender(
      @Value("${pragmata.mail.host:127.0.0.1}") String host,
      @Value("${pragmata.mail.port:25}") int port,
      ObjectProvider<MailServer> standIn) {
    var sender = new JavaMailSenderImpl();
    MailServer server = standIn.getIfAvailable(() -> new MailServer(host, port));
    sender.setHost(server.host());
    sender.setPort(server.port());
    var properties = new Properties();
    for (String limit : new String[] {"connectiontimeout", "timeout", "writetimeout"}) {
      properties.setProperty("mail.smtp." + limit, Integer.toString(MILLISECONDS));
    }
    sender.setJavaMailProperties(properties);
    return sender;
  }
}
