package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.KIT;
import static app.pragmata.server.generated.Tables.MAIL;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.QUOTE_LINK;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.quoting.Choice;
import app.pragmata.server.mail.MailState;
import app.pragmata.server.offers.OfferService;
import app.pragmata.server.quoting.QuoteForm;
import app.pragmata.server.quoting.QuoteForm.TypedStage;
import app.pragmata.server.quoting.QuoteService;
import app.pragmata.server.quoting.TypedLine;
import app.pragmata.server.records.Act;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.ObjectMapper;

/** Kits, and one quote with everything that a quote can have, on its way to the customer. */
@Component
class DemoOffers {
  private final DSLContext database;
  private final QuoteService quotes;
  private final OfferService offers;
  private final ObjectMapper json;

  DemoOffers(DSLContext database, QuoteService quotes, OfferService offers, ObjectMapper json) {
    this.database = database;
    this.quotes = quotes;
    this.offers = offers;
    this.json = json;
  }

  void insertKits() {
    kit(
        "Photocells renewed",
        List.of(
            TypedLine.labour("Change and align the photocells", "0:45").line(),
            part("PHO-02", "1").line(),
            part("CBL-4", "6").line()));
    kit(
        "Keypad at the post",
        List.of(
            TypedLine.labour("Fit and programme the keypad", "1:15").line(),
            part("PAD-W", "1").line(),
            part("CBL-4", "12").line(),
            part("CND-20", "8").line()));
    kit(
        "Standby battery",
        List.of(
            TypedLine.labour("Fit the battery and test on it", "0:30").line(),
            part("BAT-24", "1").line()));
  }

  private void kit(String name, List<TypedLine> lines) {
    database
        .insertInto(KIT)
        .set(KIT.NAME, name)
        .set(KIT.LINES, JSONB.valueOf(json.writeValueAsString(lines)))
        .execute();
  }

  /** Old mail went out long ago: it is not sent again. */
  void forgetOldMail() {
    database
        .update(MAIL)
        .set(MAIL.STATE, MailState.SENT)
        .set(MAIL.SENT_AT, MAIL.QUEUED_AT)
        .set(MAIL.ATTEMPTS, (short) 1)
        .execute();
  }

  /** A sliding gate for the bakery: sent, changed once, and asked about. */
  void offerSlidingGate(Act morning, Act later) {
    long site =
        database
            .select(SITE.ID)
            .from(SITE)
            .where(SITE.CUSTOMER_ID.eq(3L))
            .orderBy(SITE.ID)
            .limit(1)
            .fetchSingle(SITE.ID);
    long quote = quotes.create(morning, "demo-sliding-gate", form(0, site, "9:00", null));
    quotes.send(morning, quote, 1, null);
    quotes.takeBack(later, quote, 2);
    quotes.save(later, quote, form(3, site, "8:00", "5%"));
    quotes.send(later, quote, 4, null);
    offers.ask(
        Act.ofCustomer(later.at(), later.zone()),
        database
            .select(QUOTE_LINK.TOKEN)
            .from(QUOTE_LINK)
            .where(QUOTE_LINK.QUOTE_ID.eq(quote))
            .fetchSingle(QUOTE_LINK.TOKEN),
        "Can the gate still be opened by hand when the power is off?");
  }

  private QuoteForm form(int version, long site, String time, @Nullable String discount) {
    long installation =
        database
            .select(KIND_OF_JOB.ID)
            .from(KIND_OF_JOB)
            .where(KIND_OF_JOB.NAME.eq("Installation"))
            .fetchSingle(KIND_OF_JOB.ID);
    return new QuoteForm(
        version,
        site,
        null,
        installation,
        "Sliding gate at the delivery yard",
        null,
        null,
        "We switch the old gate off on the morning of the first day. Deliveries go through the side door until the evening.",
        "Ask for the night baker; the yard is empty after two.",
        discount,
        "30%",
        "7",
        List.of(
            new TypedStage("when the posts stand", "40%"),
            new TypedStage("when the gate runs", "60%")),
        List.of(
            TypedLine.heading("The gate"),
            TypedLine.labour("Take down the old gate, set the posts", time).line(),
            TypedLine.labour("Hang the gate, wire and test", "6:30").line(),
            TypedLine.drive("Call-out, two days", "1:30", "24").price("90.00").line(),
            TypedLine.other("Gate leaf, made to measure", "1", "1180.00").price("1640.00").line(),
            part("PST-BR", "4").line(),
            part("CTL-2L", "1").line(),
            TypedLine.heading("How it is driven, one of the two"),
            part("RAM-230", "2").choice(Choice.Code.ALTERNATIVE, "Drive", true).line(),
            part("RAM-024", "2").choice(Choice.Code.ALTERNATIVE, "Drive", false).line(),
            TypedLine.heading("If you like"),
            part("PAD-W", "1").choice(Choice.Code.OPTION, "", false).line(),
            part("LMP-F", "2").choice(Choice.Code.OPTION, "", false).line(),
            TypedLine.text(
                "A lamp flashes while the gate moves; the insurer of most yards asks for one.")));
  }

  private TypedLine.Writing part(String number, String quantity) {
    var part = database.selectFrom(PART).where(PART.NUMBER.eq(number)).fetchSingle();
    return TypedLine.part(part.getId(), part.getName(), quantity);
  }
}
