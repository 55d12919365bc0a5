package app.pragmata.server;

import java.time.Clock;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration;
import org.springframework.context.annotation.Bean;

/** The program. */
@SpringBootApplication(
    proxyBeanMethods = false,
    exclude = UserDetailsServiceAutoConfiguration.class)
public class Pragmata {
  public static void main(String[] arguments) {
    SpringApplication.run(Pragmata.class, arguments);
  }

  /** The one clock that everything asks; tests put a settable one in its place. */
  @Bean
  @ConditionalOnMissingBean
  Clock clock() {
    return Clock.systemUTC();
  }
}
