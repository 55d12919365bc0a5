package app.pragmata.server.checkdesk;

import app.pragmata.core.Decimal;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.checkdesk.CheckRules;
import app.pragmata.core.checkdesk.CheckRules.CheckRule;
import app.pragmata.core.checkdesk.Oddity;
import app.pragmata.server.company.SettingsChanges;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What the office wants to be told of finished visits, over HTTP. */
@RestController
class CheckRulesApi {
  /**
   * All oddities, in the order in which they are told.
   *
   * @param version of the company, with which a change is sent
   */
  record CheckRuleList(int version, List<WatchedOddity> rules) {}

  /**
   * One of them.
   *
   * @param unit what its limit is counted in; null where it has none
   * @param limit from where on it is told; null where it has no limit
   * @param usualLimit what the limit is while nobody says otherwise
   */
  record WatchedOddity(
      Oddity oddity,
      boolean watched,
      Oddity.@Nullable Unit unit,
      @Nullable BigDecimal limit,
      @Nullable BigDecimal usualLimit) {}

  /**
   * What is told from now on; of an oddity that is left out nothing changes from the usual.
   *
   * @param rules at most one of each
   */
  record CheckRulesForm(int version, @Nullable List<CheckRuleForm> rules) {}

  /** The limit as it is typed; empty for the usual one. */
  record CheckRuleForm(@Nullable Oddity oddity, boolean watched, @Nullable String limit) {}

  private final CheckRuleStore rules;
  private final SettingsChanges settings;

  CheckRulesApi(CheckRuleStore rules, SettingsChanges settings) {
    this.rules = rules;
    this.settings = settings;
  }

  @GetMapping("/api/settings/check-rules")
  CheckRuleList listCheckRules() {
    CheckRules now = rules.get();
    return new CheckRuleList(
        settings.version(),
        Arrays.stream(Oddity.values())
            .map(
                oddity ->
                    new WatchedOddity(
                        oddity,
                        now.watches(oddity),
                        oddity.unit(),
                        oddity.unit() == null ? null : now.limit(oddity),
                        oddity.usualLimit()))
            .toList());
  }

  @PutMapping("/api/settings/check-rules")
  CheckRuleList saveCheckRules(Act act, @RequestBody CheckRulesForm form) {
    rules.save(act, form.version(), read(form));
    return listCheckRules();
  }

  private static CheckRules read(CheckRulesForm form) {
    var reading = new Reading();
    var read = new EnumMap<Oddity, CheckRule>(Oddity.class);
    List<CheckRuleForm> typed = Objects.requireNonNullElse(form.rules(), List.of());
    if (typed.size() > Oddity.values().length) {
      reading.fault(
          "rules", Rule.EXCEEDS_LIMIT, "There are not so many oddities. Reload the page.");
      reading.refuseIfFaulty();
    }
    for (int i = 0; i < typed.size(); i++) {
      CheckRuleForm one = typed.get(i);
      Oddity oddity = one == null ? null : one.oddity();
      if (oddity == null) {
        reading.fault("rules/" + i + "/oddity", Rule.MISSING, "Say which oddity it is about.");
        continue;
      }
      BigDecimal limit = limit(reading, "rules/" + i + "/limit", oddity, one.limit());
      if (read.put(oddity, new CheckRule(one.watched(), limit)) != null) {
        reading.fault("rules/" + i + "/oddity", Rule.REPEATED, "It stands in the list twice.");
      }
    }
    reading.refuseIfFaulty();
    return new CheckRules(read);
  }

  private static @Nullable BigDecimal limit(
      Reading reading, String field, Oddity oddity, @Nullable String typed) {
    Oddity.Unit unit = oddity.unit();
    BigDecimal limit = reading.optional(field, typed, Reading::quantity);
    if (limit == null) {
      return null;
    }
    if (unit == null) {
      reading.fault(field, Rule.EXCEEDS_LIMIT, "This one has no limit. Leave it empty.");
      return null;
    }
    if (!unit.allows(limit)) {
      reading.fault(
          field,
          Rule.EXCEEDS_LIMIT,
          "Enter a limit from %s to %s %s."
              .formatted(Decimal.text(unit.least()), Decimal.text(unit.most()), unit.code()));
      return null;
    }
    return limit;
  }
}
