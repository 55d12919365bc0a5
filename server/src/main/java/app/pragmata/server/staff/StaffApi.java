package app.pragmata.server.staff;

import static app.pragmata.server.generated.Tables.PASSWORD;
import static app.pragmata.server.generated.Tables.PERSON;

import app.pragmata.core.people.Role;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Made;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** The people who work here, as the office keeps them. */
@RestController
class StaffApi {
  /**
   * Somebody who works here, or did.
   *
   * @param lastDay of whoever left; null for everybody else
   * @param signsIn whether they have set a password
   * @param wagePerHour of a technician today; null for whoever has no wage
   * @param onCostPercent what the employer pays on top of it
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
      @Nullable BigDecimal onCostPercent) {}

  /** Where somebody sets a password: the path below the program's address. */
  record MadeLink(String path) {}

  record LeaveForm(int version, @Nullable String lastDay) {}

  record VersionForm(int version) {}

  private final StaffService service;
  private final DSLContext database;

  StaffApi(StaffService service, DSLContext database) {
    this.service = service;
    this.database = database;
  }

  /** Whoever works here by name, then whoever left. */
  @GetMapping("/api/staff")
  List<Employee> listStaff(Act act) {
    Map<Long, Starter.Pay> pays = service.payOn(act.today());
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
                  pay == null ? null : pay.onCostShare().movePointRight(2).stripTrailingZeros());
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

  /** A link to set a password, shown once; an earlier one is good no more. */
  @PostMapping("/api/staff/{id}/password-link")
  MadeLink makePasswordLink(Act act, @PathVariable long id) {
    return new MadeLink("/password/" + service.makeLink(act, id));
  }
}
