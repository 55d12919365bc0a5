package app.pragmata.server.offers;

import static app.pragmata.server.generated.Tables.QUOTE_ACCEPTANCE;
import static app.pragmata.server.generated.Tables.QUOTE_EDITION;
import static app.pragmata.server.generated.Tables.QUOTE_QUESTION;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.quoting.Offer;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.Logo;
import app.pragmata.server.generated.tables.records.QuoteAcceptanceRecord;
import app.pragmata.server.offers.OfferView.Question;
import app.pragmata.server.pictures.SignedHand;
import app.pragmata.server.quoting.EditionStore;
import app.pragmata.server.quoting.LinkStore;
import app.pragmata.server.quoting.OfferDocument;
import app.pragmata.server.quoting.QuoteService;
import app.pragmata.server.quoting.StoredQuote;
import app.pragmata.server.receipts.CardPayments;
import app.pragmata.server.receipts.ReceiptService;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.FrozenText;
import app.pragmata.server.todos.ToDoService;
import java.time.LocalDateTime;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * What a customer sees and does behind their link; nothing of it shows what anything costs us. Each
 * act is of the customer and at its moment.
 */
@Service
public class OfferService {
  /** Which lines are chosen, by their place in the document. */
  public record ChoiceForm(int edition, @Nullable List<Integer> taken) {}

  /**
   * The customer's yes.
   *
   * @param signature the typed name, or the drawing as a PNG in a data address
   */
  public record YesForm(
      int edition,
      @Nullable List<Integer> taken,
      @Nullable String name,
      @Nullable String signature,
      boolean drawn) {}

  /** What is kept and hashed of an acceptance. */
  record Accepted(
      OfferDocument offer,
      List<Integer> taken,
      OfferDocument.Sum sum,
      String name,
      String signature,
      String acceptedAt) {}

  private final DSLContext database;
  private final LinkStore links;
  private final EditionStore editions;
  private final FrozenText texts;
  private final QuoteService quotes;
  private final ToDoService toDos;
  private final ReceiptService receipts;
  private final CardPayments cards;
  private final CompanyStore companies;
  private final Logo logo;

  OfferService(
      DSLContext database,
      LinkStore links,
      EditionStore editions,
      FrozenText texts,
      QuoteService quotes,
      ToDoService toDos,
      ReceiptService receipts,
      CardPayments cards,
      CompanyStore companies,
      Logo logo) {
    this.database = database;
    this.links = links;
    this.editions = editions;
    this.texts = texts;
    this.quotes = quotes;
    this.toDos = toDos;
    this.receipts = receipts;
    this.cards = cards;
    this.companies = companies;
    this.logo = logo;
  }

  /** Refuses a link that opens nothing. */
  @Transactional(readOnly = true)
  public void requireOffer(String token) {
    requireLink(token);
  }

  /** The newest edition with all that was said about it. */
  @Transactional
  public OfferView view(Act act, String token) {
    LinkStore.Link link = requireLink(token);
    links.noteOpened(link.quoteId(), act.at());
    StoredQuote quote = quotes.get(link.quoteId());
    int edition =
        database
            .select(DSL.max(QUOTE_EDITION.EDITION))
            .from(QUOTE_EDITION)
            .where(QUOTE_EDITION.QUOTE_ID.eq(quote.id()))
            .fetchSingle(row -> row.value1().intValue());
    Optional<QuoteAcceptanceRecord> acceptance = findAcceptance(quote.id());
    OfferDocument document =
        editions.get(quote.id(), acceptance.map(a -> (int) a.getEdition()).orElse(edition));
    Offer offer = quotes.getOffer(quote, act.today());
    long held = receipts.heldForQuote(quote.id()).minor();
    return new OfferView(
        document,
        quote.state(act).code(),
        acceptance.isPresent() ? OfferDocument.lines(offer, document.wording()) : document.lines(),
        acceptance.isPresent() ? OfferDocument.Sum.of(offer, document.wording()) : document.sum(),
        acceptance.map(QuoteAcceptanceRecord::getName).orElse(quote.acceptedBy()),
        acceptance.map(a -> LocalDateTime.ofInstant(a.getAcceptedAt(), act.zone())).orElse(null),
        acceptance.map(QuoteAcceptanceRecord::getContentHash).orElse(null),
        held,
        depositStillDue(quote, offer).minor(),
        cards.findNotice(),
        logo.find().isPresent(),
        listQuestions(quote.id(), act),
        document.wording().ofPage());
  }

  /** The total as it would be with these lines chosen; stores nothing. */
  @Transactional(readOnly = true)
  public OfferDocument.Sum preview(Act act, String token, ChoiceForm form) {
    StoredQuote quote = quotes.get(requireLink(token).quoteId());
    requireNewest(quote, form.edition());
    return OfferDocument.Sum.of(
        quotes.getOffer(quote, act.today()).choose(taken(form.taken())),
        companies.getCompany().wording());
  }

  /** A question becomes a to-do of whoever sent the quote, due today. */
  @Transactional
  public void ask(Act act, String token, @Nullable String typed) {
    var reading = new Reading();
    String question = reading.text("question", typed, 2_000);
    reading.refuseIfFaulty();
    StoredQuote quote = quotes.lock(requireLink(token).quoteId());
    Long sender =
        database
            .select(QUOTE_EDITION.SENT_BY)
            .from(QUOTE_EDITION)
            .where(QUOTE_EDITION.QUOTE_ID.eq(quote.id()))
            .orderBy(QUOTE_EDITION.EDITION.desc())
            .limit(1)
            .fetchSingle(QUOTE_EDITION.SENT_BY);
    String asked = Objects.requireNonNull(question);
    long toDo =
        toDos.insertAboutQuote(
            act,
            "Answer on quote %d: %s"
                .formatted(quote.number(), asked.length() > 150 ? asked.substring(0, 150) : asked),
            sender,
            quote.customerId(),
            quote.id());
    database
        .insertInto(QUOTE_QUESTION)
        .set(QUOTE_QUESTION.QUOTE_ID, quote.id())
        .set(QUOTE_QUESTION.QUESTION, asked)
        .set(QUOTE_QUESTION.ASKED_AT, act.at())
        .set(QUOTE_QUESTION.TO_DO_ID, toDo)
        .execute();
  }

  @Transactional
  public void decline(Act act, String token, int edition, @Nullable String typed) {
    decline(act, requireLink(token).quoteId(), edition, typed);
  }

  /** The same on our own screen, which needs no link. */
  @Transactional
  public void decline(Act act, long quoteId, int edition, @Nullable String typed) {
    var reading = new Reading();
    String reason = reading.text("reason", typed, 300);
    reading.refuseIfFaulty();
    StoredQuote quote = quotes.lock(quoteId);
    requireNewest(quote, edition);
    quotes.declineByCustomer(act, quote, Objects.requireNonNull(reason));
  }

  /** Takes the yes down, with exactly what it is to; refused when another answer came before. */
  @Transactional
  public void accept(Act act, String token, YesForm form) {
    accept(act, requireLink(token).quoteId(), form);
  }

  /** The same on our own screen, which needs no link. */
  @Transactional
  public void accept(Act act, long quoteId, YesForm form) {
    var reading = new Reading();
    String name = reading.text("name", form.name(), 100);
    String signature = SignedHand.read(reading, form.signature(), form.drawn());
    reading.refuseIfFaulty();
    StoredQuote quote = quotes.lock(quoteId);
    requireNewest(quote, form.edition());
    Offer chosen = quotes.getOffer(quote, act.today()).choose(taken(form.taken()));
    var accepted =
        new Accepted(
            editions.get(quote.id(), quote.edition()),
            taken(form.taken()).stream().sorted().toList(),
            OfferDocument.Sum.of(chosen, companies.getCompany().wording()),
            Objects.requireNonNull(name),
            Objects.requireNonNull(signature),
            act.at().toString());
    quotes.acceptByCustomer(act, quote, chosen, accepted.name());
    FrozenText.Frozen frozen = texts.freeze(accepted);
    database
        .insertInto(QUOTE_ACCEPTANCE)
        .set(QUOTE_ACCEPTANCE.QUOTE_ID, quote.id())
        .set(QUOTE_ACCEPTANCE.EDITION, (short) quote.edition())
        .set(QUOTE_ACCEPTANCE.NAME, accepted.name())
        .set(QUOTE_ACCEPTANCE.SIGNATURE, accepted.signature())
        .set(QUOTE_ACCEPTANCE.DRAWN, form.drawn())
        .set(QUOTE_ACCEPTANCE.ACCEPTED_AT, act.at())
        .set(QUOTE_ACCEPTANCE.CONTENT, frozen.content())
        .set(QUOTE_ACCEPTANCE.CONTENT_HASH, frozen.hash())
        .execute();
  }

  /** Pays by card what is missing to the deposit; the payment's own steps are transactions. */
  public void payDeposit(Act act, String token, @Nullable String card) {
    StoredQuote quote = quotes.get(requireLink(token).quoteId());
    Offer offer = quotes.getOffer(quote, act.today());
    if (!quote.isAccepted() || !offer.depositDue().isPositive()) {
      throw new Refused(Rule.NO_DEPOSIT_DUE, "No deposit is due on this quote.");
    }
    Money due = depositStillDue(quote, offer);
    if (!due.isPositive()) {
      throw new Refused(Rule.DEPOSIT_PAID, "The deposit is paid already. Nothing more was taken.");
    }
    cards.pay(quote.id(), due, card);
  }

  /** What is missing to the deposit; nothing before the yes, and never less than nothing. */
  private Money depositStillDue(StoredQuote quote, Offer offer) {
    if (!quote.isAccepted()) {
      return Money.ZERO;
    }
    Money missing = offer.depositDue().minus(receipts.received(quote.id()));
    return missing.isPositive() ? missing : Money.ZERO;
  }

  private List<Question> listQuestions(long quoteId, Act act) {
    return database
        .selectFrom(QUOTE_QUESTION)
        .where(QUOTE_QUESTION.QUOTE_ID.eq(quoteId))
        .orderBy(QUOTE_QUESTION.ID)
        .fetch(
            row ->
                new Question(
                    row.getQuestion(),
                    LocalDateTime.ofInstant(row.getAskedAt(), act.zone()),
                    row.getAnswer()));
  }

  private Optional<QuoteAcceptanceRecord> findAcceptance(long quoteId) {
    return database
        .selectFrom(QUOTE_ACCEPTANCE)
        .where(QUOTE_ACCEPTANCE.QUOTE_ID.eq(quoteId))
        .fetchOptional();
  }

  private LinkStore.Link requireLink(String token) {
    LinkStore.Link link =
        links
            .findByToken(token)
            .orElseThrow(
                () ->
                    new Refused(
                        Rule.NOT_FOUND,
                        "There is nothing at this address. Check that the whole link was copied, or ask us for a new one."));
    if (link.withdrawn()) {
      throw new Refused(
          Rule.NOT_FOUND, "This link was withdrawn. Ask us, and we send you the right one.");
    }
    return link;
  }

  private static void requireNewest(StoredQuote quote, int edition) {
    if (quote.edition() != edition || quote.isDraft()) {
      throw new Refused(
          Rule.STALE_VERSION,
          "This quote was changed meanwhile. Read the newest one before you answer.");
    }
  }

  private static Set<Integer> taken(@Nullable List<Integer> taken) {
    return taken == null ? Set.of() : new HashSet<>(taken);
  }
}
