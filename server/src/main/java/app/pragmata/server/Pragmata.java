package app.pragmata.server;

import app.pragmata.server.demo.DemoCompany;
import java.time.Clock;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.event.EventListener;

/** The program. */
@SpringBootApplication(
    proxyBeanMethods = false,
    exclude = UserDetailsServiceAutoConfiguration.class)
public class Pragmata {
  private static final Logger LOG = LoggerFactory.getLogger(Pragmata.class);

  public static void main(String[] arguments) {
    SpringApplication.run(Pragmata.class, arguments);
  }

  /** The one clock that everything asks; tests put a settable one in its place. */
  @Bean
  @ConditionalOnMissingBean
  Clock clock() {
    return Clock.systemUTC();
  }

  @Bean
  Startup startup(ObjectProvider<DemoCompany> demo) {
    return new Startup(demo);
  }

  record Startup(ObjectProvider<DemoCompany> demo) {
    @EventListener(ApplicationReadyEvent.class)
    void ready() {
      demo.ifAvailable(DemoCompany::loadOnce);
      LOG.info("Pragmata is ready");
    }
  }
}
