package app.pragmata.server.rounds;

import static app.pragmata.server.generated.Tables.AGREEMENT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.ROUND;
import static app.pragmata.server.generated.Tables.ROUND_DATE;
import static app.pragmata.server.generated.Tables.SITE;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.server.records.Act;
import app.pragmata.server.records.AtVersion;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import app.pragmata.server.rounds.Agreements.AgreementForm;
import app.pragmata.server.rounds.Agreements.RoundForm;
import app.pragmata.server.rounds.RoundsApi.DueDate;
import java.time.LocalDate;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Agreements over HTTP. */
@RestController
class AgreementsApi {
  /**
   * What was agreed for work that comes again.
   *
   * @param until its last day; null for without end
   */
  record Agreement(
      long id,
      int version,
      long number,
      long customerId,
      String customer,
      String name,
      LocalDate from,
      @Nullable LocalDate until,
      List<AgreedRound> rounds) {}

  /**
   * Work that comes again.
   *
   * @param equipment its model and serial number; null for no piece in particular, as is its id
   * @param priceMinor what the customer pays each time, without VAT; null for by time and parts
   * @param withParts whether that pays for parts, too
   * @param until null for as long as the agreement
   * @param begun whether a job was opened for one of its days
   */
  record AgreedRound(
      long id,
      int version,
      long siteId,
      String site,
      @Nullable Long equipmentId,
      @Nullable String equipment,
      long kindOfJobId,
      String kindOfJob,
      String title,
      int expectedMinutes,
      @Nullable Long priceMinor,
      boolean withParts,
      String repeats,
      LocalDate from,
      @Nullable LocalDate until,
      boolean begun) {}

  private static final int MONTHS_BACK = 12;
  private static final int MONTHS_AHEAD = 12;

  private final Agreements service;
  private final DueDates dates;
  private final VersionStore versions;
  private final DSLContext database;

  AgreementsApi(Agreements service, DueDates dates, VersionStore versions, DSLContext database) {
    this.service = service;
    this.dates = dates;
    this.versions = versions;
    this.database = database;
  }

  /** All agreements with a customer, the newest first. */
  @GetMapping("/api/customers/{id}/agreements")
  List<Agreement> listAgreements(@PathVariable long id) {
    return fetch(AGREEMENT.CUSTOMER_ID.eq(id));
  }

  @GetMapping("/api/agreements/{id}")
  Agreement getAgreement(@PathVariable long id) {
    return fetch(AGREEMENT.ID.eq(id)).stream().findFirst().orElseThrow(Agreements::unknown);
  }

  /** The days of its rounds, from a year ago to a year ahead, in order. */
  @GetMapping("/api/agreements/{id}/dates")
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public List<DueDate> listAgreementDates(Act act, @PathVariable long id) {
    return dates.of(
        act, id, act.today().minusMonths(MONTHS_BACK), act.today().plusMonths(MONTHS_AHEAD));
  }

  @PostMapping("/api/customers/{id}/agreements")
  @Transactional
  public Changed makeAgreement(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody AgreementForm form) {
    return versions.changed(AGREEMENT.ID, service.make(act, key, id, form));
  }

  @PutMapping("/api/agreements/{id}")
  @Transactional
  public Changed changeAgreement(Act act, @PathVariable long id, @RequestBody AgreementForm form) {
    service.change(act, id, form);
    return versions.changed(AGREEMENT.ID, id);
  }

  @PostMapping("/api/agreements/{id}/rounds")
  @Transactional
  public Changed addRound(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody RoundForm form) {
    return versions.changed(ROUND.ID, service.add(act, key, id, form));
  }

  @PutMapping("/api/rounds/{id}")
  @Transactional
  public Changed changeRound(Act act, @PathVariable long id, @RequestBody RoundForm form) {
    service.changeRound(act, id, form);
    return versions.changed(ROUND.ID, id);
  }

  /** Takes away a round that has made nothing yet. */
  @PostMapping("/api/rounds/{id}/remove")
  void removeRound(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    service.removeRound(act, id, at.version());
  }

  private List<Agreement> fetch(Condition which) {
    return database
        .select(
            AGREEMENT.ID,
            AGREEMENT.VERSION,
            AGREEMENT.NUMBER,
            CUSTOMER.ID,
            CUSTOMER.NAME,
            AGREEMENT.NAME,
            AGREEMENT.FROM_DAY,
            AGREEMENT.UNTIL_DAY,
            rounds())
        .from(AGREEMENT)
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(AGREEMENT.CUSTOMER_ID))
        .where(which)
        .orderBy(AGREEMENT.ID.desc())
        .fetch(mapping(Agreement::new));
  }

  private static Field<List<AgreedRound>> rounds() {
    return multiset(
            select(
                    ROUND.ID,
                    ROUND.VERSION,
                    SITE.ID,
                    SITE.NAME,
                    EQUIPMENT.ID,
                    EQUIPMENT.MODEL.concat(", serial ").concat(EQUIPMENT.SERIAL_NUMBER),
                    KIND_OF_JOB.ID,
                    KIND_OF_JOB.NAME,
                    ROUND.TITLE,
                    ROUND.EXPECTED_MINUTES,
                    ROUND.PRICE_MINOR,
                    ROUND.WITH_PARTS,
                    ROUND.REPEATS,
                    ROUND.FROM_DAY,
                    ROUND.UNTIL_DAY,
                    field(
                        exists(
                            selectOne().from(ROUND_DATE).where(ROUND_DATE.ROUND_ID.eq(ROUND.ID)))))
                .from(ROUND)
                .join(SITE)
                .on(SITE.ID.eq(ROUND.SITE_ID))
                .leftJoin(EQUIPMENT)
                .on(EQUIPMENT.ID.eq(ROUND.EQUIPMENT_ID))
                .join(KIND_OF_JOB)
                .on(KIND_OF_JOB.ID.eq(ROUND.KIND_OF_JOB_ID))
                .where(ROUND.AGREEMENT_ID.eq(AGREEMENT.ID))
                .orderBy(ROUND.ID))
        .convertFrom(rows -> rows.map(mapping(AgreedRound::new)));
  }
}
