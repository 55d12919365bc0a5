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
  private static final int ROUNDS = 200;

  /** So many times as many rounds may be run to warm up. */
  private static final int LONGEST_WARM_UP = 15;

  /** What gets faster by less than this share from some rounds to the next is warm. */
  private static final double WARM = 0.03;

  /** Milliseconds: the middle of all rounds, and what 95 of 100 stay below. */
  public record Times(double median, double percentile95) {}

  private Bench() {}

  /**
   * Runs rounds until they get no faster, as on a server that has run for a while, and then
   * measures; the round's number chooses what is asked.
   */
  public static Times measure(IntConsumer round) {
    return measure(ROUNDS, List.of(round)).getFirst();
  }

  /**
   * Measures the program beside its floor and prints both. They take turns, so that whatever else
   * the machine does slows both.
   */
  public static void compare(String what, IntConsumer program, IntConsumer bare) {
    compare(what, ROUNDS, program, bare);
  }

  /** The same with other than the usual number of rounds, for what takes longer. */
  public static void compare(String what, int rounds, IntConsumer program, IntConsumer bare) {
    List<Times> times = measure(rounds, List.of(program, bare));
    print(what, times.getFirst(), times.getLast());
  }

  private static List<Times> measure(int rounds, List<IntConsumer> inTurns) {
    double fastest = rounds(rounds, inTurns).getFirst().median();
    int noFaster = 0;
    for (int i = 1; i < LONGEST_WARM_UP && noFaster < 2; i++) {
      double next = rounds(rounds, inTurns).getFirst().median();
      noFaster = next < fastest * (1 - WARM) ? 0 : noFaster + 1;
      fastest = Math.min(fastest, next);
    }
    return rounds(rounds, inTurns);
  }

  private static List<Times> rounds(int rounds, List<IntConsumer> inTurns) {
    var milliseconds = inTurns.stream().map(each -> new ArrayList<Double>()).toList();
    for (int i = 0; i < rounds; i++) {
      for (int turn = 0; turn < inTurns.size(); turn++) {
        long start = System.nanoTime();
        inTurns.get(turn).accept(i);
        milliseconds.get(turn).add((System.nanoTime() - start) / 1e6);
      }
    }
    return milliseconds.stream()
        .map(
            each -> {
              Collections.sort(each);
              return new Times(each.get(rounds / 2), each.get(rounds * 95 / 100));
            })
        .toList();
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

  private static void print(String what, Times program, Times bare) {
    System.out.printf(
        "%-34s %5.1f ms %5.1f ms    bare SQL %5.1f ms    x %.2f at the median%n",
        what,
        program.median(),
        program.percentile95(),
        bare.median(),
        program.median() / bare.median());
  }
}
