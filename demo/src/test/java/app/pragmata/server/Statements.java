package app.pragmata.server;

import java.util.Arrays;
import java.util.Collections;
import java.util.concurrent.ConcurrentHashMap;
import org.jooq.DSLContext;
import org.jooq.ExecuteListener;
import org.jooq.impl.DefaultConfiguration;
import org.jooq.impl.DefaultExecuteListenerProvider;

/** What a program sends to its database. */
final class Statements {
  private Statements() {}

  /**
   * How many statements the program sends for the one request that something is about; what it does
   * by the clock meanwhile is on other threads.
   */
  static int count(DSLContext database, Runnable work) {
    var configuration = (DefaultConfiguration) database.configuration();
    var before = configuration.executeListenerProviders();
    var counts = new ConcurrentHashMap<Thread, Integer>();
    ExecuteListener counting =
        ExecuteListener.onExecuteStart(
            each -> {
              // Whether the settings are still the same is looked up by the clock.
              if (each.sql() == null || !each.sql().contains("settings_version")) {
                counts.merge(Thread.currentThread(), 1, Integer::sum);
              }
            });
    var providers = Arrays.copyOf(before, before.length + 1);
    providers[before.length] = new DefaultExecuteListenerProvider(counting);
    configuration.setExecuteListenerProvider(providers);
    try {
      work.run();
    } finally {
      configuration.setExecuteListenerProvider(before);
    }
    return Collections.max(counts.values());
  }
}
