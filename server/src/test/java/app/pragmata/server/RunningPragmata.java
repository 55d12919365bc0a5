package app.pragmata.server;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.support.GenericApplicationContext;

/**
 * The real program on a real database with the demo data, started once per database and shared by
 * all tests in it.
 */
public final class RunningPragmata {
  private static final Map<String, RunningPragmata> RUNNING = new HashMap<>();

  private final ConfigurableApplicationContext context;
  private final SettableClock clock;

  private RunningPragmata(String database, Instant start) {
    clock = new SettableClock(start);
    context =
        new SpringApplicationBuilder(Pragmata.class)
            .initializers(
                early ->
                    ((GenericApplicationContext) early)
                        .registerBean("clock", Clock.class, () -> clock))
            .run(
                "--server.port=0",
                "--pragmata.demo=true",
                "--spring.datasource.url=" + System.getProperty("pragmata.database.url") + database,
                "--spring.datasource.username=" + System.getProperty("pragmata.database.user"),
                "--spring.datasource.password=" + System.getProperty("pragmata.database.password"));
  }

  /**
   * The program on this database; the demo data ends at the given moment, such as
   * "2026-11-24T06:30".
   */
  public static synchronized RunningPragmata on(String database, String localStart) {
    return RUNNING.computeIfAbsent(
        database,
        name ->
            new RunningPragmata(name, LocalDateTime.parse(localStart).toInstant(ZoneOffset.UTC)));
  }

  /** The program for tests over HTTP: early on a Tuesday, before anybody has started work. */
  public static RunningPragmata forTests() {
    return on("pragmata_test", "2026-11-24T06:30");
  }

  public SettableClock clock() {
    return clock;
  }

  public DSLContext database() {
    return context.getBean(DSLContext.class);
  }

  public String address() {
    return "http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port");
  }
}
