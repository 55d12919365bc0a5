package app.pragmata.server.checkdesk;

import static app.pragmata.server.generated.Tables.CHECK_RULE;

import app.pragmata.core.checkdesk.CheckRules;
import app.pragmata.core.checkdesk.CheckRules.CheckRule;
import app.pragmata.core.checkdesk.Oddity;
import app.pragmata.server.company.CompanyEvent;
import app.pragmata.server.company.SettingsChanges;
import app.pragmata.server.records.Act;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Keeps what the office wants to be told of finished visits, and from where on. */
@Repository
public class CheckRuleStore {
  private final DSLContext database;
  private final SettingsChanges settings;

  CheckRuleStore(DSLContext database, SettingsChanges settings) {
    this.database = database;
    this.settings = settings;
  }

  CheckRules get() {
    return new CheckRules(
        database
            .selectFrom(CHECK_RULE)
            .fetchMap(
                row -> row.getOddity(), row -> new CheckRule(row.getWatched(), row.getLimitOf())));
  }

  /** Puts these in place of what was said before. */
  @Transactional
  public void save(Act act, int version, CheckRules rules) {
    settings.change(act, CompanyEvent.CHECK_RULES_CHANGED, version, values(get()), values(rules));
    database.deleteFrom(CHECK_RULE).execute();
    rules
        .rules()
        .forEach(
            (oddity, rule) ->
                database
                    .insertInto(CHECK_RULE)
                    .values(oddity, rule.watched(), rule.limit())
                    .execute());
  }

  private static Map<String, Object> values(CheckRules rules) {
    var values = new LinkedHashMap<String, Object>();
    for (Oddity oddity : Oddity.values()) {
      values.put(
          oddity.code(),
          !rules.watches(oddity)
              ? "not told"
              : oddity.unit() == null
                  ? "told"
                  : rules.limit(oddity).stripTrailingZeros().toPlainString()
                      + " "
                      + oddity.unit().code());
    }
    return values;
  }
}
