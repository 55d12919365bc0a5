package app.pragmata.server.people;

import static app.pragmata.server.generated.Tables.PASSWORD;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.jooq.Records.mapping;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.people.Role;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** People as the database knows them. */
@Repository
public class PeopleStore {
  /** Somebody to choose. */
  public record Colleague(long id, String name) {}

  record Credentials(SignedIn person, String passwordHash) {}

  private final DSLContext database;

  PeopleStore(DSLContext database) {
    this.database = database;
  }

  Optional<Credentials> findCredentials(String username) {
    return database
        .select(PERSON.ID, PERSON.NAME, PERSON.USERNAME, PERSON.ROLE, PASSWORD.HASH)
        .from(PERSON)
        .join(PASSWORD)
        .on(PASSWORD.PERSON_ID.eq(PERSON.ID))
        .where(PERSON.USERNAME.eq(username))
        .and(PERSON.ACTIVE)
        .fetchOptional(
            row ->
                new Credentials(
                    new SignedIn(row.value1(), row.value2(), row.value3(), row.value4()),
                    row.value5()));
  }

  /** Somebody who works here now; empty for whoever left. */
  Optional<SignedIn> findActive(long personId) {
    return database
        .select(PERSON.ID, PERSON.NAME, PERSON.USERNAME, PERSON.ROLE)
        .from(PERSON)
        .where(PERSON.ID.eq(personId))
        .and(PERSON.ACTIVE)
        .fetchOptional(mapping(SignedIn::new));
  }

  /** All active technicians by name. */
  public List<Colleague> listTechnicians() {
    return list(isTechnician());
  }

  /** Whether the selected person works in the field. */
  public static Condition isTechnician() {
    return PERSON.ROLE.eq(Role.TECHNICIAN).and(PERSON.ACTIVE);
  }

  /** Everybody else by name: whoever can be given something to do in the office. */
  public List<Colleague> listOfficePeople() {
    return list(PERSON.ROLE.ne(Role.TECHNICIAN).and(PERSON.ACTIVE));
  }

  private List<Colleague> list(Condition who) {
    return database
        .select(PERSON.ID, PERSON.NAME)
        .from(PERSON)
        .where(who)
        .orderBy(PERSON.NAME)
        .fetch(row -> new Colleague(row.value1(), row.value2()));
  }

  /** The name of an active technician; refused where there is no such technician. */
  public String technicianName(long personId) {
    return database
        .select(PERSON.NAME)
        .from(PERSON)
        .where(PERSON.ID.eq(personId).and(isTechnician()))
        .fetchOptional(PERSON.NAME)
        .orElseThrow(
            () ->
                new Refused(
                    Rule.NOT_FOUND, "This technician does not exist. Choose one from the list."));
  }

  /** Refuses an id that is no active technician's. */
  public void requireTechnician(long personId) {
    technicianName(personId);
  }
}
