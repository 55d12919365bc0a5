package app.pragmata.server.company;

import static app.pragmata.server.generated.Tables.VAT_PERCENT;
import static app.pragmata.server.generated.Tables.VAT_TREATMENT;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.company.FromDay;
import app.pragmata.core.money.VatCategory;
import app.pragmata.server.generated.tables.records.VatTreatmentRecord;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How VAT applies to what the company sells. */
@RestController
class VatSettingsApi {
  /** All treatments, with the version that a change is sent with. */
  record VatSettings(int version, List<VatTreatmentSettings> treatments) {}

  /**
   * A treatment.
   *
   * @param reason why there is no tax, as documents say it; empty where none is needed
   * @param usual whether it is taken where nobody says another
   * @param percents the latest first; none unless it is rated
   */
  record VatTreatmentSettings(
      String code,
      VatCategory category,
      String reason,
      boolean usual,
      List<PercentFrom> percents) {}

  record PercentFrom(LocalDate fromDay, BigDecimal percent) {}

  /**
   * The same as typed.
   *
   * @param code of a new one; a treatment keeps its code, and its category
   * @param percent of a rated one, from the day on
   */
  record VatTreatmentForm(
      int version,
      @Nullable String code,
      @Nullable VatCategory category,
      @Nullable String reason,
      boolean usual,
      @Nullable String percent,
      @Nullable String fromDay) {}

  private final DSLContext database;
  private final SettingsChanges settings;

  VatSettingsApi(DSLContext database, SettingsChanges settings) {
    this.database = database;
    this.settings = settings;
  }

  /** The usual one first, then by code. */
  @GetMapping("/api/settings/vat")
  VatSettings listVatTreatments() {
    Map<String, List<PercentFrom>> percents =
        database
            .selectFrom(VAT_PERCENT)
            .orderBy(VAT_PERCENT.FROM_DAY.desc())
            .fetchGroups(
                VAT_PERCENT.VAT_CODE,
                row -> new PercentFrom(row.getFromDay(), row.getPercent().stripTrailingZeros()));
    return new VatSettings(
        settings.version(),
        database
            .selectFrom(VAT_TREATMENT)
            .orderBy(VAT_TREATMENT.USUAL.desc(), VAT_TREATMENT.CODE)
            .fetch(
                row ->
                    new VatTreatmentSettings(
                        row.getCode(),
                        row.getCategory(),
                        row.getReason(),
                        row.getUsual(),
                        percents.getOrDefault(row.getCode(), List.of()))));
  }

  @PostMapping("/api/settings/vat")
  @Transactional
  public VatSettings addVatTreatment(Act act, @RequestBody VatTreatmentForm form) {
    var reading = new Reading();
    String code = reading.required("code", form.code(), VatSettingsApi::code);
    if (code != null && database.fetchExists(VAT_TREATMENT, VAT_TREATMENT.CODE.eq(code))) {
      reading.fault("code", Rule.REPEATED, "There is a treatment of this name. Enter another.");
    }
    if (form.category() == null) {
      reading.fault("category", Rule.MISSING, "Choose whether it is rated, and if not, why.");
      reading.refuseIfFaulty();
    }
    VatTreatmentRecord row = database.newRecord(VAT_TREATMENT);
    row.setCode(code == null ? "" : code);
    row.setCategory(Objects.requireNonNull(form.category()));
    store(act, reading, row, Map.of(), form);
    return listVatTreatments();
  }

  /** Changes a percent from a day on, the reason, or which one is usual. */
  @PutMapping("/api/settings/vat/{code}")
  @Transactional
  public VatSettings changeVatTreatment(
      Act act, @PathVariable String code, @RequestBody VatTreatmentForm form) {
    VatTreatmentRecord row =
        database
            .selectFrom(VAT_TREATMENT)
            .where(VAT_TREATMENT.CODE.eq(code))
            .fetchOptional()
            .orElseThrow(
                () ->
                    new Refused(Rule.NOT_FOUND, "This treatment does not exist. Reload the page."));
    var reading = new Reading();
    if (row.getUsual() && !form.usual()) {
      reading.fault(
          "usual", Rule.MISSING, "One treatment is always the usual one: tick it at another.");
    }
    store(act, reading, row, values(row), form);
    return listVatTreatments();
  }

  /** Takes back a percent that was to hold from a day that has not come. */
  @DeleteMapping("/api/settings/vat/{code}/{fromDay}")
  @Transactional
  public VatSettings withdrawVatPercent(
      Act act,
      @PathVariable String code,
      @PathVariable LocalDate fromDay,
      @RequestParam int version) {
    if (!fromDay.isAfter(act.today())) {
      throw new Refused(
          Rule.DAY_PASSED,
          "This percent holds already. Enter another from a later day instead of taking it back.");
    }
    int gone =
        database
            .deleteFrom(VAT_PERCENT)
            .where(VAT_PERCENT.VAT_CODE.eq(code).and(VAT_PERCENT.FROM_DAY.eq(fromDay)))
            .execute();
    if (gone == 0) {
      throw new Refused(Rule.NOT_FOUND, "Nothing was to change on that day. Reload the page.");
    }
    settings.change(act, CompanyEvent.VAT_CHANGED, version, Map.of(code, fromDay), Map.of());
    return listVatTreatments();
  }

  private void store(
      Act act,
      Reading reading,
      VatTreatmentRecord row,
      Map<String, Object> before,
      VatTreatmentForm form) {
    boolean rated = row.getCategory() == VatCategory.RATED;
    boolean explained = !rated && row.getCategory() != VatCategory.ZERO;
    String reason = explained ? reading.text("reason", form.reason(), 200) : "";
    BigDecimal percent =
        rated ? reading.required("percent", form.percent(), VatSettingsApi::percent) : null;
    LocalDate from = rated ? FromDay.read(reading, form.fromDay(), act.today()) : null;
    reading.refuseIfFaulty();
    row.setReason(Objects.requireNonNull(reason));
    row.setUsual(form.usual());
    var after = new LinkedHashMap<>(values(row));
    if (percent != null) {
      after.put("percent from " + from, percent);
    }
    settings.change(act, CompanyEvent.VAT_CHANGED, form.version(), before, after);
    if (form.usual()) {
      database.update(VAT_TREATMENT).set(VAT_TREATMENT.USUAL, false).execute();
      row.touched(VAT_TREATMENT.USUAL, true);
    }
    row.store();
    if (percent != null) {
      database
          .insertInto(VAT_PERCENT)
          .values(row.getCode(), Objects.requireNonNull(from), percent)
          .onConflict(VAT_PERCENT.VAT_CODE, VAT_PERCENT.FROM_DAY)
          .doUpdate()
          .set(VAT_PERCENT.PERCENT, percent)
          .execute();
    }
  }

  private static Map<String, Object> values(VatTreatmentRecord row) {
    return Map.of(
        "code", row.getCode(),
        "category", row.getCategory(),
        "reason", row.getReason(),
        "usual", row.getUsual());
  }

  private static String code(String typed) {
    String code = typed.toLowerCase(Locale.ROOT).replaceAll("[ -]+", "_");
    if (!code.matches("[a-z0-9_]{2,30}")) {
      throw new Unreadable(
          Rule.UNREADABLE, "A short name has letters and digits only, such as reduced 14.");
    }
    return code;
  }

  private static BigDecimal percent(String typed) {
    BigDecimal percent = Reading.percent(typed).movePointRight(2);
    if (percent.signum() == 0 || percent.compareTo(BigDecimal.valueOf(100)) > 0) {
      throw new Unreadable(Rule.UNREADABLE, "Enter a percent above 0 and at most 100.");
    }
    return percent;
  }
}
