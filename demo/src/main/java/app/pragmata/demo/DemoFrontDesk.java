package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.*;

import app.pragmata.core.Coded;
import app.pragmata.core.company.Priority;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What the office of the demo company knows before the phone rings: kinds, codes, talks, terms. */
@Component
class DemoFrontDesk {
  private static final String[][] FAULTS = {
    {"POWER", "No power"},
    {"STUCK", "Does not move"},
    {"HALFWAY", "Stops half-way"},
    {"REOPENS", "Opens again by itself"},
    {"REMOTE", "Remote or keypad dead"},
    {"NOISE", "Grinds or bangs"},
    {"IMPACT", "Driven into"},
    {"SPRING", "Hangs crooked or heavy"}
  };

  private static final String[][] CAUSES = {
    {"WEAR", "Worn out"},
    {"WATER", "Water in it"},
    {"BREAKER", "Breaker or isolator off"},
    {"OBSTACLE", "Something in the way"},
    {"BATTERY", "Battery flat"},
    {"SETTING", "Setting lost"},
    {"DAMAGE", "Damaged from outside"},
    {"OUR-WORK", "Our own work"}
  };

  private record Reply(
      String text,
      @Nullable Integer next,
      @Nullable String solution,
      @Nullable String fault,
      @Nullable String priority,
      @Nullable Integer minutes) {
    static Reply asks(String text, int next) {
      return new Reply(text, next, null, null, null, null);
    }

    static Reply solves(String text, String solution, String fault) {
      return new Reply(text, null, solution, fault, null, null);
    }

    static Reply sends(String text, String fault, String priority, int minutes) {
      return new Reply(text, null, null, fault, priority, minutes);
    }
  }

  private record Asked(String text, List<Reply> replies) {}

  private static final List<Asked> GATE =
      List.of(
          new Asked(
              "What does the gate do?",
              List.of(
                  Reply.asks("Nothing at all", 2),
                  Reply.asks("Starts, then stops or opens again", 3),
                  Reply.asks("Only the remote does nothing", 4),
                  Reply.sends("It was driven into", "IMPACT", "urgent", 120))),
          new Asked(
              "Is the lamp on the control box lit?",
              List.of(
                  Reply.asks("No", 5),
                  Reply.sends("Yes, and it hums", "STUCK", "urgent", 120),
                  Reply.sends("Yes, but nothing moves", "STUCK", "normal", 90))),
          new Asked(
              "Is anything in front of the photocells: leaves, snow, a bin?",
              List.of(
                  Reply.solves(
                      "Yes", "Clear the path of the photocells and wipe their lenses.", "REOPENS"),
                  Reply.sends("No", "HALFWAY", "normal", 90))),
          new Asked(
              "Does another remote or the keypad work?",
              List.of(
                  Reply.solves(
                      "Yes",
                      "Change the battery of the dead remote, a CR2032 from any shop.",
                      "REMOTE"),
                  Reply.sends("No", "REMOTE", "normal", 60))),
          new Asked(
              "Is the breaker marked “gate” in the fuse box on?",
              List.of(
                  Reply.solves(
                      "It was off",
                      "Switch the breaker on; the gate finds its limits in one run.",
                      "POWER"),
                  Reply.sends("It is on", "POWER", "urgent", 90),
                  Reply.sends("It falls again at once", "POWER", "emergency", 90))));

  private static final List<Asked> SHUTTER =
      List.of(
          new Asked(
              "Is the shutter stuck open or closed?",
              List.of(
                  Reply.asks("Open, the place cannot be locked", 2),
                  Reply.asks("Closed", 3),
                  Reply.sends("Hangs crooked", "SPRING", "emergency", 120))),
          new Asked(
              "Is the emergency stop pressed in?",
              List.of(
                  Reply.solves(
                      "Yes", "Turn the red button until it springs out, then press down.", "STUCK"),
                  Reply.sends("No", "STUCK", "emergency", 90))),
          new Asked(
              "Is there power in the building?",
              List.of(
                  Reply.sends("Yes", "STUCK", "urgent", 90),
                  Reply.solves(
                      "No",
                      "Lift it with the crank beside the door until the power is back.",
                      "POWER"))));

  private final DSLContext database;

  DemoFrontDesk(DSLContext database) {
    this.database = database;
  }

  static long kind(DSLContext database, String name) {
    return database
        .select(EQUIPMENT_KIND.ID)
        .from(EQUIPMENT_KIND)
        .where(EQUIPMENT_KIND.NAME.eq(name))
        .fetchSingle(EQUIPMENT_KIND.ID);
  }

  void insert(LocalDate longAgo, LocalDate today) {
    for (String model : DemoCatalogue.MODELS) {
      database.insertInto(EQUIPMENT_KIND, EQUIPMENT_KIND.NAME).values(model).execute();
    }
    for (String[] fault : FAULTS) {
      database.insertInto(FAULT_CODE).values(fault[0], fault[1], true).execute();
    }
    for (String[] cause : CAUSES) {
      database.insertInto(CAUSE_CODE).values(cause[0], cause[1], true).execute();
    }
    talk("Swing gate, two leaves", GATE);
    talk("Sliding gate", GATE);
    talk("Roller shutter", SHUTTER);
    holidays(today.getYear());
    holidays(today.getYear() + 1);
    responseTerms(longAgo, "Harbour: emergencies in two hours", 120, 240, 960, 3_000);
    database
        .insertInto(PRICE_LIST, PRICE_LIST.NAME, PRICE_LIST.PARTS_DISCOUNT_SHARE)
        .values("Trade, parts less 10 %", new BigDecimal("0.10"))
        .values("Schools, parts less 5 %", new BigDecimal("0.05"))
        .execute();
  }

  private void talk(String kind, List<Asked> questions) {
    long id =
        database
            .insertInto(FAULT_TALK, FAULT_TALK.EQUIPMENT_KIND_ID)
            .values(kind(database, kind))
            .returning(FAULT_TALK.ID)
            .fetchSingle(FAULT_TALK.ID);
    for (int i = 0; i < questions.size(); i++) {
      database
          .insertInto(TALK_QUESTION)
          .values(id, (short) (i + 1), questions.get(i).text())
          .execute();
    }
    for (int i = 0; i < questions.size(); i++) {
      List<Reply> replies = questions.get(i).replies();
      for (int k = 0; k < replies.size(); k++) {
        Reply reply = replies.get(k);
        database
            .insertInto(TALK_ANSWER)
            .set(TALK_ANSWER.FAULT_TALK_ID, id)
            .set(TALK_ANSWER.QUESTION_NUMBER, (short) (i + 1))
            .set(TALK_ANSWER.POSITION, (short) (k + 1))
            .set(TALK_ANSWER.TEXT, reply.text())
            .set(TALK_ANSWER.NEXT_QUESTION, reply.next() == null ? null : reply.next().shortValue())
            .set(TALK_ANSWER.SOLUTION, reply.solution())
            .set(TALK_ANSWER.FAULT_CODE, reply.fault())
            .set(
                TALK_ANSWER.PRIORITY,
                reply.priority() == null ? null : Coded.get(Priority.class, reply.priority()))
            .set(TALK_ANSWER.EXPECTED_MINUTES, reply.minutes())
            .execute();
      }
    }
  }

  private void holidays(int year) {
    database
        .insertInto(HOLIDAY)
        .values(LocalDate.of(year, 1, 1), "New Year's Day")
        .values(LocalDate.of(year, 8, 31), "Harbour Fair")
        .values(LocalDate.of(year, 12, 25), "Christmas Day")
        .values(LocalDate.of(year, 12, 26), "Boxing Day")
        .execute();
  }

  private void responseTerms(
      LocalDate longAgo, String name, int emergency, int urgent, int normal, int low) {
    long terms =
        database
            .insertInto(RESPONSE_TERMS, RESPONSE_TERMS.NAME)
            .values(name)
            .returning(RESPONSE_TERMS.ID)
            .fetchSingle(RESPONSE_TERMS.ID);
    database
        .insertInto(RESPONSE_TIME)
        .values(terms, longAgo, Priority.EMERGENCY, emergency, true)
        .values(terms, longAgo, Priority.URGENT, urgent, false)
        .values(terms, longAgo, Priority.NORMAL, normal, false)
        .values(terms, longAgo, Priority.LOW, low, false)
        .execute();
  }

  /** What sets some customers and some parts apart. */
  void describeCustomers(LocalDate today) {
    database
        .update(PART)
        .set(PART.EQUIPMENT_KIND_ID, kind(database, "Roller shutter"))
        .set(PART.WARRANTY_MONTHS, (short) 24)
        .where(PART.NUMBER.eq("MOT-400"))
        .execute();
    long quick =
        database
            .select(RESPONSE_TERMS.ID)
            .from(RESPONSE_TERMS)
            .where(RESPONSE_TERMS.NAME.startsWith("Harbour"))
            .fetchSingle(RESPONSE_TERMS.ID);
    database
        .update(CUSTOMER)
        .set(CUSTOMER.RESPONSE_TERMS_ID, quick)
        .where(
            CUSTOMER.NAME.in(
                "Ostmere Harbour Trust", "Northquay Cold Store", "Harbour Ice Company"))
        .execute();
    database
        .update(CUSTOMER)
        .set(CUSTOMER.PRICE_LIST_ID, priceList("Trade"))
        .where(CUSTOMER.NAME.in("Weir Street Motors", "Pike & Sons Haulage"))
        .execute();
    database
        .update(CUSTOMER)
        .set(CUSTOMER.PRICE_LIST_ID, priceList("Schools"))
        .where(CUSTOMER.NAME.eq("Pellgate School"))
        .execute();
    database
        .update(CUSTOMER)
        .set(CUSTOMER.STOP_REASON, "Cheque came back twice; only against payment on the day")
        .where(CUSTOMER.NAME.eq("Copperfield Scrap & Metals"))
        .execute();
    open("Larkfield Nursery", LocalTime.of(8, 0), LocalTime.of(16, 0));
    open("Mereside Surgery", LocalTime.of(8, 30), LocalTime.of(17, 30));
    office("Pellgate School", "Mr Aske, bursar", "01632 960811", true, false, true);
    office("Tansy Row Garages", "Ines Tansy", "01632 960812", true, false, true);
    office("Ostmere Harbour Trust", "Accounts office", "01632 960813", true, false, false);
    long hester =
        database
            .select(PERSON.ID)
            .from(PERSON)
            .where(PERSON.USERNAME.eq("hester"))
            .fetchSingle(PERSON.ID);
    Instant noted =
        today.minusDays(20).atTime(LocalTime.NOON).atZone(DemoCatalogue.ZONE).toInstant();
    note(hester, noted, "Pellgate School", "No work in school hours: before 8:15 or after 15:45.");
    note(hester, noted, "Tansy Row Garages", "Wants a call half an hour before anybody comes.");
    note(
        hester,
        noted,
        "Quillon Bakery",
        "Ovens run from three at night; the yard is free from ten.");
  }

  private long priceList(String beginning) {
    return database
        .select(PRICE_LIST.ID)
        .from(PRICE_LIST)
        .where(PRICE_LIST.NAME.startsWith(beginning))
        .fetchSingle(PRICE_LIST.ID);
  }

  private void office(
      String customer, String name, String phone, boolean pays, boolean opens, boolean decides) {
    database
        .insertInto(CONTACT)
        .set(CONTACT.CUSTOMER_ID, customer(customer))
        .set(CONTACT.NAME, name)
        .set(CONTACT.PHONE, phone)
        .set(CONTACT.PAYS, pays)
        .set(CONTACT.OPENS, opens)
        .set(CONTACT.DECIDES, decides)
        .execute();
  }

  private void open(String customer, LocalTime from, LocalTime to) {
    database
        .update(SITE)
        .set(SITE.OPENS, from)
        .set(SITE.CLOSES, to)
        .where(SITE.CUSTOMER_ID.eq(customer(customer)))
        .execute();
  }

  private void note(long by, Instant at, String customer, String text) {
    database
        .insertInto(CUSTOMER_NOTE)
        .set(CUSTOMER_NOTE.CUSTOMER_ID, customer(customer))
        .set(CUSTOMER_NOTE.TEXT, text)
        .set(CUSTOMER_NOTE.PINNED_AT, at)
        .set(CUSTOMER_NOTE.PINNED_BY, by)
        .execute();
  }

  private long customer(String name) {
    return database
        .select(CUSTOMER.ID)
        .from(CUSTOMER)
        .where(CUSTOMER.NAME.eq(name))
        .fetchSingle(CUSTOMER.ID);
  }
}
