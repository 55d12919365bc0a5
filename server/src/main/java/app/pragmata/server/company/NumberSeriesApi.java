package app.pragmata.server.company;

import static app.pragmata.server.generated.Tables.NUMBER_RANGE;
import static app.pragmata.server.generated.Tables.NUMBER_SERIES;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.NumberSeries.Series;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** How documents are numbered. */
@RestController
class NumberSeriesApi {
  /** All of them, with the version that a change is sent with. */
  record NumberSeriesSettings(int version, List<NumberedSeries> series) {}

  /**
   * What is numbered, and how the next one will be.
   *
   * @param prefix what stands before the number; may be empty
   * @param printed the next number as it will stand on paper
   */
  record NumberedSeries(Series series, long nextNumber, String prefix, String printed) {}

  /** The same as typed. */
  record NumberSeriesForm(int version, @Nullable String nextNumber, @Nullable String prefix) {}

  private static final int HIGHEST = 99_999_999;

  private final DSLContext database;
  private final SettingsChanges settings;

  NumberSeriesApi(DSLContext database, SettingsChanges settings) {
    this.database = database;
    this.settings = settings;
  }

  @GetMapping("/api/settings/number-series")
  NumberSeriesSettings listNumberSeries() {
    return new NumberSeriesSettings(
        settings.version(), Arrays.stream(Series.values()).map(this::get).toList());
  }

  private NumberedSeries get(Series series) {
    long next =
        database
            .select(NUMBER_SERIES.NEXT_NUMBER)
            .from(NUMBER_SERIES)
            .where(NUMBER_SERIES.SERIES.eq(series.code()))
            .fetchSingle(NUMBER_SERIES.NEXT_NUMBER);
    String prefix =
        database
            .select(NUMBER_RANGE.PREFIX)
            .from(NUMBER_RANGE)
            .where(NUMBER_RANGE.SERIES.eq(series.code()))
            .orderBy(NUMBER_RANGE.FROM_NUMBER.desc())
            .limit(1)
            .fetchSingle(NUMBER_RANGE.PREFIX);
    return new NumberedSeries(series, next, prefix, prefix + next);
  }

  /** Says how the next one is numbered; what has a number keeps it. */
  @PutMapping("/api/settings/number-series/{series}")
  @Transactional
  public NumberSeriesSettings saveNumberSeries(
      Act act, @PathVariable Series series, @RequestBody NumberSeriesForm form) {
    var reading = new Reading();
    Integer next =
        reading.required(
            "nextNumber", form.nextNumber(), typed -> Reading.whole(typed, 1, HIGHEST));
    String prefix = reading.optional("prefix", form.prefix(), NumberSeriesApi::prefix);
    // Whoever takes a number waits until this is done.
    database
        .selectFrom(NUMBER_SERIES)
        .where(NUMBER_SERIES.SERIES.eq(series.code()))
        .forUpdate()
        .execute();
    NumberedSeries before = get(series);
    if (next != null && next < before.nextNumber()) {
      reading.fault(
          "nextNumber",
          Rule.NUMBER_GIVEN,
          "Numbers below %d are given already, or were passed over. Enter %d or a higher one."
              .formatted(before.nextNumber(), before.nextNumber()));
    }
    reading.refuseIfFaulty();
    store(act, form.version(), before, Objects.requireNonNull(next), prefix == null ? "" : prefix);
    return listNumberSeries();
  }

  private void store(Act act, int version, NumberedSeries before, long next, String prefix) {
    String code = before.series().code();
    settings.change(
        act,
        CompanyEvent.NUMBER_SERIES_CHANGED,
        version,
        Map.of(code, before.printed()),
        Map.of(code, prefix + next));
    database
        .update(NUMBER_SERIES)
        .set(NUMBER_SERIES.NEXT_NUMBER, next)
        .where(NUMBER_SERIES.SERIES.eq(code))
        .execute();
    // A range in which nothing was numbered never was one.
    database
        .deleteFrom(NUMBER_RANGE)
        .where(NUMBER_RANGE.SERIES.eq(code).and(NUMBER_RANGE.FROM_NUMBER.ge(before.nextNumber())))
        .execute();
    database.insertInto(NUMBER_RANGE).values(code, next, prefix).execute();
  }

  private static String prefix(String typed) {
    String prefix = typed.toUpperCase(Locale.ROOT);
    if (!prefix.matches("[A-Z0-9/-]{1,10}")) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "A prefix has at most ten letters, digits, strokes and hyphens, such as INV- or 2027/.");
    }
    return prefix;
  }
}
