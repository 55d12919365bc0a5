package app.pragmata.server.company;

import static app.pragmata.server.generated.Tables.COMPANY;

import app.pragmata.server.generated.tables.records.CompanyRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.Versions;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * All settings change one after the other, and none from an old picture of them: they have the one
 * version of the company.
 */
@Component
public class SettingsChanges {
  private final DSLContext database;
  private final Events events;
  private final ApplicationEventPublisher changes;

  SettingsChanges(DSLContext database, Events events, ApplicationEventPublisher changes) {
    this.database = database;
    this.events = events;
    this.changes = changes;
  }

  /** With which version a change is sent. */
  public int version() {
    return database.select(COMPANY.VERSION).from(COMPANY).fetchSingle(COMPANY.VERSION);
  }

  /**
   * Lets nobody else change settings until the caller's transaction ends, and writes down what it
   * changes; only values that differ are told.
   *
   * @param version as it was shown; refused when settings were changed since
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void change(
      Act act,
      CompanyEvent event,
      int version,
      Map<String, Object> before,
      Map<String, Object> after) {
    CompanyRecord company = database.selectFrom(COMPANY).forUpdate().fetchSingle();
    Versions.require(version, company.getVersion());
    events.store(
        act,
        event,
        company,
        About.NOTHING.with(different(before, after), different(after, before)));
    changes.publishEvent(new SettingsChanged());
  }

  private static Map<String, Object> different(
      Map<String, Object> values, Map<String, Object> others) {
    var different = new LinkedHashMap<>(values);
    different.entrySet().removeIf(value -> value.getValue().equals(others.get(value.getKey())));
    return different;
  }
}
