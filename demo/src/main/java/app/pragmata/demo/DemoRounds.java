package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.server.records.Act;
import app.pragmata.server.rounds.Agreements;
import app.pragmata.server.rounds.Agreements.AgreementForm;
import app.pragmata.server.rounds.Agreements.RoundForm;
import app.pragmata.server.rounds.RoundDates;
import app.pragmata.server.rounds.RoundDates.DateOfRound;
import java.time.Duration;
import java.time.LocalDate;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.springframework.stereotype.Component;

/**
 * What comes again for customers of the demo: one round that is late, one whose job waits for a
 * time, and some that are due later.
 */
@Component
class DemoRounds {
  private static final String KIND = "Service";
  private static final int AGREED_DAYS_AGO = 20;
  private static final int LAST_DAY_OF_EVERY_MONTH = 28;

  private record Place(long customerId, long siteId, long equipmentId, String model) {}

  private final DSLContext database;
  private final Agreements agreements;
  private final RoundDates rounds;

  DemoRounds(DSLContext database, Agreements agreements, RoundDates rounds) {
    this.database = database;
    this.agreements = agreements;
    this.rounds = rounds;
  }

  void agree(Act act) {
    LocalDate today = act.today();
    Act before =
        new Act(
            act.personId(),
            act.role(),
            act.at().minus(Duration.ofDays(AGREED_DAYS_AGO)),
            act.zone());
    List<Place> places = places();
    LocalDate late = inEveryMonth(today.minusDays(3));
    LocalDate soon = inEveryMonth(today.plusDays(5));
    add(before, places.get(0), "Safety check", monthly(late), "85");
    long toBook = add(before, places.get(1), "Full service", monthly(soon), "120");
    rounds.make(act, List.of(new DateOfRound(toBook, soon)));
    add(before, places.get(2), "Grease and adjust", "every 3 weeks on Thursday", "");
    add(
        before,
        places.get(3),
        "Yearly inspection",
        "the second Monday of " + today.plusMonths(1).getMonth(),
        "240");
  }

  private static LocalDate inEveryMonth(LocalDate day) {
    return day.getDayOfMonth() > LAST_DAY_OF_EVERY_MONTH
        ? day.withDayOfMonth(LAST_DAY_OF_EVERY_MONTH)
        : day;
  }

  private static String monthly(LocalDate day) {
    return "every month on the " + day.getDayOfMonth();
  }

  private long add(Act act, Place place, String title, String repeats, String price) {
    long agreement =
        agreements.make(
            act,
            "demo-agreement-" + title,
            place.customerId(),
            new AgreementForm(0, "Care of the " + place.model(), "today", ""));
    return agreements.add(
        act,
        "demo-round-" + title,
        agreement,
        new RoundForm(
            0,
            place.siteId(),
            place.equipmentId(),
            database
                .select(KIND_OF_JOB.ID)
                .from(KIND_OF_JOB)
                .where(KIND_OF_JOB.NAME.eq(KIND))
                .fetchSingle(KIND_OF_JOB.ID),
            title,
            "1:30",
            price,
            false,
            repeats,
            "",
            ""));
  }

  /** A piece of each of the first customers that have one. */
  private List<Place> places() {
    return database
        .select(SITE.CUSTOMER_ID, SITE.ID, EQUIPMENT.ID, EQUIPMENT.MODEL)
        .distinctOn(SITE.CUSTOMER_ID)
        .from(EQUIPMENT)
        .join(SITE)
        .on(SITE.ID.eq(EQUIPMENT.SITE_ID))
        .where(EQUIPMENT.REMOVED_ON.isNull())
        .orderBy(SITE.CUSTOMER_ID, EQUIPMENT.ID)
        .limit(4)
        .fetch(Records.mapping(Place::new));
  }
}
