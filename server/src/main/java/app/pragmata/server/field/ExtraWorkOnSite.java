package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.EXTRA_WORK_OFFER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.quoting.Offer;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.PromiseStore;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.offers.OfferService;
import app.pragmata.server.offers.OfferService.YesForm;
import app.pragmata.server.quoting.OfferDocument;
import app.pragmata.server.quoting.QuoteForm;
import app.pragmata.server.quoting.QuoteService;
import app.pragmata.server.quoting.StoredQuote;
import app.pragmata.server.quoting.TypedLine;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Extra work that is found on site: priced from the price list, shown to the customer who stands
 * by, and signed. Only a yes makes it part of what the job promises; a no stays on record.
 */
@Service
@Transactional
class ExtraWorkOnSite {
  /** A part of the price list; the quantity as typed. */
  record ExtraPart(@Nullable Long partId, @Nullable String quantity) {}

  /**
   * What is to be done beside what is promised.
   *
   * @param quoteId the offer that this one takes the place of; null for a first one
   * @param time how long it takes, such as 1:30; empty for parts alone
   * @param warrantyExclusion why the equipment's warranty bears nothing of it; empty where it may
   */
  record FoundWorkForm(
      @Nullable Long quoteId,
      @Nullable String what,
      @Nullable String time,
      @Nullable List<ExtraPart> parts,
      @Nullable String warrantyExclusion) {}

  /**
   * An offer as the customer reads it.
   *
   * @param state of its quote: sent, accepted or declined
   */
  record ExtraWorkOffer(
      long quoteId,
      int edition,
      long number,
      String title,
      String state,
      List<OfferDocument.DocumentLine> lines,
      OfferDocument.Sum sum) {}

  private static final int LONGEST_WHAT = 120;
  private static final int MOST_PARTS = 30;

  private final DSLContext database;
  private final VisitStore visits;
  private final QuoteService quotes;
  private final OfferService offers;
  private final CompanyStore companies;
  private final RepeatableRequests repeats;

  ExtraWorkOnSite(
      DSLContext database,
      VisitStore visits,
      QuoteService quotes,
      OfferService offers,
      CompanyStore companies,
      RepeatableRequests repeats) {
    this.database = database;
    this.visits = visits;
    this.quotes = quotes;
    this.offers = offers;
    this.companies = companies;
    this.repeats = repeats;
  }

  /** Prices it and has it ready for the customer to read; gives the quote's id. */
  long offer(Act act, @Nullable String key, long visitId, FoundWorkForm form) {
    return repeats.once(
        act,
        key,
        "offer extra work",
        visitId + " " + form,
        () -> {
          LockedVisit visit = lockOwn(act, visitId);
          OwnVisit.requireRunning(visit);
          visit.job().requireUnbilled();
          long quoteId;
          if (form.quoteId() == null) {
            quoteId = quotes.create(act, key + " quote", typed(visit.job(), form, 0));
            database
                .insertInto(EXTRA_WORK_OFFER)
                .set(EXTRA_WORK_OFFER.QUOTE_ID, quoteId)
                .set(EXTRA_WORK_OFFER.VISIT_ID, visitId)
                .execute();
          } else {
            quoteId = form.quoteId();
            requireOf(visitId, quoteId);
            quotes.takeBack(act, quoteId, quotes.lock(quoteId).version());
            quotes.save(act, quoteId, typed(visit.job(), form, quotes.lock(quoteId).version()));
          }
          quotes.present(act, quoteId);
          return quoteId;
        });
  }

  private QuoteForm typed(LockedJob job, FoundWorkForm form, int version) {
    var reading = new Reading();
    String what = reading.text("what", form.what(), LONGEST_WHAT);
    List<ExtraPart> parts = form.parts() == null ? List.of() : form.parts();
    boolean timed = form.time() != null && !form.time().isBlank();
    if (!timed && parts.isEmpty()) {
      reading.fault("time", Rule.MISSING, "Say how long it takes, or which parts it takes.");
    }
    if (parts.size() > MOST_PARTS) {
      reading.fault(
          "parts", Rule.EXCEEDS_LIMIT, "At most 30 parts on one offer. Make a second one.");
    }
    if (parts.stream().anyMatch(part -> part == null || part.partId() == null)) {
      reading.fault("parts", Rule.MISSING, "Choose each part from the list.");
    }
    reading.refuseIfFaulty();
    var lines = new ArrayList<TypedLine>();
    if (timed) {
      lines.add(outOfWarranty(TypedLine.labour(Objects.requireNonNull(what), form.time()), form));
    }
    for (ExtraPart part : parts) {
      lines.add(
          outOfWarranty(
              TypedLine.part(
                  Objects.requireNonNull(part.partId()),
                  null,
                  Objects.requireNonNullElse(part.quantity(), "")),
              form));
    }
    PromiseKind promise =
        database.select(PromiseStore.kind(DSL.inline(job.id()))).fetchSingle().value1();
    return QuoteForm.plain(
            job.siteId(), job.equipmentId(), job.kindOfJobId(), Objects.requireNonNull(what), lines)
        .promising(version, promise);
  }

  private static TypedLine outOfWarranty(TypedLine.Writing line, FoundWorkForm form) {
    String why = form.warrantyExclusion();
    return why == null || why.isBlank() ? line.line() : line.warrantyExclusion(why).line();
  }

  /** The customer's yes, with their name and hand: it is part of what the job promises from now. */
  void accept(Act act, @Nullable String key, long visitId, long quoteId, YesForm form) {
    repeats.once(
        act,
        key,
        "accept extra work",
        visitId + " " + quoteId + " " + form.edition() + " " + form.name(),
        quoteId,
        () -> {
          LockedVisit visit = lockOwn(act, visitId);
          requireOf(visitId, quoteId);
          offers.accept(act, quoteId, form);
          quotes.extendJob(act, key + " job", quoteId, visit.job().id());
          visits.touch(act, visit, visit.state());
        });
  }

  /** The customer's no. */
  void decline(Act act, long visitId, long quoteId, int edition, @Nullable String reason) {
    LockedVisit visit = lockOwn(act, visitId);
    requireOf(visitId, quoteId);
    offers.decline(act, quoteId, edition, reason);
    visits.touch(act, visit, visit.state());
  }

  /** All that was offered on visits of the same job, the newest first. */
  @Transactional(readOnly = true)
  public List<ExtraWorkOffer> list(Act act, long visitId) {
    var job = VISIT.as("of_job");
    return database
        .select(EXTRA_WORK_OFFER.QUOTE_ID)
        .from(EXTRA_WORK_OFFER)
        .join(VISIT)
        .on(VISIT.ID.eq(EXTRA_WORK_OFFER.VISIT_ID))
        .join(job)
        .on(job.JOB_ID.eq(VISIT.JOB_ID))
        .where(job.ID.eq(visitId))
        .andExists(
            DSL.selectOne()
                .from(VISIT.join(JOB).on(JOB.ID.eq(VISIT.JOB_ID)))
                .where(VISIT.ID.eq(visitId).and(OwnVisit.ofCrew(VISIT, act.personId()))))
        .orderBy(EXTRA_WORK_OFFER.QUOTE_ID.desc())
        .fetch(EXTRA_WORK_OFFER.QUOTE_ID)
        .stream()
        .map(quoteId -> shown(act, quotes.get(quoteId)))
        .toList();
  }

  private ExtraWorkOffer shown(Act act, StoredQuote quote) {
    Offer offer = quotes.getOffer(quote, act.today());
    var wording = companies.getCompany().wording();
    return new ExtraWorkOffer(
        quote.id(),
        quote.edition(),
        quote.number(),
        quote.title(),
        quote.state(act).code().code(),
        OfferDocument.lines(offer, wording),
        OfferDocument.Sum.of(offer, wording));
  }

  private LockedVisit lockOwn(Act act, long visitId) {
    return OwnVisit.require(visits.lock(visitId), act.personId());
  }

  private void requireOf(long visitId, long quoteId) {
    if (!database.fetchExists(
        EXTRA_WORK_OFFER,
        EXTRA_WORK_OFFER.QUOTE_ID.eq(quoteId).and(EXTRA_WORK_OFFER.VISIT_ID.eq(visitId)))) {
      throw new Refused(
          Rule.NOT_FOUND, "This was not offered on this visit. Go back and look at it again.");
    }
  }
}
