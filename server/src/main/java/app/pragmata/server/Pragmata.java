package app.pragmata.server;

import app.pragmata.server.demo.DemoCompany;
import java.time.Clock;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration;
import org.springframework.context.SmartLifecycle;
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

  @Bean
  Startup startup(ObjectProvider<DemoCompany> demo) {
    return new Startup(demo);
  }

  /** Loads the demo's data, where it is wanted, before the address answers anybody. */
  static final class Startup implements SmartLifecycle {
    private final ObjectProvider<DemoCompany> demo;
    private volatile boolean running;

    Startup(ObjectProvider<DemoCompany> demo) {
      this.demo = demo;
    }

    @Override
    public void start() {
      demo.ifAvailable(DemoCompany::loadOnce);
      running = true;
    }

    @Override
    public void stop() {
      running = false;
    }

    @Override
    public boolean isRunning() {
      return running;
    }

    /** Long before the web server, whose phase is one of the last. */
    @Override
    public int getPhase() {
      return 0;
    }
  }
}
