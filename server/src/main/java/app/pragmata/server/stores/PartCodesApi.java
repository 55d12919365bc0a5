package app.pragmata.server.stores;

import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PART_CODE;
import static app.pragmata.server.generated.Tables.PERSON;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.records.Act;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** By which codes a part is known, for the office: whoever scanned the wrong box is put right. */
@RestController
class PartCodesApi {
  /**
   * A code that is printed on a part's box.
   *
   * @param by who said so
   * @param at when, by the company's clock
   */
  record PartCode(String code, String by, LocalDateTime at) {}

  /** A code as it is scanned or typed. */
  record PartCodeForm(@Nullable String code) {}

  private final PartCodes codes;
  private final DSLContext database;

  PartCodesApi(PartCodes codes, DSLContext database) {
    this.codes = codes;
    this.database = database;
  }

  /** Those of a part, in their order. */
  @GetMapping("/api/held-parts/{id}/codes")
  List<PartCode> listPartCodes(Act act, @PathVariable long id) {
    return database
        .select(PART_CODE.CODE, PERSON.NAME, PART_CODE.NOTED_AT)
        .from(PART_CODE)
        .join(PERSON)
        .on(PERSON.ID.eq(PART_CODE.NOTED_BY))
        .where(PART_CODE.PART_ID.eq(id))
        .orderBy(PART_CODE.CODE)
        .fetch(
            row ->
                new PartCode(
                    row.value1(), row.value2(), LocalDateTime.ofInstant(row.value3(), act.zone())));
  }

  /** Says that a code stands for a part, in place of what it stood for before. */
  @PostMapping("/api/held-parts/{id}/codes")
  @Transactional
  public List<PartCode> addPartCode(
      Act act, @PathVariable long id, @RequestBody PartCodeForm form) {
    String code = read(form);
    if (!database.fetchExists(PART, PART.ID.eq(id))) {
      throw new Refused(
          Rule.NOT_FOUND, "This part does not exist. Choose one from the price list.");
    }
    codes.note(act, code, id);
    return listPartCodes(act, id);
  }

  /** Says no more that a code stands for a part. */
  @PostMapping("/api/held-parts/{id}/codes/take-off")
  @Transactional
  public List<PartCode> takePartCodeOff(
      Act act, @PathVariable long id, @RequestBody PartCodeForm form) {
    codes.takeOff(read(form), id);
    return listPartCodes(act, id);
  }

  private static String read(PartCodeForm form) {
    var reading = new Reading();
    String code = PartCodes.read(reading, form.code());
    if (code == null && reading.faults().isEmpty()) {
      reading.fault("code", Rule.MISSING, "Scan the code on the box, or type it.");
    }
    reading.refuseIfFaulty();
    return Objects.requireNonNull(code);
  }
}
