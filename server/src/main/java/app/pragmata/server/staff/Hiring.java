package app.pragmata.server.staff;

import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.STOCK_PLACE;
import static app.pragmata.server.generated.Tables.WAGE;

import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.server.company.SettingsChanged;
import java.time.LocalDate;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Repository;

/** Takes people on: their record, and of technicians the wage and the van. */
@Repository
public class Hiring {
  private final DSLContext database;
  private final ApplicationEventPublisher changes;

  Hiring(DSLContext database, ApplicationEventPublisher changes) {
    this.database = database;
    this.changes = changes;
  }

  /**
   * Takes somebody on; gives who that is.
   *
   * @param from the first day on which they work here
   * @param wording in which their van is named
   */
  public long hire(Starter starter, LocalDate from, Wording wording) {
    long id =
        database
            .insertInto(PERSON, PERSON.NAME, PERSON.USERNAME, PERSON.ROLE)
            .values(starter.name(), starter.username(), starter.role())
            .returning(PERSON.ID)
            .fetchSingle(PERSON.ID);
    if (starter.pay() != null) {
      equip(id, starter.name(), starter.pay(), from, wording);
    }
    return id;
  }

  /** Gives a technician a wage from a day on, and a van where there is none yet. */
  void equip(long personId, String name, Starter.Pay pay, LocalDate from, Wording wording) {
    database
        .insertInto(WAGE)
        .values(personId, from, pay.wagePerHour(), pay.onCostShare())
        .onConflict(WAGE.PERSON_ID, WAGE.FROM_DAY)
        .doUpdate()
        .set(WAGE.WAGE_PER_HOUR, pay.wagePerHour())
        .set(WAGE.ON_COST_SHARE, pay.onCostShare())
        .execute();
    if (!database.fetchExists(STOCK_PLACE, STOCK_PLACE.PERSON_ID.eq(personId))) {
      String van = wording.say(Phrase.VAN, name);
      database
          .insertInto(STOCK_PLACE, STOCK_PLACE.NAME, STOCK_PLACE.PERSON_ID)
          .values(
              database.fetchExists(STOCK_PLACE, STOCK_PLACE.NAME.eq(van))
                  ? van + " (" + personId + ")"
                  : van,
              personId)
          .execute();
    }
    changes.publishEvent(new SettingsChanged());
  }
}
