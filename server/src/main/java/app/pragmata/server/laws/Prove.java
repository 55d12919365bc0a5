package app.pragmata.server.laws;

import app.pragmata.core.money.Money;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import org.jooq.Log;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.jooq.tools.JooqLogger;

/**
 * {@code ./pragmata prove}: prints each law of the books with its two figures; exit code 1 when one
 * is broken.
 */
public final class Prove {
  private Prove() {}

  public static void main(String[] arguments) throws SQLException {
    System.setProperty("org.jooq.no-logo", "true");
    System.setProperty("org.jooq.no-tips", "true");
    JooqLogger.globalThreshold(Log.Level.ERROR);
    Map<String, String> environment = System.getenv();
    try (Connection connection =
        DriverManager.getConnection(
            environment.get("PRAGMATA_DATABASE_URL"),
            "pragmata",
            environment.get("PRAGMATA_DATABASE_PASSWORD"))) {
      connection.setAutoCommit(false);
      connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
      List<Laws.Finding> findings = Laws.check(DSL.using(connection, SQLDialect.POSTGRES));
      findings.forEach(Prove::print);
      boolean broken = findings.stream().anyMatch(finding -> !finding.holds());
      System.out.println(broken ? "The books are NOT in order." : "The books are in order.");
      System.exit(broken ? 1 : 0);
    }
  }

  private static void print(Laws.Finding finding) {
    System.out.printf(
        "%-8s %s%n         %s %s, %s %s%n",
        finding.holds() ? "holds" : "BROKEN",
        finding.law(),
        finding.leftName(),
        figure(finding, finding.left()),
        finding.rightName(),
        figure(finding, finding.right()));
  }

  private static String figure(Laws.Finding finding, long value) {
    return switch (finding.unit()) {
      case COUNT -> Long.toString(value);
      case MINOR -> Money.ofMinor(value).toString();
    };
  }
}
