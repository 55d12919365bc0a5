package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.SITE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.quoting.LineKind;
import app.pragmata.core.quoting.Offer;
import app.pragmata.core.quoting.OfferLine;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.core.quoting.QuoteTotals;
import app.pragmata.core.stores.ChargeOutPrice;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.customers.Sites;
import app.pragmata.server.generated.tables.records.JobRecord;
import app.pragmata.server.generated.tables.records.QuoteRecord;
import app.pragmata.server.jobs.JobCharges;
import app.pragmata.server.jobs.JobOpening;
import app.pragmata.server.jobs.JobStore;
import app.pragmata.server.jobs.PromiseStore;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.NumberSeries;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import app.pragmata.server.stores.StockStore;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Takes a quote from draft to job; each step is one transaction. */
@Service
@Transactional
public class QuoteService {
  private static final int LONGEST_NOTES = 4_000;
  private static final int SHORTEST_VISIT = 5;
  private static final int LONGEST_FIRST_VISIT = 480;

  private final DSLContext database;
  private final Sites sites;
  private final QuoteStore quotes;
  private final CompanyStore companies;
  private final StockStore stock;
  private final JobOpening jobs;
  private final JobStore wholeJobs;
  private final PromiseStore promises;
  private final NumberSeries numbers;
  private final RepeatableRequests repeats;
  private final EditionStore editions;
  private final LinkStore links;
  private final QuoteLetters letters;
  private final QuestionStore questions;
  private final WorkedJobs workedJobs;
  private final KitStore kits;
  private final Events events;

  QuoteService(
      DSLContext database,
      Sites sites,
      QuoteStore quotes,
      CompanyStore companies,
      StockStore stock,
      JobOpening jobs,
      JobStore wholeJobs,
      PromiseStore promises,
      NumberSeries numbers,
      RepeatableRequests repeats,
      EditionStore editions,
      LinkStore links,
      QuoteLetters letters,
      QuestionStore questions,
      WorkedJobs workedJobs,
      KitStore kits,
      Events events) {
    this.database = database;
    this.sites = sites;
    this.quotes = quotes;
    this.companies = companies;
    this.stock = stock;
    this.jobs = jobs;
    this.wholeJobs = wholeJobs;
    this.promises = promises;
    this.numbers = numbers;
    this.repeats = repeats;
    this.editions = editions;
    this.links = links;
    this.letters = letters;
    this.questions = questions;
    this.workedJobs = workedJobs;
    this.kits = kits;
    this.events = events;
  }

  /** A new draft; gives its id. */
  public long create(Act act, @Nullable String key, QuoteForm form) {
    return repeats.once(act, key, "create quote", form, () -> insert(act, form));
  }

  private long insert(Act act, QuoteForm form) {
    Entered entered = read(act, form, act.today(), companies.getCompany());
    QuoteRecord row = database.newRecord(QUOTE);
    fill(row, entered);
    row.setNumber(numbers.next(NumberSeries.Series.QUOTE));
    row.setState(QuoteState.Code.DRAFT);
    row.setCreatedAt(act.at());
    events.store(act, QuoteEvent.CREATED, row, told(List.of(), entered.offer().lines()));
    quotes.replaceOffer(row.getId(), entered.offer());
    return row.getId();
  }

  /** A new draft like another quote, at today's costs and prices; gives its id. */
  public long copy(Act act, @Nullable String key, long quoteId) {
    return repeats.once(
        act,
        key,
        "copy quote",
        quoteId,
        () -> {
          QuoteRecord like = quotes.get(quoteId);
          Offer offer = quotes.getOffer(like, act.today());
          return insert(
              act,
              new QuoteForm(
                  0,
                  like.getSiteId(),
                  like.getEquipmentId(),
                  like.getKindOfJobId(),
                  like.getTitle(),
                  like.getPromise(),
                  null,
                  like.getNotes(),
                  like.getOwnNotes(),
                  offer.discount().text(),
                  offer.deposit().text(),
                  String.valueOf(like.getDepositDueDays()),
                  QuoteForm.TypedStage.listOf(offer),
                  atTodaysPrice(act, offer)));
        });
  }

  /** A new draft of what a job really took, at today's costs and prices; gives its id. */
  public long quoteLikeJob(Act act, @Nullable String key, long jobId) {
    return repeats.once(
        act,
        key,
        "quote like job",
        jobId,
        () -> {
          JobRecord job = getJob(jobId);
          List<TypedLine> lines = workedJobs.list(jobId, companies.getCompany().wording());
          if (lines.isEmpty()) {
            throw new Refused(
                Rule.NO_LINES, "Nothing was worked on this job yet that could be quoted again.");
          }
          return insert(
              act,
              QuoteForm.plain(
                  job.getSiteId(),
                  job.getEquipmentId(),
                  job.getKindOfJobId(),
                  job.getTitle(),
                  lines));
        });
  }

  private JobRecord getJob(long jobId) {
    return database
        .selectFrom(JOB)
        .where(JOB.ID.eq(jobId))
        .fetchOptional()
        .orElseThrow(
            () ->
                new Refused(
                    Rule.NOT_FOUND,
                    "This job does not exist. Find the right one with / and its number."));
  }

  /** Stores a draft as it was typed; refused, with nothing stored, when anything in it is wrong. */
  public void save(Act act, long id, QuoteForm form) {
    QuoteRecord quote = quotes.lock(id);
    Versions.require(form.version(), quote.getVersion());
    if (!(state(quote, act) instanceof QuoteState.Draft)) {
      throw new Refused(
          Rule.QUOTE_NOT_DRAFT, "Only a draft can be changed. Take the quote back first.");
    }
    Entered entered = read(act, form, quotedOn(quote), companies.getCompany());
    List<OfferLine> before = quotes.getOffer(quote, act.today()).lines();
    fill(quote, entered);
    events.store(act, QuoteEvent.SAVED, quote, told(before, entered.offer().lines()));
    quotes.replaceOffer(id, entered.offer());
  }

  /**
   * Freezes the edition and lets the customer have it: by mail with the PDF and the link, where an
   * address is known.
   *
   * @param typed what is to be saved first; null sends the draft as it is stored
   */
  public void send(Act act, long id, int version, @Nullable QuoteForm typed) {
    if (typed != null) {
      save(act, id, typed);
    }
    QuoteRecord quote = typed == null ? lockShown(id, version) : quotes.lock(id);
    OfferDocument document = freeze(act, quote);
    letters.send(act, quote, document, links.address(links.open(id, act.at())));
    events.store(act, QuoteEvent.SENT, quote);
  }

  /** Freezes the edition for a customer who reads it on our screen: nothing goes out. */
  public void present(Act act, long id) {
    QuoteRecord quote = quotes.lock(id);
    freeze(act, quote);
    events.store(act, QuoteEvent.SENT, quote);
  }

  private OfferDocument freeze(Act act, QuoteRecord quote) {
    if (!(state(quote, act) instanceof QuoteState.Draft draft)) {
      throw new Refused(Rule.QUOTE_SENT, "This quote was sent before.");
    }
    Offer offer = quotes.getOffer(quote, act.today());
    draft.send(offer, quote.getValidUntil(), act.today());
    offer.totals().vat().requireVatNumber(vatNumberOf(quote.getCustomerId()));
    quote.setState(QuoteState.Code.SENT);
    quote.setSentAt(act.at());
    OfferDocument document = editions.draft(act, quote, offer, companies.getCompany());
    editions.freeze(act, quote, offer, document);
    return document;
  }

  private String vatNumberOf(long customerId) {
    return database
        .select(CUSTOMER.VAT_NUMBER)
        .from(CUSTOMER)
        .where(CUSTOMER.ID.eq(customerId))
        .fetchSingle(CUSTOMER.VAT_NUMBER);
  }

  /** Back to a draft, to be changed and sent again as the next edition. */
  public void takeBack(Act act, long id, int version) {
    QuoteRecord quote = lockShown(id, version);
    QuoteState state = state(quote, act);
    if (!(state instanceof QuoteState.Sent || state instanceof QuoteState.Lapsed)) {
      throw new Refused(Rule.QUOTE_NOT_SENT, "Only a sent quote can be taken back.");
    }
    quote.setState(QuoteState.Code.DRAFT);
    quote.setSentAt(null);
    quote.setEdition((short) (quote.getEdition() + 1));
    events.store(act, QuoteEvent.TAKEN_BACK, quote);
  }

  /** The customer's yes as the office heard it, with the name of who said it. */
  public void accept(Act act, long id, int version, @Nullable String acceptedBy) {
    var reading = new Reading();
    String name = reading.text("acceptedBy", acceptedBy, 100);
    reading.refuseIfFaulty();
    QuoteRecord quote = lockShown(id, version);
    requireSent(quote, act).accept();
    storeYes(act, quote, Objects.requireNonNull(name), "office");
  }

  /** The customer's own yes to the lines that they chose. */
  public void acceptByCustomer(Act act, StoredQuote answered, Offer chosen, String name) {
    QuoteRecord quote = answered.row();
    requireSent(quote, act).accept();
    quotes.storeChoice(quote.getId(), chosen);
    QuoteTotals totals = chosen.totals();
    quote.setNetMinor(totals.vat().net().minor());
    quote.setVatMinor(totals.vat().vat().minor());
    quote.setCostMinor(totals.cost().minor());
    storeYes(act, quote, name, "customer");
  }

  private void storeYes(Act act, QuoteRecord quote, String name, String answeredBy) {
    quote.setState(QuoteState.Code.ACCEPTED);
    quote.setDecidedAt(act.at());
    quote.setAcceptedBy(name);
    quote.setAnsweredBy(answeredBy);
    events.store(act, QuoteEvent.ACCEPTED, quote);
  }

  /** The customer's own no. */
  public void declineByCustomer(Act act, StoredQuote answered, String reason) {
    QuoteRecord quote = answered.row();
    requireSent(quote, act).decline();
    storeNo(act, quote, reason, "customer");
  }

  private void storeNo(Act act, QuoteRecord quote, String reason, String answeredBy) {
    quote.setState(QuoteState.Code.DECLINED);
    quote.setDecidedAt(act.at());
    quote.setDeclineReason(reason);
    quote.setAnsweredBy(answeredBy);
    events.store(act, QuoteEvent.DECLINED, quote, About.because(reason));
  }

  /** The quote as it is stored; refused when there is none. */
  @Transactional(readOnly = true)
  public StoredQuote get(long quoteId) {
    return new StoredQuote(quotes.get(quoteId));
  }

  /** The same, locked until the transaction ends. */
  public StoredQuote lock(long quoteId) {
    return new StoredQuote(quotes.lock(quoteId));
  }

  /** What a quote offers, with what the customer chose. */
  @Transactional(readOnly = true)
  public Offer getOffer(StoredQuote quote, LocalDate today) {
    return quotes.getOffer(quote.row(), today);
  }

  /** Nobody reads the quote behind its link any more; sending it again makes another link. */
  public void withdrawLink(Act act, long quoteId) {
    quotes.lock(quoteId);
    links.withdraw(quoteId, act.at());
    events.tell(act, QuoteEvent.LINK_WITHDRAWN, quoteId, About.NOTHING);
  }

  /** Answers what the customer asked; the to-do of it is done, and the answer goes out by mail. */
  public void answer(Act act, long questionId, @Nullable String typed) {
    var reading = new Reading();
    String answer = reading.text("answer", typed, LONGEST_NOTES);
    reading.refuseIfFaulty();
    long quoteId = questions.answer(act, questionId, Objects.requireNonNull(answer));
    events.tell(
        act,
        QuoteEvent.QUESTION_ANSWERED,
        quoteId,
        About.NOTHING.with(Map.of(), Map.of("answer", answer)));
  }

  public void decline(Act act, long id, int version, @Nullable String reason) {
    var reading = new Reading();
    String why = reading.text("reason", reason, 300);
    reading.refuseIfFaulty();
    QuoteRecord quote = lockShown(id, version);
    requireSent(quote, act).decline();
    storeNo(act, quote, Objects.requireNonNull(why), "office");
  }

  /**
   * Makes the job of an accepted quote, with a first visit that waits for a time; once, however
   * often it is asked.
   */
  public long makeJob(Act act, @Nullable String key, long quoteId) {
    return repeats.once(
        act,
        key,
        "make job",
        quoteId,
        () -> {
          QuoteRecord quote = quotes.lock(quoteId);
          Optional<Long> made = promises.findJob(quoteId);
          if (made.isPresent()) {
            return made.get();
          }
          requireAccepted(act, quote);
          return openJob(act, quote);
        });
  }

  /**
   * Makes an accepted quote part of what a running job promises: extra work. Gives the job's id,
   * also when it was done before.
   */
  public long extendJob(Act act, @Nullable String key, long quoteId, @Nullable Long jobId) {
    return repeats.once(
        act,
        key,
        "extend job",
        quoteId + " " + jobId,
        () -> {
          var reading = new Reading();
          if (jobId == null) {
            reading.fault("jobId", Rule.MISSING, "Choose the job that this work belongs to.");
          }
          reading.refuseIfFaulty();
          QuoteRecord quote = quotes.lock(quoteId);
          Optional<Long> made = promises.findJob(quoteId);
          if (made.isPresent() && !made.get().equals(jobId)) {
            throw new Refused(
                Rule.QUOTE_IN_A_JOB, "Another job was made of this quote. Reload the page.");
          }
          if (made.isEmpty()) {
            requireAccepted(act, quote);
            Offer offer = quotes.getOffer(quote, act.today());
            jobs.extend(
                act,
                Objects.requireNonNull(jobId),
                quote.getSiteId(),
                promise(quote, offer),
                visitMinutes(offer));
          }
          return Objects.requireNonNull(jobId);
        });
  }

  private static void requireAccepted(Act act, QuoteRecord quote) {
    if (!(state(quote, act) instanceof QuoteState.Accepted)) {
      throw new Refused(
          Rule.QUOTE_NOT_ACCEPTED,
          "Only an accepted quote becomes a job. Record the customer's answer first.");
    }
  }

  private JobOpening.NewPromise promise(QuoteRecord quote, Offer offer) {
    return new JobOpening.NewPromise(
        new PromiseStore.Accepted(
            quote.getId(),
            quote.getNumber(),
            quote.getPromise(),
            quote.getDecidedAt(),
            quote.getAcceptedBy(),
            quotedOn(quote),
            quote.getNetMinor()),
        offer.promised(),
        quote.getPromise() == PromiseKind.FIXED_PRICE ? offer.promisedStages() : List.of());
  }

  /** The length of a first visit for what is offered; null takes the kind of job's. */
  private static @Nullable Integer visitMinutes(Offer offer) {
    int quoted =
        offer.promised().stream()
            .mapToInt(line -> line instanceof QuoteLine.Labour labour ? labour.minutes() : 0)
            .sum();
    return quoted < SHORTEST_VISIT ? null : Integer.valueOf(Math.min(quoted, LONGEST_FIRST_VISIT));
  }

  private long openJob(Act act, QuoteRecord quote) {
    Offer offer = quotes.getOffer(quote, act.today());
    return jobs.open(
        act,
        new JobOpening.NewJob(
            quote.getCustomerId(),
            quote.getSiteId(),
            quote.getEquipmentId(),
            promise(quote, offer),
            quote.getKindOfJobId(),
            quote.getTitle(),
            quote.getOwnNotes(),
            null,
            null,
            visitMinutes(offer),
            null,
            null,
            List.of()));
  }

  /**
   * What jobs of a kind are charged by time and parts besides the work: the lines of its kit that
   * are neither labour, drive nor parts and cost us nothing of their own.
   */
  public List<JobCharges.NewCharge> chargesOfKind(Act act, long kindOfJobId) {
    Long kit =
        database
            .select(KIND_OF_JOB.KIT_ID)
            .from(KIND_OF_JOB)
            .where(KIND_OF_JOB.ID.eq(kindOfJobId))
            .fetchOne(KIND_OF_JOB.KIT_ID);
    if (kit == null) {
      return List.of();
    }
    List<TypedLine> typed =
        kits.lines(kit).stream().filter(line -> line.category() == LineKind.OTHER).toList();
    QuoteReader reader = reader(null, kindOfJobId, Cover.NONE, act.today(), new Reading());
    List<@Nullable OfferLine> lines = reader.read(typed);
    var charges = new ArrayList<JobCharges.NewCharge>();
    for (int i = 0; i < lines.size(); i++) {
      if (lines.get(i) instanceof OfferLine.Priced priced
          && priced.line() instanceof QuoteLine.Other other
          && other.unitCost().isZero()) {
        String vat = typed.get(i).vat();
        charges.add(
            new JobCharges.NewCharge(
                other.description(),
                other.quantity(),
                other.unitPrice(),
                vat == null || vat.isEmpty() ? null : vat));
      }
    }
    return charges;
  }

  /**
   * What a quote begins with.
   *
   * @param likeJobId an earlier job of which it takes over what was quoted, or else what it took,
   *     at today's prices; null, or a job on which nothing was worked, begins with labour of the
   *     kind's length and a call-out
   */
  public record Beginning(
      long siteId,
      @Nullable Long equipmentId,
      long kindOfJobId,
      String title,
      @Nullable Long likeJobId) {}

  /** A new draft inside the caller's transaction; gives its id. */
  public long begin(Act act, Beginning beginning) {
    List<TypedLine> lines =
        beginning.likeJobId() == null ? List.of() : linesLike(act, getJob(beginning.likeJobId()));
    return insert(
        act,
        QuoteForm.plain(
            beginning.siteId(),
            beginning.equipmentId(),
            beginning.kindOfJobId(),
            beginning.title(),
            lines.isEmpty() ? firstLines(beginning.kindOfJobId()) : lines));
  }

  private List<TypedLine> linesLike(Act act, JobRecord job) {
    List<TypedLine> quoted =
        promises.list(job.getId()).stream()
            .flatMap(
                accepted ->
                    atTodaysPrice(act, quotes.getOffer(quotes.get(accepted.quoteId()), act.today()))
                        .stream())
            .toList();
    return quoted.isEmpty()
        ? workedJobs.list(job.getId(), companies.getCompany().wording())
        : quoted;
  }

  private List<TypedLine> firstLines(long kindOfJobId) {
    var kind =
        database
            .select(KIND_OF_JOB.DEFAULT_MINUTES, KIND_OF_JOB.KIT_ID)
            .from(KIND_OF_JOB)
            .where(KIND_OF_JOB.ID.eq(kindOfJobId))
            .fetchSingle();
    if (kind.value2() != null) {
      return kits.lines(kind.value2());
    }
    Wording wording = companies.getCompany().wording();
    return List.of(
        TypedLine.labour(wording.say(Phrase.LABOUR), Minutes.text(kind.value1())).line(),
        TypedLine.drive(wording.say(Phrase.CALL_OUT), "0:30", "10").line());
  }

  private List<TypedLine> atTodaysPrice(Act act, Offer offer) {
    DriveCharge companyRule = companies.getCompany().terms().charge().on(act.today()).drive();
    return offer.lines().stream()
        .map(line -> TypedLine.of(line).atTodaysPrice(companyRule))
        .toList();
  }

  /** Where a stored quote stands on the act's day. */
  static QuoteState state(QuoteRecord quote, Act act) {
    return switch (quote.getState()) {
      case DRAFT -> new QuoteState.Draft();
      case SENT, LAPSED -> QuoteState.sent(quote.getValidUntil(), act.today());
      case ACCEPTED -> new QuoteState.Accepted();
      case DECLINED -> new QuoteState.Declined();
    };
  }

  private QuoteRecord lockShown(long id, int version) {
    QuoteRecord quote = quotes.lock(id);
    Versions.require(version, quote.getVersion());
    return quote;
  }

  private static QuoteState.Sent requireSent(QuoteRecord quote, Act act) {
    return switch (state(quote, act)) {
      case QuoteState.Sent sent -> sent;
      case QuoteState.Lapsed lapsed ->
          throw new Refused(
              Rule.QUOTE_LAPSED,
              "This quote lapsed on "
                  + quote.getValidUntil()
                  + ". Take it back, set a later day and send it again.");
      case QuoteState.Draft draft ->
          throw new Refused(Rule.QUOTE_NOT_SENT, "This quote is still a draft. Send it first.");
      case QuoteState.Accepted accepted ->
          throw new Refused(Rule.QUOTE_ACCEPTED, "This quote was accepted before.");
      case QuoteState.Declined declined ->
          throw new Refused(Rule.QUOTE_DECLINED, "This quote was declined before.");
    };
  }

  /** The lines that are not what they were, each as it would be typed. */
  private static About told(List<OfferLine> before, List<OfferLine> after) {
    List<String> was = before.stream().map(line -> TypedLine.of(line).told()).toList();
    List<String> is = after.stream().map(line -> TypedLine.of(line).told()).toList();
    return About.NOTHING.with(without(was, is), without(is, was));
  }

  private static Map<String, Object> without(List<String> lines, List<String> others) {
    var left = new ArrayList<>(others);
    List<String> differing = lines.stream().filter(line -> !left.remove(line)).toList();
    return differing.isEmpty() ? Map.of() : Map.of("lines", String.join("\n", differing));
  }

  private record Entered(
      long customerId,
      long siteId,
      @Nullable Long equipmentId,
      long kindOfJobId,
      String title,
      PromiseKind promise,
      LocalDate validUntil,
      String notes,
      String ownNotes,
      int depositDueDays,
      Offer offer) {}

  private Entered read(Act act, QuoteForm form, LocalDate quotedOn, Company company) {
    var reading = new Reading();
    Long customerId = form.siteId() == null ? null : customerOf(form.siteId());
    if (customerId == null) {
      reading.fault("siteId", Rule.MISSING, "Choose the site where the work is.");
    }
    sites.checkEquipment(reading, form.equipmentId(), form.siteId());
    PromiseKind usual =
        form.kindOfJobId() == null
            ? null
            : database
                .select(KIND_OF_JOB.PROMISE)
                .from(KIND_OF_JOB)
                .where(KIND_OF_JOB.ID.eq(form.kindOfJobId()))
                .fetchOne(KIND_OF_JOB.PROMISE);
    if (usual == null) {
      reading.fault("kindOfJobId", Rule.MISSING, "Choose the kind of job.");
    }
    String title = reading.text("title", form.title(), 120);
    LocalDate validUntil =
        reading.optional("validUntil", form.validUntil(), typed -> Day.parse(typed, act.today()));
    String notes = reading.optionalText("notes", form.notes(), LONGEST_NOTES);
    String ownNotes = reading.optionalText("ownNotes", form.ownNotes(), LONGEST_NOTES);
    Integer dueDays =
        reading.optional("depositDueDays", form.depositDueDays(), QuoteReader::depositDueDays);
    QuoteReader reader =
        reader(
            customerId,
            form.kindOfJobId(),
            wholeJobs.cover(form.equipmentId(), quotedOn),
            act.today(),
            reading);
    Offer offer = reader.offer(form.lines(), form.discount(), form.deposit(), form.stages());
    if (!offer.stages().isEmpty()
        && usual != null
        && Objects.requireNonNullElse(form.promise(), usual) != PromiseKind.FIXED_PRICE) {
      reading.fault(
          "stages",
          Rule.NOT_A_FIXED_PRICE,
          "Only a fixed price falls due in stages. Take the stages off, or promise a fixed price.");
    }
    reading.refuseIfFaulty();
    return new Entered(
        Objects.requireNonNull(customerId),
        Objects.requireNonNull(form.siteId()),
        form.equipmentId(),
        Objects.requireNonNull(form.kindOfJobId()),
        Objects.requireNonNull(title),
        form.promise() == null ? Objects.requireNonNull(usual) : form.promise(),
        validUntil == null ? act.today().plusDays(company.quoting().validDays()) : validUntil,
        notes,
        ownNotes,
        dueDays == null ? company.quoting().depositDueDays() : dueDays,
        offer);
  }

  /**
   * Reads lines for whoever the site's customer is; at list prices while no site is chosen.
   *
   * @param quoteId whose day decides what is under warranty; null for one that is not stored yet
   */
  QuoteReader readerAt(
      @Nullable Long quoteId,
      @Nullable Long siteId,
      @Nullable Long equipmentId,
      @Nullable Long kindOfJobId,
      LocalDate day,
      Reading reading) {
    LocalDate quotedOn = quoteId == null ? day : quotedOn(quotes.get(quoteId));
    return reader(
        siteId == null ? null : customerOf(siteId),
        kindOfJobId,
        wholeJobs.cover(equipmentId, quotedOn),
        day,
        reading);
  }

  private QuoteReader reader(
      @Nullable Long customerId,
      @Nullable Long kindOfJobId,
      Cover cover,
      LocalDate day,
      Reading reading) {
    return new QuoteReader(
        companies.getCompany(),
        stock,
        pricing(customerId, day),
        vatCode(customerId, kindOfJobId),
        cover,
        day,
        reading);
  }

  private LocalDate quotedOn(QuoteRecord quote) {
    return quote.getCreatedAt().atZone(companies.getZone()).toLocalDate();
  }

  /** What the kind of job says of VAT, else the customer; null where neither says anything. */
  private @Nullable String vatCode(@Nullable Long customerId, @Nullable Long kindOfJobId) {
    return database
        .select(
            coalesce(
                field(
                    select(KIND_OF_JOB.VAT_CODE)
                        .from(KIND_OF_JOB)
                        .where(KIND_OF_JOB.ID.eq(kindOfJobId))),
                field(select(CUSTOMER.VAT_CODE).from(CUSTOMER).where(CUSTOMER.ID.eq(customerId)))))
        .fetchSingle()
        .value1();
  }

  private ChargeOutPrice pricing(@Nullable Long customerId, LocalDate day) {
    return customerId == null ? stock.getPricing(day) : stock.getPricing(customerId, day);
  }

  private @Nullable Long customerOf(long siteId) {
    return database
        .select(SITE.CUSTOMER_ID)
        .from(SITE)
        .where(SITE.ID.eq(siteId))
        .fetchOne(SITE.CUSTOMER_ID);
  }

  private static void fill(QuoteRecord row, Entered entered) {
    Offer offer = entered.offer();
    QuoteTotals totals = offer.totals();
    row.setCustomerId(entered.customerId());
    row.setSiteId(entered.siteId());
    row.setEquipmentId(entered.equipmentId());
    row.setKindOfJobId(entered.kindOfJobId());
    row.setTitle(entered.title());
    row.setPromise(entered.promise());
    row.setValidUntil(entered.validUntil());
    row.setNotes(entered.notes());
    row.setOwnNotes(entered.ownNotes());
    row.setDiscountMinor(offer.discount().minor());
    row.setDiscountShare(offer.discount().fraction());
    row.setDepositMinor(offer.deposit().minor());
    row.setDepositShare(offer.deposit().fraction());
    row.setDepositDueDays((short) entered.depositDueDays());
    row.setNetMinor(totals.vat().net().minor());
    row.setVatMinor(totals.vat().vat().minor());
    row.setCostMinor(totals.cost().minor());
  }
}
