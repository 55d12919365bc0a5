package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.QUOTE_LINK;
import static app.pragmata.server.generated.Tables.QUOTE_QUESTION;

import app.pragmata.server.offers.OfferService;
import app.pragmata.server.offers.OfferService.YesForm;
import app.pragmata.server.quoting.QuoteService;
import app.pragmata.server.records.Act;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** What customers do with the quotes that they get: read them, ask about them, and sign. */
@Component
class DemoCustomers {
  /** What is asked, and what the office says to it. */
  record Question(String asked, String answered) {}

  static final List<Question> QUESTIONS =
      List.of(
          new Question(
              "Do we have to be there while you work?",
              "Only at the beginning and at the end, ten minutes each."),
          new Question(
              "Can it wait until after the holidays?",
              "It can. The price holds until the day on the quote."),
          new Question(
              "Is the old part taken away?", "Yes, we take it with us and it costs nothing more."),
          new Question(
              "How long will the gate be out of use?",
              "An hour or so, in the middle of the work. It opens by hand meanwhile."),
          new Question(
              "Our insurer asks for a test certificate. Is it in the price?",
              "It is. You get it by mail on the same day."));

  private final DSLContext database;
  private final OfferService offers;
  private final QuoteService quotes;

  DemoCustomers(DSLContext database, OfferService offers, QuoteService quotes) {
    this.database = database;
    this.offers = offers;
    this.quotes = quotes;
  }

  void read(Act customer, long quote) {
    offers.view(customer, link(quote));
  }

  void ask(Act customer, long quote, Question question) {
    offers.ask(customer, link(quote), question.asked());
  }

  /** The office answers what was asked last. */
  void answer(Act desk, long quote, Question question) {
    database
        .select(QUOTE_QUESTION.ID)
        .from(QUOTE_QUESTION)
        .where(QUOTE_QUESTION.QUOTE_ID.eq(quote).and(QUOTE_QUESTION.ANSWER.isNull()))
        .forEach(row -> quotes.answer(desk, row.value1(), question.answered()));
  }

  /** Says yes to the first edition, with the name typed. */
  void sign(Act customer, long quote, String name) {
    read(customer, quote);
    offers.accept(customer, link(quote), new YesForm(1, List.of(), name, name, false));
  }

  private String link(long quote) {
    return database
        .select(QUOTE_LINK.TOKEN)
        .from(QUOTE_LINK)
        .where(QUOTE_LINK.QUOTE_ID.eq(quote))
        .fetchSingle(QUOTE_LINK.TOKEN);
  }
}
