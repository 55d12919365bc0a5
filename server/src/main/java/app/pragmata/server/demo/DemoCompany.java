package app.pragmata.server.demo;

import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.stereotype.Component;

/** Placeholder until the loader is written. */
@Component
@ConditionalOnProperty("pragmata.demo")
public class DemoCompany {
  public void loadOnce() {}
}
