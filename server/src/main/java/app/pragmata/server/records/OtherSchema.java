package app.pragmata.server.records;

import org.flywaydb.core.api.exception.FlywayValidateException;
import org.springframework.boot.diagnostics.AbstractFailureAnalyzer;
import org.springframework.boot.diagnostics.FailureAnalysis;

/**
 * Says in words that a database was made by another version of the program, whose tables this one
 * cannot take over; until the first release the tables are described anew instead of changed.
 */
final class OtherSchema extends AbstractFailureAnalyzer<FlywayValidateException> {
  @Override
  protected FailureAnalysis analyze(Throwable whole, FlywayValidateException cause) {
    return new FailureAnalysis(
        "This database was made by another version of Pragmata, and its tables cannot be taken over.",
        "Start over with new demo data: ./pragmata demo --fresh",
        cause);
  }
}
