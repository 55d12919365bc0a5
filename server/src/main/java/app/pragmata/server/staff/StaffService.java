package app.pragmata.server.staff;

import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.WAGE;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.FromDay;
import app.pragmata.core.people.Role;
import app.pragmata.core.people.Username;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.SettingsChanged;
import app.pragmata.server.generated.tables.records.PersonRecord;
import app.pragmata.server.people.OpenSessions;
import app.pragmata.server.people.Passwords;
import app.pragmata.server.people.PersonEvent;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Starters and leavers, and who has which role. There is always an owner. */
@Service
class StaffService {
  /**
   * Somebody as typed.
   *
   * @param username of a starter; whoever works here keeps theirs
   * @param wagePerHour of a technician
   * @param onCostPercent what the employer pays on top of it
   * @param fromDay from which day that pay holds, today at the earliest; empty for today
   * @param mayBackdate whether a technician may put their own times right; null leaves it as it is,
   *     which is yes for a starter
   * @param maySeePrices whether a technician sees what is charged; null leaves it, no for a starter
   */
  record StaffForm(
      int version,
      @Nullable String name,
      @Nullable String username,
      @Nullable Role role,
      @Nullable String wagePerHour,
      @Nullable String onCostPercent,
      @Nullable String fromDay,
      @Nullable Boolean mayBackdate,
      @Nullable Boolean maySeePrices) {

    void switchOn(PersonRecord person) {
      person.setMayBackdate(Objects.requireNonNullElse(mayBackdate, person.getMayBackdate()));
      person.setMaySeePrices(Objects.requireNonNullElse(maySeePrices, person.getMaySeePrices()));
    }
  }

  private final DSLContext database;
  private final Hiring hiring;
  private final Passwords passwords;
  private final OpenSessions sessions;
  private final CompanyStore companies;
  private final Events events;
  private final ApplicationEventPublisher changes;
  private final RepeatableRequests requests;

  StaffService(
      DSLContext database,
      Hiring hiring,
      Passwords passwords,
      OpenSessions sessions,
      CompanyStore companies,
      Events events,
      ApplicationEventPublisher changes,
      RepeatableRequests requests) {
    this.database = database;
    this.hiring = hiring;
    this.passwords = passwords;
    this.sessions = sessions;
    this.companies = companies;
    this.events = events;
    this.changes = changes;
    this.requests = requests;
  }

  /** Takes somebody on, who sets a password with a link; gives who that is. */
  @Transactional
  public long add(Act act, @Nullable String key, StaffForm form) {
    return requests.once(act, key, "add person", form, () -> add(act, form));
  }

  private long add(Act act, StaffForm form) {
    var reading = new Reading();
    String username = reading.required("username", form.username(), Username::parse);
    if (username != null && database.fetchExists(PERSON, PERSON.USERNAME.eq(username))) {
      reading.fault(
          "username", Rule.REPEATED, "Somebody has this name to sign in with. Choose another.");
    }
    Starter starter = read(reading, form, username == null ? "" : username);
    requireOwnerForOwners(act, starter.role());
    long id = hiring.hire(starter, act.today(), companies.getCompany().wording());
    PersonRecord row = database.fetchSingle(PERSON, PERSON.ID.eq(id));
    form.switchOn(row);
    row.store();
    events.tell(
        act,
        PersonEvent.PERSON_ADDED,
        id,
        About.NOTHING.with(
            Map.of(),
            Map.of(
                "name", starter.name(), "username", starter.username(), "role", starter.role())));
    return id;
  }

  private Starter read(Reading reading, StaffForm form, String username) {
    String name = reading.text("name", form.name(), 80);
    if (form.role() == null || form.role() == Role.CUSTOMER || form.role() == Role.PROGRAM) {
      reading.fault("role", Rule.MISSING, "Choose what this person does here.");
    }
    Starter.Pay pay = null;
    if (form.role() == Role.TECHNICIAN) {
      BigDecimal wage =
          reading.required(
              "wagePerHour",
              form.wagePerHour(),
              typed -> companies.getCompany().typed().unitPrice(typed).major());
      BigDecimal share = reading.required("onCostPercent", form.onCostPercent(), Reading::percent);
      if (wage != null && wage.signum() == 0) {
        reading.fault("wagePerHour", Rule.MISSING, "Enter a wage above nothing.");
      }
      if (wage != null && share != null) {
        pay = new Starter.Pay(wage.stripTrailingZeros(), share.stripTrailingZeros());
      }
    }
    reading.refuseIfFaulty();
    return new Starter(
        Objects.requireNonNull(name), username, Objects.requireNonNull(form.role()), pay);
  }

  /** Changes name and role, which hold at once, and a technician's wage, from its day on. */
  @Transactional
  public void change(Act act, long id, StaffForm form) {
    PersonRecord row = lock(id, form.version());
    var reading = new Reading();
    LocalDate from =
        FromDay.read(
            reading,
            form.fromDay() == null || form.fromDay().isBlank() ? "today" : form.fromDay(),
            act.today());
    Starter changed = read(reading, form, row.getUsername());
    if (changed.role() != row.getRole()) {
      requireOwnerForOwners(act, changed.role());
      requireOwnerForOwners(act, row.getRole());
      refuseLastOwner(row);
    }
    row.setName(changed.name());
    row.setRole(changed.role());
    form.switchOn(row);
    events.store(act, PersonEvent.PERSON_CHANGED, row);
    LocalDate day = Objects.requireNonNull(from);
    Starter.Pay before = payOn(day).get(id);
    if (changed.pay() != null && !changed.pay().equals(before)) {
      hiring.equip(id, changed.name(), changed.pay(), day, companies.getCompany().wording());
      events.tell(
          act,
          PersonEvent.WAGE_CHANGED,
          id,
          About.NOTHING.with(told(before), told(changed.pay(), day)));
    }
  }

  private static Map<String, Object> told(Starter.@Nullable Pay pay) {
    return pay == null
        ? Map.of()
        : Map.of("wagePerHour", pay.wagePerHour(), "onCostShare", pay.onCostShare());
  }

  private static Map<String, Object> told(Starter.Pay pay, LocalDate from) {
    var told = new HashMap<>(told(pay));
    told.put("fromDay", from);
    return told;
  }

  /** Takes back a wage that was to hold from a day that has not come. */
  @Transactional
  public void withdrawWage(Act act, long id, int version, LocalDate from) {
    PersonRecord row = lock(id, version);
    if (!from.isAfter(act.today())) {
      throw new Refused(
          Rule.DAY_PASSED,
          "This wage holds already. Enter another from a later day instead of taking it back.");
    }
    int gone =
        database
            .deleteFrom(WAGE)
            .where(WAGE.PERSON_ID.eq(id).and(WAGE.FROM_DAY.eq(from)))
            .execute();
    if (gone == 0) {
      throw new Refused(Rule.NOT_FOUND, "Nothing was to change on that day. Reload the page.");
    }
    events.touch(act, PersonEvent.WAGE_CHANGED, row);
    changes.publishEvent(new SettingsChanged());
  }

  /** What each technician costs on a day, by who it is; whoever has no wage is not among them. */
  Map<Long, Starter.Pay> payOn(LocalDate day) {
    return database
        .select(WAGE.PERSON_ID, WAGE.WAGE_PER_HOUR, WAGE.ON_COST_SHARE)
        .distinctOn(WAGE.PERSON_ID)
        .from(WAGE)
        .where(WAGE.FROM_DAY.le(day))
        .orderBy(WAGE.PERSON_ID, WAGE.FROM_DAY.desc())
        .fetchMap(
            row -> row.value1(),
            row ->
                new Starter.Pay(
                    row.value2().stripTrailingZeros(), row.value3().stripTrailingZeros()));
  }

  /**
   * Somebody leaves: when their last day has come they are signed out at once, else when it is
   * over. All that they did stays.
   */
  @Transactional
  public void leave(Act act, long id, int version, @Nullable String lastDay) {
    PersonRecord row = lock(id, version);
    var reading = new Reading();
    LocalDate day = reading.required("lastDay", lastDay, typed -> Day.parse(typed, act.today()));
    if (day != null && day.isAfter(act.today().plusYears(1))) {
      reading.fault("lastDay", Rule.TOO_LARGE, "That is more than a year ahead. Check the day.");
    }
    reading.refuseIfFaulty();
    requireOwnerForOwners(act, row.getRole());
    refuseLastOwner(row);
    row.setLastDay(day);
    if (Objects.requireNonNull(day).isAfter(act.today())) {
      events.store(act, PersonEvent.PERSON_LEAVES, row);
    } else {
      leaveNow(act, row);
    }
  }

  /** Ends their work here and their sessions. */
  void leaveNow(Act act, PersonRecord row) {
    row.setActive(false);
    events.store(act, PersonEvent.PERSON_LEFT, row);
    sessions.endAll(row.getId(), null);
  }

  /** Somebody who left works here again, or does not leave after all. */
  @Transactional
  public void comeBack(Act act, long id, int version) {
    PersonRecord row = lock(id, version);
    requireOwnerForOwners(act, row.getRole());
    row.setActive(true);
    row.setLastDay(null);
    events.store(act, PersonEvent.PERSON_CAME_BACK, row);
  }

  /** Who sets a password, and the secret of the link with which they do. */
  record Link(String name, String username, String secret) {}

  /** A link with which somebody sets a password, good once and for two days. */
  @Transactional
  public Link makeLink(Act act, long id) {
    PersonRecord row = get(id);
    if (!row.getActive()) {
      throw new Refused(
          Rule.NOT_FOUND, row.getName() + " left. Take them back first, then make a link.");
    }
    requireOwnerForOwners(act, row.getRole());
    String secret = passwords.makeLink(id, act.at());
    events.tell(act, PersonEvent.PASSWORD_LINK_MADE, id, About.NOTHING);
    return new Link(row.getName(), row.getUsername(), secret);
  }

  /** Ends all sessions of somebody. */
  @Transactional
  public void endSessions(Act act, long id) {
    PersonRecord row = get(id);
    requireOwnerForOwners(act, row.getRole());
    sessions.endAll(id, null);
    events.tell(act, PersonEvent.SESSIONS_ENDED, id, About.NOTHING);
  }

  private PersonRecord get(long id) {
    return database
        .selectFrom(PERSON)
        .where(PERSON.ID.eq(id))
        // Whoever acts through a customer's link and the program itself are nobody's colleagues.
        .and(PERSON.ID.gt(0L))
        .fetchOptional()
        .orElseThrow(
            () -> new Refused(Rule.NOT_FOUND, "This person does not exist. Reload the page."));
  }

  private PersonRecord lock(long id, int version) {
    // Of two owners who leave at the same time, the second one is the last.
    database.execute("select 1 from person where role = 'owner' order by id for update");
    PersonRecord row = get(id);
    Versions.require(version, row.getVersion());
    return row;
  }

  private static void requireOwnerForOwners(Act act, Role role) {
    if (role == Role.OWNER && act.role() != Role.OWNER) {
      throw new Refused(Rule.OWNER_ONLY, "Only an owner makes or changes an owner.");
    }
  }

  boolean isLastOwner(PersonRecord row) {
    return row.getRole() == Role.OWNER
        && !database.fetchExists(
            PERSON,
            PERSON
                .ROLE
                .eq(Role.OWNER)
                .and(PERSON.ACTIVE)
                .and(PERSON.LAST_DAY.isNull())
                .and(PERSON.ID.ne(row.getId())));
  }

  private void refuseLastOwner(PersonRecord row) {
    if (isLastOwner(row)) {
      throw new Refused(
          Rule.LAST_OWNER,
          "%s is the only owner. Make somebody else an owner first.".formatted(row.getName()));
    }
  }
}
