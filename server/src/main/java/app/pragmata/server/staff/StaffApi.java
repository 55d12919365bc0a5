package app.pragmata.server.staff;

import static app.pragmata.server.generated.Tables.PASSWORD;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.WAGE;

import app.pragmata.core.Reading;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.core.people.Role;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.http.PublicAddress;
import app.pragmata.server.mail.MailServers;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Made;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The people who work here, as the office keeps them. */
@RestController
class StaffApi {
  /**
   * Somebody who works here, or did.
   *
   * @param lastDay of whoever left or is to leave; null for everybody else
   * @param signsIn whether they have set a password
   * @param wagePerHour of a technician today; null for whoever has no wage
   * @param onCostPercent what the employer pays on top of it
   * @param mayBackdate whether a technician may put their own times right
   * @param maySeePrices whether a technician sees what is charged
   */
  record Employee(
      long id,
      int version,
      String name,
      String username,
      Role role,
      boolean active,
      @Nullable LocalDate lastDay,
      boolean signsIn,
      @Nullable BigDecimal wagePerHour,
      @Nullable BigDecimal onCostPercent,
      boolean mayBackdate,
      boolean maySeePrices,
      List<ComingWage> comingWages) {}

  /** What a technician costs from a day on that is to come. */
  record ComingWage(LocalDate fromDay, BigDecimal wagePerHour, BigDecimal onCostPercent) {}

  /**
   * Where the link goes.
   *
   * @param mailTo an address of theirs; empty for a link that is read out or handed over
   */
  record LinkForm(@Nullable String mailTo) {}

  /**
   * Where somebody sets a password.
   *
   * @param path below the program's address
   * @param mailedTo the address to which it went; empty for none
   */
  record MadeLink(String path, String mailedTo) {}

  record LeaveForm(int version, @Nullable String lastDay) {}

  record VersionForm(int version) {}

  private final StaffService service;
  private final DSLContext database;
  private final MailServers mail;
  private final PublicAddress address;
  private final CompanyStore companies;

  StaffApi(
      StaffService service,
      DSLContext database,
      MailServers mail,
      PublicAddress address,
      CompanyStore companies) {
    this.service = service;
    this.database = database;
    this.mail = mail;
    this.address = address;
    this.companies = companies;
  }

  /** Whoever works here by name, then whoever left. */
  @GetMapping("/api/staff")
  List<Employee> listStaff(Act act) {
    Map<Long, Starter.Pay> pays = service.payOn(act.today());
    Map<Long, List<ComingWage>> coming =
        database
            .selectFrom(WAGE)
            .where(WAGE.FROM_DAY.gt(act.today()))
            .orderBy(WAGE.FROM_DAY)
            .fetchGroups(
                WAGE.PERSON_ID,
                row ->
                    new ComingWage(
                        row.getFromDay(),
                        row.getWagePerHour().stripTrailingZeros(),
                        row.getOnCostShare().movePointRight(2).stripTrailingZeros()));
    return database
        .select(PERSON, PASSWORD.PERSON_ID)
        .from(PERSON)
        .leftJoin(PASSWORD)
        .on(PASSWORD.PERSON_ID.eq(PERSON.ID))
        .where(PERSON.ID.gt(0L))
        .orderBy(PERSON.ACTIVE.desc(), PERSON.NAME)
        .fetch(
            row -> {
              var person = row.value1();
              Starter.Pay pay = pays.get(person.getId());
              return new Employee(
                  person.getId(),
                  person.getVersion(),
                  person.getName(),
                  person.getUsername(),
                  person.getRole(),
                  person.getActive(),
                  person.getLastDay(),
                  row.value2() != null,
                  pay == null ? null : pay.wagePerHour(),
                  pay == null ? null : pay.onCostShare().movePointRight(2).stripTrailingZeros(),
                  person.getMayBackdate(),
                  person.getMaySeePrices(),
                  coming.getOrDefault(person.getId(), List.of()));
            });
  }

  @PostMapping("/api/staff")
  Made addEmployee(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody StaffService.StaffForm form) {
    return new Made(service.add(act, key, form));
  }

  @PutMapping("/api/staff/{id}")
  Made changeEmployee(Act act, @PathVariable long id, @RequestBody StaffService.StaffForm form) {
    service.change(act, id, form);
    return new Made(id);
  }

  @PostMapping("/api/staff/{id}/leave")
  Made noteLeaver(Act act, @PathVariable long id, @RequestBody LeaveForm form) {
    service.leave(act, id, form.version(), form.lastDay());
    return new Made(id);
  }

  @PostMapping("/api/staff/{id}/come-back")
  Made noteReturn(Act act, @PathVariable long id, @RequestBody VersionForm form) {
    service.comeBack(act, id, form.version());
    return new Made(id);
  }

  /** Takes back a wage that was to hold from a day that has not come. */
  @DeleteMapping("/api/staff/{id}/wages/{fromDay}")
  Made withdrawWage(
      Act act, @PathVariable long id, @PathVariable LocalDate fromDay, @RequestParam int version) {
    service.withdrawWage(act, id, version, fromDay);
    return new Made(id);
  }

  /** Signs somebody out everywhere, such as when a phone was lost. */
  @DeleteMapping("/api/staff/{id}/sessions")
  Made endSessions(Act act, @PathVariable long id) {
    service.endSessions(act, id);
    return new Made(id);
  }

  /** A link to set a password, shown once and mailed if asked; an earlier one is good no more. */
  @PostMapping("/api/staff/{id}/password-link")
  MadeLink makePasswordLink(Act act, @PathVariable long id, @RequestBody LinkForm form) {
    var reading = new Reading();
    String mailTo = reading.optional("mailTo", form.mailTo(), MailAddress::parse);
    reading.refuseIfFaulty();
    StaffService.Link link = service.makeLink(act, id);
    String path = "/password/" + link.secret();
    if (mailTo != null) {
      Wording wording = companies.getCompany().wording();
      // Not by the queue, which keeps what it sends.
      mail.sendNow(
          mailTo,
          wording.say(Phrase.MAIL_PASSWORD, companies.getCompany().identity().name()),
          wording.say(Phrase.MAIL_PASSWORD_SAYS, link.name(), link.username(), address.of(path)));
    }
    return new MadeLink(path, mailTo == null ? "" : mailTo);
  }
}
