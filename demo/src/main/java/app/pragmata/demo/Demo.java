package app.pragmata.demo;

import app.pragmata.server.Pragmata;
import app.pragmata.server.mail.MailServer;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.SpringApplication;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.ComponentScan;
import org.springframework.context.annotation.Configuration;

/** The program with an invented company in it, and stand-ins for what is outside. */
@Configuration(proxyBeanMethods = false)
@ComponentScan
public class Demo {
  public static void main(String[] arguments) {
    SpringApplication.run(new Class<?>[] {Pragmata.class, Demo.class}, arguments);
  }

  /**
   * Takes all mail; of two servers in one demo, the second one's goes to the stand-in of the first.
   */
  @Bean
  MailServer mailServer(MailStandIn standIn, @Value("${pragmata.demo.mail-port:0}") int port) {
    return port == 0 ? standIn.address() : new MailServer(standIn.address().host(), port);
  }

  @Bean
  Startup startup(DemoCompany company) {
    return new Startup(company);
  }

  /** Loads the company's data before the address answers anybody. */
  static final class Startup implements SmartLifecycle {
    private final DemoCompany company;
    private volatile boolean running;

    Startup(DemoCompany company) {
      this.company = company;
    }

    @Override
    public void start() {
      company.loadOnce();
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
