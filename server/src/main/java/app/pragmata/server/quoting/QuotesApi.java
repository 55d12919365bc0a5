package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.Margin;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.quoting.Offer;
import app.pragmata.core.quoting.OfferLine;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.core.quoting.QuoteTotals;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.TaxedGroup;
import app.pragmata.server.generated.tables.records.QuoteRecord;
import app.pragmata.server.jobs.JobStore;
import app.pragmata.server.jobs.PromiseStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.AtVersion;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.Made;
import app.pragmata.server.records.VersionStore;
import app.pragmata.server.stores.StockStore;
import app.pragmata.server.stores.StockedPart;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Quotes over HTTP. */
@RestController
class QuotesApi {
  record QuoteSheet(
      long id,
      long number,
      int version,
      QuoteState.Code state,
      long customerId,
      String customer,
      long siteId,
      String site,
      @Nullable Long equipmentId,
      @Nullable String equipment,
      long kindOfJobId,
      String kindOfJob,
      String title,
      PromiseKind promise,
      LocalDate validUntil,
      String notes,
      String ownNotes,
      String discount,
      String deposit,
      int depositDueDays,
      List<QuoteForm.TypedStage> stages,
      int edition,
      List<SentEdition> editions,
      @Nullable CustomerLink link,
      List<QuestionStore.Asked> questions,
      List<QuoteLetters.SentLetter> letters,
      @Nullable String acceptedBy,
      @Nullable String declineReason,
      @Nullable Long jobNumber,
      List<RunningJob> runningJobs,
      List<TypedLine> lines,
      List<CostChange> costChanges,
      Computed computed) {}

  /**
   * A part of a draft that costs us something else by now than when the draft was saved.
   *
   * @param line its place among the lines
   * @param before per unit in minor units, rounded
   */
  record CostChange(int line, String description, long before, long now) {}

  /**
   * What the core makes of the lines, whole or still faulty: the totals are those of the lines that
   * can be read.
   */
  record Computed(
      List<ComputedLine> lines,
      Totals totals,
      long fullMinor,
      long depositMinor,
      List<Long> stageMinors,
      List<FieldFault> faults) {}

  /**
   * Null amounts where the line is only words or cannot be read yet.
   *
   * @param unitPrice in major units, to four decimals at most
   */
  record ComputedLine(
      @Nullable BigDecimal unitPrice,
      @Nullable Long costMinor,
      @Nullable Long netMinor,
      @Nullable Long marginMinor,
      @Nullable String vatCode,
      String warrantyPercent,
      long warrantyReductionMinor,
      boolean belowFloor) {}

  record Totals(
      long netMinor,
      List<TaxedGroup> vat,
      long vatMinor,
      long grossMinor,
      long costMinor,
      long marginMinor,
      @Nullable BigDecimal marginPercent,
      boolean belowFloor) {}

  /** A job of the same site and kind of promise, to which an accepted quote may be added. */
  record RunningJob(long id, long number, String title) {}

  record FieldFault(String field, Rule rule, String message) {}

  /**
   * The lines and, once they are chosen, the site, the equipment and the kind of job, by which
   * prices, warranty and VAT follow the customer and the work.
   *
   * @param quoteId of the quote that is changed; null for a new one
   */
  record PreviewForm(
      @Nullable Long quoteId,
      @Nullable Long siteId,
      @Nullable Long equipmentId,
      @Nullable Long kindOfJobId,
      @Nullable String discount,
      @Nullable String deposit,
      @Nullable List<QuoteForm.TypedStage> stages,
      List<TypedLine> lines) {}

  /** A sent edition; amounts in minor units. */
  record SentEdition(int edition, LocalDateTime sentAt, long netMinor, long costMinor) {}

  /** The customer's way in; opened is null while nobody has read it. */
  record CustomerLink(String address, @Nullable LocalDateTime openedAt, boolean withdrawn) {}

  record AnswerForm(@Nullable String answer) {}

  record AcceptForm(int version, @Nullable String acceptedBy) {}

  record DeclineForm(int version, @Nullable String reason) {}

  private final QuoteService service;
  private final QuoteStore quotes;
  private final CompanyStore companies;
  private final StockStore stock;
  private final EditionStore editions;
  private final LinkStore links;
  private final QuestionStore questions;
  private final QuoteLetters letters;
  private final QuotePdf pdf;
  private final VersionStore versions;
  private final DSLContext database;

  QuotesApi(
      QuoteService service,
      QuoteStore quotes,
      CompanyStore companies,
      StockStore stock,
      EditionStore editions,
      LinkStore links,
      QuestionStore questions,
      QuoteLetters letters,
      QuotePdf pdf,
      DSLContext database,
      VersionStore versions) {
    this.versions = versions;
    this.service = service;
    this.quotes = quotes;
    this.companies = companies;
    this.stock = stock;
    this.editions = editions;
    this.links = links;
    this.questions = questions;
    this.letters = letters;
    this.pdf = pdf;
    this.database = database;
  }

  @GetMapping("/api/quotes/{id}")
  QuoteSheet getQuote(Act act, @PathVariable long id) {
    var row =
        database
            .select(
                QUOTE,
                CUSTOMER.NAME,
                SITE.NAME,
                SITE.ADDRESS,
                EQUIPMENT.MODEL,
                EQUIPMENT.SERIAL_NUMBER,
                KIND_OF_JOB.NAME,
                JOB.NUMBER)
            .from(QUOTE)
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(QUOTE.CUSTOMER_ID))
            .join(SITE)
            .on(SITE.ID.eq(QUOTE.SITE_ID))
            .join(KIND_OF_JOB)
            .on(KIND_OF_JOB.ID.eq(QUOTE.KIND_OF_JOB_ID))
            .leftJoin(EQUIPMENT)
            .on(EQUIPMENT.ID.eq(QUOTE.EQUIPMENT_ID))
            .leftJoin(ACCEPTED_QUOTE)
            .on(ACCEPTED_QUOTE.QUOTE_ID.eq(QUOTE.ID))
            .leftJoin(JOB)
            .on(JOB.ID.eq(ACCEPTED_QUOTE.JOB_ID))
            .where(QUOTE.ID.eq(id))
            .fetchOne();
    if (row == null) {
      throw new Refused(
          Rule.NOT_FOUND, "This quote does not exist. Find the right one with / and its number.");
    }
    QuoteRecord quote = row.value1();
    Offer offer = quotes.getOffer(quote, act.today());
    return new QuoteSheet(
        id,
        quote.getNumber(),
        quote.getVersion(),
        QuoteService.state(quote, act).code(),
        quote.getCustomerId(),
        row.value2(),
        quote.getSiteId(),
        row.value3() + ", " + row.value4(),
        quote.getEquipmentId(),
        row.value5() == null ? null : row.value5() + ", " + row.value6(),
        quote.getKindOfJobId(),
        row.value7(),
        quote.getTitle(),
        quote.getPromise(),
        quote.getValidUntil(),
        quote.getNotes(),
        quote.getOwnNotes(),
        offer.discount().text(),
        offer.deposit().text(),
        quote.getDepositDueDays(),
        QuoteForm.TypedStage.listOf(offer),
        quote.getEdition(),
        editions.list(id).stream()
            .map(
                sent ->
                    new SentEdition(
                        sent.edition(),
                        LocalDateTime.ofInstant(sent.sentAt(), act.zone()),
                        sent.netMinor(),
                        sent.costMinor()))
            .toList(),
        link(act, id),
        questions.list(act, id),
        letters.list(id),
        quote.getAcceptedBy(),
        quote.getDeclineReason(),
        row.value8(),
        row.value8() == null && quote.getState() == QuoteState.Code.ACCEPTED
            ? runningJobs(quote)
            : List.of(),
        offer.lines().stream().map(TypedLine::of).toList(),
        quote.getState() == QuoteState.Code.DRAFT ? costChanges(offer) : List.of(),
        computed(offer, offer.lines(), offer.faults(), companies.getCompany()));
  }

  private List<RunningJob> runningJobs(QuoteRecord quote) {
    return database
        .select(JOB.ID, JOB.NUMBER, JOB.TITLE)
        .from(JOB)
        .where(JOB.SITE_ID.eq(quote.getSiteId()))
        .and(JobStore.running())
        .and(PromiseStore.kind(JOB.ID).eq(quote.getPromise()))
        .orderBy(JOB.NUMBER.desc())
        .fetch(Records.mapping(RunningJob::new));
  }

  private List<CostChange> costChanges(Offer offer) {
    var changes = new ArrayList<CostChange>();
    Map<Long, StockedPart> parts =
        stock.list(
            offer.lines().stream()
                .flatMap(line -> part(line).stream())
                .map(QuoteLine.Part::partId)
                .toList());
    for (int i = 0; i < offer.lines().size(); i++) {
      int place = i;
      part(offer.lines().get(i))
          .ifPresent(
              quoted -> {
                Money before = Money.rounded(quoted.unitCost());
                Money now =
                    Money.rounded(
                        Objects.requireNonNull(parts.get(quoted.partId())).expectedCost());
                if (!before.equals(now)) {
                  changes.add(
                      new CostChange(place, quoted.description(), before.minor(), now.minor()));
                }
              });
    }
    return changes;
  }

  private static Optional<QuoteLine.Part> part(OfferLine line) {
    return line instanceof OfferLine.Priced priced && priced.line() instanceof QuoteLine.Part quoted
        ? Optional.of(quoted)
        : Optional.empty();
  }

  private @Nullable CustomerLink link(Act act, long quoteId) {
    return links
        .find(quoteId)
        .map(
            link ->
                new CustomerLink(
                    links.address(link.getToken()),
                    link.getOpenedAt() == null
                        ? null
                        : LocalDateTime.ofInstant(link.getOpenedAt(), act.zone()),
                    link.getWithdrawnAt() != null))
        .orElse(null);
  }

  /** The quote as its customer will read it, or reads it. */
  @GetMapping("/api/quotes/{id}/document")
  OfferDocument getQuoteDocument(Act act, @PathVariable long id) {
    QuoteRecord quote = quotes.get(id);
    return quote.getState() == QuoteState.Code.DRAFT
        ? editions.draft(act, quote, quotes.getOffer(quote, act.today()), companies.getCompany())
        : editions.get(id, quote.getEdition());
  }

  @GetMapping("/api/quotes/{id}/pdf")
  ResponseEntity<byte[]> quotePdf(Act act, @PathVariable long id) {
    OfferDocument document = getQuoteDocument(act, id);
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_PDF)
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "inline; filename=\"%s\""
                .formatted(document.wording().say(Phrase.FILE_QUOTE, document.number())))
        .body(pdf.print(document));
  }

  /** What changed between two sent editions. */
  @GetMapping("/api/quotes/{id}/comparison")
  EditionComparison compareEditions(
      @PathVariable long id, @RequestParam int before, @RequestParam int after) {
    return EditionComparison.of(editions.get(id, before), editions.get(id, after));
  }

  @PostMapping("/api/quotes/{id}/withdraw-link")
  QuoteSheet withdrawLink(Act act, @PathVariable long id) {
    service.withdrawLink(act, id);
    return getQuote(act, id);
  }

  @PostMapping("/api/quote-questions/{id}/answer")
  Made answerQuestion(Act act, @PathVariable long id, @RequestBody AnswerForm form) {
    service.answer(act, id, form.answer());
    return new Made(id);
  }

  /**
   * Computes lines as they are being typed and stores nothing; faults come beside the figures, not
   * instead of them.
   */
  @PostMapping("/api/quotes/preview")
  Computed previewQuote(Act act, @RequestBody PreviewForm form) {
    var reading = new Reading();
    Company company = companies.getCompany();
    QuoteReader reader =
        service.readerAt(
            form.quoteId(),
            form.siteId(),
            form.equipmentId(),
            form.kindOfJobId(),
            act.today(),
            reading);
    List<@Nullable OfferLine> lines = reader.read(form.lines());
    var offer =
        new Offer(
            lines.stream().filter(Objects::nonNull).toList(),
            reader.amountOrShare("discount", form.discount()),
            reader.amountOrShare("deposit", form.deposit()),
            reader.stages(form.stages()));
    return computed(
        offer,
        lines,
        Stream.concat(reading.faults().stream(), offer.faults().stream()).toList(),
        company);
  }

  private static Computed computed(
      Offer offer, List<? extends @Nullable OfferLine> lines, List<Fault> faults, Company company) {
    QuoteTotals totals = offer.totals();
    var shown = new ArrayList<>(offer.shown());
    return new Computed(
        lines.stream()
            .map(
                line ->
                    line instanceof OfferLine.Priced priced
                        ? computed(priced.warranty().covered(), shown.removeFirst(), company)
                        : new ComputedLine(null, null, null, null, null, "0", 0, false))
            .toList(),
        new Totals(
            totals.vat().net().minor(),
            TaxedGroup.of(totals.vat(), company.wording()),
            totals.vat().vat().minor(),
            totals.vat().gross().minor(),
            totals.cost().minor(),
            totals.margin().amount().minor(),
            totals.margin().percent(),
            belowFloor(totals.margin(), company)),
        offer.promised().stream().map(QuoteLine::full).collect(Money.sum()).minor(),
        offer.depositDue().minor(),
        offer.stageAmounts().stream().map(Money::minor).toList(),
        faults.stream().map(f -> new FieldFault(f.field(), f.rule(), f.message())).toList());
  }

  private static ComputedLine computed(Share covered, QuoteLine line, Company company) {
    Margin margin = new Margin(line.net(), line.cost());
    return new ComputedLine(
        line.unitPrice().major(),
        line.cost().minor(),
        line.net().minor(),
        margin.amount().minor(),
        line.vatTreatment().code(),
        covered.percent(),
        line.reductions().warranty().minor(),
        belowFloor(margin, company));
  }

  private static boolean belowFloor(Margin margin, Company company) {
    BigDecimal percent = margin.percent();
    return percent == null
        ? margin.cost().compareTo(Money.ZERO) > 0
        : percent.compareTo(company.quoting().floorMarginPercent()) < 0;
  }

  @PostMapping("/api/quotes")
  @Transactional
  Changed createQuote(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody QuoteForm form) {
    return versions.changed(QUOTE.ID, service.create(act, key, form));
  }

  @PostMapping("/api/quotes/{id}/copy")
  @Transactional
  Changed copyQuote(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id) {
    return versions.changed(QUOTE.ID, service.copy(act, key, id));
  }

  /** A draft from what a job really took, at today's costs and prices. */
  @PostMapping("/api/jobs/{id}/quote")
  @Transactional
  Changed quoteLikeJob(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id) {
    return versions.changed(QUOTE.ID, service.quoteLikeJob(act, key, id));
  }

  @PutMapping("/api/quotes/{id}")
  QuoteSheet saveQuote(Act act, @PathVariable long id, @RequestBody QuoteForm form) {
    service.save(act, id, form);
    return getQuote(act, id);
  }

  /** What is sent: as stored at this version, or as typed, which is saved with it or not at all. */
  record SendForm(int version, @Nullable QuoteForm quote) {}

  @PostMapping("/api/quotes/{id}/send")
  QuoteSheet sendQuote(Act act, @PathVariable long id, @RequestBody SendForm form) {
    service.send(act, id, form.version(), form.quote());
    return getQuote(act, id);
  }

  @PostMapping("/api/quotes/{id}/take-back")
  QuoteSheet takeBack(Act act, @PathVariable long id, @RequestBody AtVersion form) {
    service.takeBack(act, id, form.version());
    return getQuote(act, id);
  }

  @PostMapping("/api/quotes/{id}/accept")
  QuoteSheet acceptQuote(Act act, @PathVariable long id, @RequestBody AcceptForm form) {
    service.accept(act, id, form.version(), form.acceptedBy());
    return getQuote(act, id);
  }

  @PostMapping("/api/quotes/{id}/decline")
  QuoteSheet declineQuote(Act act, @PathVariable long id, @RequestBody DeclineForm form) {
    service.decline(act, id, form.version(), form.reason());
    return getQuote(act, id);
  }

  @PostMapping("/api/quotes/{id}/job")
  @Transactional
  Changed makeJob(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id) {
    return versions.changed(JOB.ID, service.makeJob(act, key, id));
  }

  record ExtraWorkForm(@Nullable Long jobId) {}

  @PostMapping("/api/quotes/{id}/extra-work")
  @Transactional
  Changed extendJob(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody ExtraWorkForm form) {
    return versions.changed(JOB.ID, service.extendJob(act, key, id, form.jobId()));
  }
}
