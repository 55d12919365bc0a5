package app.pragmata.server.claims;

import static app.pragmata.server.generated.Tables.OTHER_COST;
import static app.pragmata.server.generated.Tables.WARRANTY_CLAIM;

import app.pragmata.core.claims.ClaimState;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.AtVersion;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import java.time.LocalDate;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Claims on manufacturers' warranties over HTTP. Money is in minor units, without VAT. */
@RestController
class ClaimsApi {
  /**
   * What a manufacturer is asked to bear of a job.
   *
   * @param sentOn null until it is
   * @param decidedOn when they credited or refused it; null until then
   * @param creditedMinor null unless they did
   * @param reason why they refused it; empty for none
   */
  record WarrantyClaim(
      long id,
      int version,
      String manufacturer,
      String what,
      long claimedMinor,
      ClaimState state,
      LocalDate madeOn,
      @Nullable LocalDate sentOn,
      @Nullable LocalDate decidedOn,
      @Nullable Long creditedMinor,
      String reason) {}

  /** What is claimed, from whom and for what; the amount as typed, without VAT. */
  record ClaimForm(@Nullable String manufacturer, @Nullable String what, @Nullable String amount) {}

  /** What they bear of it, as typed. */
  record ClaimCreditForm(int version, @Nullable String amount) {}

  /** Why they bear nothing of it. */
  record ClaimRefusedForm(int version, @Nullable String reason) {}

  private final WarrantyClaims service;
  private final VersionStore versions;
  private final DSLContext database;

  ClaimsApi(WarrantyClaims service, VersionStore versions, DSLContext database) {
    this.service = service;
    this.versions = versions;
    this.database = database;
  }

  /** All claims of a job, the oldest first. */
  @GetMapping("/api/jobs/{id}/claims")
  List<WarrantyClaim> listClaims(@PathVariable long id) {
    return database
        .select(
            WARRANTY_CLAIM.ID,
            WARRANTY_CLAIM.VERSION,
            WARRANTY_CLAIM.MANUFACTURER,
            WARRANTY_CLAIM.WHAT,
            WARRANTY_CLAIM.CLAIMED_MINOR,
            WARRANTY_CLAIM.STATE,
            WARRANTY_CLAIM.MADE_ON,
            WARRANTY_CLAIM.SENT_ON,
            WARRANTY_CLAIM.DECIDED_ON,
            OTHER_COST.COST_MINOR.neg(),
            WARRANTY_CLAIM.REASON)
        .from(WARRANTY_CLAIM)
        .leftJoin(OTHER_COST)
        .on(OTHER_COST.ID.eq(WARRANTY_CLAIM.OTHER_COST_ID))
        .where(WARRANTY_CLAIM.JOB_ID.eq(id))
        .orderBy(WARRANTY_CLAIM.ID)
        .fetch(Records.mapping(WarrantyClaim::new));
  }

  @PostMapping("/api/jobs/{id}/claims")
  @Transactional
  public Changed makeClaim(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody ClaimForm form) {
    return versions.changed(WARRANTY_CLAIM.ID, service.make(act, key, id, form));
  }

  /** It went to the manufacturer, also again. */
  @PostMapping("/api/claims/{id}/send")
  @Transactional
  public Changed noteClaimSent(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    service.send(act, id, at.version());
    return versions.changed(WARRANTY_CLAIM.ID, id);
  }

  /** They credited it: the job's cost is less by that, and so the books say. */
  @PostMapping("/api/claims/{id}/credit")
  @Transactional
  public Changed noteClaimCredited(
      Act act, @PathVariable long id, @RequestBody ClaimCreditForm form) {
    service.credit(act, id, form.version(), form.amount());
    return versions.changed(WARRANTY_CLAIM.ID, id);
  }

  /** They bear nothing of it. */
  @PostMapping("/api/claims/{id}/refuse")
  @Transactional
  public Changed noteClaimRefused(
      Act act, @PathVariable long id, @RequestBody ClaimRefusedForm form) {
    service.refuse(act, id, form.version(), form.reason());
    return versions.changed(WARRANTY_CLAIM.ID, id);
  }
}
