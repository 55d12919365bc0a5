package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.COMPANY;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.server.company.CompanyEvent;
import app.pragmata.server.company.SettingsChanged;
import app.pragmata.server.generated.tables.records.CompanyRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.Versions;
import java.math.BigDecimal;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What holds for every quote until somebody says otherwise on it. */
@RestController
class QuotingSettingsApi {
  /**
   * As they stand; a change holds from the next quote on.
   *
   * @param floorMarginPercent a line or total below it is marked
   * @param letterOpening how each mail about a quote goes on after its greeting; empty for nothing
   * @param letterClosing how it ends; empty for the company's name
   */
  record QuotingSettings(
      int version,
      int quoteValidDays,
      int followUpDays,
      int depositDueDays,
      BigDecimal floorMarginPercent,
      String letterOpening,
      String letterClosing) {}

  /** The same as typed. */
  record QuotingSettingsForm(
      int version,
      @Nullable String quoteValidDays,
      @Nullable String followUpDays,
      @Nullable String depositDueDays,
      @Nullable String floorMarginPercent,
      @Nullable String letterOpening,
      @Nullable String letterClosing) {}

  private static final int LONGEST_VALID_DAYS = 365;
  private static final int LONGEST_WAIT_DAYS = 90;
  private static final int LONGEST_WORDS = 600;

  private final DSLContext database;
  private final Events events;
  private final ApplicationEventPublisher changes;

  QuotingSettingsApi(DSLContext database, Events events, ApplicationEventPublisher changes) {
    this.database = database;
    this.events = events;
    this.changes = changes;
  }

  @GetMapping("/api/settings/quoting")
  QuotingSettings getQuotingSettings() {
    return settings(database.selectFrom(COMPANY).fetchSingle());
  }

  private static QuotingSettings settings(CompanyRecord row) {
    return new QuotingSettings(
        row.getVersion(),
        row.getQuoteValidDays(),
        row.getFollowUpDays(),
        row.getDepositDueDays(),
        row.getFloorMarginPercent().stripTrailingZeros(),
        row.getLetterOpening(),
        row.getLetterClosing());
  }

  @PutMapping("/api/settings/quoting")
  @Transactional
  public QuotingSettings saveQuotingSettings(Act act, @RequestBody QuotingSettingsForm form) {
    var reading = new Reading();
    Integer valid =
        reading.required(
            "quoteValidDays",
            form.quoteValidDays(),
            typed -> Reading.whole(typed, 1, LONGEST_VALID_DAYS));
    Integer followUp =
        reading.required(
            "followUpDays",
            form.followUpDays(),
            typed -> Reading.whole(typed, 1, LONGEST_WAIT_DAYS));
    Integer deposit =
        reading.required(
            "depositDueDays",
            form.depositDueDays(),
            typed -> Reading.whole(typed, 0, LONGEST_WAIT_DAYS));
    BigDecimal floor =
        reading.required(
            "floorMarginPercent", form.floorMarginPercent(), QuotingSettingsApi::percent);
    String opening = reading.optionalText("letterOpening", form.letterOpening(), LONGEST_WORDS);
    String closing = reading.optionalText("letterClosing", form.letterClosing(), LONGEST_WORDS);
    reading.refuseIfFaulty();
    CompanyRecord row = database.selectFrom(COMPANY).forUpdate().fetchSingle();
    Versions.require(form.version(), row.getVersion());
    row.setQuoteValidDays(Objects.requireNonNull(valid).shortValue());
    row.setFollowUpDays(Objects.requireNonNull(followUp).shortValue());
    row.setDepositDueDays(Objects.requireNonNull(deposit).shortValue());
    row.setFloorMarginPercent(floor);
    row.setLetterOpening(opening);
    row.setLetterClosing(closing);
    events.store(act, CompanyEvent.QUOTING_SETTINGS_CHANGED, row);
    changes.publishEvent(new SettingsChanged());
    return settings(row);
  }

  private static BigDecimal percent(String typed) {
    BigDecimal percent = Reading.percent(typed).movePointRight(2);
    if (percent.compareTo(BigDecimal.valueOf(100)) >= 0) {
      throw new Unreadable(Rule.UNREADABLE, "Enter a share below 100, such as 25 or 27.5.");
    }
    return percent;
  }
}
