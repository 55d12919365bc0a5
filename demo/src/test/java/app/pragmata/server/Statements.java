package app.pragmata.server;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import org.jooq.DSLContext;
import org.jooq.ExecuteContext;
import org.jooq.ExecuteListener;
import org.jooq.impl.DSL;
import org.jooq.impl.DefaultConfiguration;
import org.jooq.impl.DefaultExecuteListenerProvider;

/** What a program sends to its database. */
final class Statements {
  private static final String WHO_IT_IS =
      "select \"public\".\"person\".\"id\", \"public\".\"person\".\"name\", \"public\".\"person\".\"username\", \"public\".\"person\".\"role\" from";

  private Statements() {}

  /**
   * The statements that the program sends for the one request that something is about; what it does
   * by itself meanwhile is on other threads.
   */
  static List<String> of(DSLContext database, Runnable work) {
    return of(database, work, each -> String.valueOf(each.sql()));
  }

  /** The same with their values in them, so that they can be sent again. */
  static List<String> withValues(DSLContext database, Runnable work) {
    return of(
        database,
        work,
        each ->
            each.query() == null
                ? String.valueOf(each.sql())
                : DSL.using(each.configuration()).renderInlined(each.query()));
  }

  private static List<String> of(
      DSLContext database, Runnable work, Function<ExecuteContext, String> text) {
    var configuration = (DefaultConfiguration) database.configuration();
    var before = configuration.executeListenerProviders();
    var sent = new ConcurrentHashMap<Thread, List<String>>();
    ExecuteListener listening =
        ExecuteListener.onExecuteStart(
            each -> {
              String sql = String.valueOf(each.sql());
              // Later work runs on threads without a name. Whether the settings are still the same
              // is looked up by the clock; whose session it
              // is, beside the session itself, which is not counted either.
              if (!Thread.currentThread().getName().isEmpty()
                  && !sql.contains("settings_version")
                  && !sql.startsWith(WHO_IT_IS)) {
                sent.computeIfAbsent(Thread.currentThread(), thread -> new ArrayList<>())
                    .add(text.apply(each));
              }
            });
    var providers = Arrays.copyOf(before, before.length + 1);
    providers[before.length] = new DefaultExecuteListenerProvider(listening);
    configuration.setExecuteListenerProvider(providers);
    try {
      work.run();
    } finally {
      configuration.setExecuteListenerProvider(before);
    }
    return sent.values().stream().max(Comparator.comparing(List::size)).orElse(List.of());
  }
}
