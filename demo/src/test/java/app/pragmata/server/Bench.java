package app.pragmata.server;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.IntConsumer;
import org.jooq.DSLContext;
import org.jooq.ExecuteContext;
import org.jooq.ExecuteListener;
import org.jooq.impl.DSL;
import org.jooq.impl.DefaultExecuteListenerProvider;

/** Measures the program against the bare statements that it runs, in the same run. */
public final class Bench {
  private static final int WARM_UP = 400;
  private static final int ROUNDS = 200;

  /** Milliseconds: the middle of all rounds, and what 95 of 100 stay below. */
  public record Times(double median, double percentile95) {}

  private Bench() {}

  /**
   * Runs each round once to warm up and then measures; the round's number chooses what is asked.
   */
  public static Times measure(IntConsumer round) {
    for (int i = 0; i < WARM_UP; i++) {
      round.accept(i);
    }
    var milliseconds = new ArrayList<Double>();
    for (int i = 0; i < ROUNDS; i++) {
      long start = System.nanoTime();
      round.accept(i);
      milliseconds.add((System.nanoTime() - start) / 1e6);
    }
    Collections.sort(milliseconds);
    return new Times(milliseconds.get(ROUNDS / 2), milliseconds.get(ROUNDS * 95 / 100));
  }

  /** The statements that some work runs, with their values in them. */
  public static List<String> statements(DSLContext database, Consumer<DSLContext> work) {
    var statements = new ArrayList<String>();
    var listener =
        new ExecuteListener() {
          @Override
          public void executeStart(ExecuteContext context) {
            statements.add(
                context.query() == null
                    ? String.valueOf(context.sql())
                    : DSL.using(context.configuration()).renderInlined(context.query()));
          }
        };
    work.accept(
        DSL.using(database.configuration().derive(new DefaultExecuteListenerProvider(listener))));
    return statements;
  }

  /** Runs statements as they are and reads every row of their answers. */
  public static void runBare(DSLContext database, List<String> statements) {
    database.connection(
        connection -> {
          try (Statement statement = connection.createStatement()) {
            for (String sql : statements) {
              readAll(statement, sql);
            }
          }
        });
  }

  private static void readAll(Statement statement, String sql) throws SQLException {
    if (statement.execute(sql)) {
      try (ResultSet rows = statement.getResultSet()) {
        while (rows.next()) {
          for (int column = 1; column <= rows.getMetaData().getColumnCount(); column++) {
            rows.getString(column);
          }
        }
      }
    }
  }

  public static void print(String what, Times program, Times bare) {
    System.out.printf(
        "%-34s %5.1f ms %5.1f ms    bare SQL %5.1f ms    x %.2f at the median%n",
        what,
        program.median(),
        program.percentile95(),
        bare.median(),
        program.median() / bare.median());
  }
}
