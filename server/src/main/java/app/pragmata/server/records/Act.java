package app.pragmata.server.records;

import app.pragmata.core.people.Role;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;

/** Who does something, and when; the moment is the only time that a service knows. */
public record Act(long personId, Role role, Instant at, ZoneId zone) {
  private static final long THE_CUSTOMER = 0;
  private static final long THE_PROGRAM = -1;

  /** What somebody does through a customer's link. */
  public static Act ofCustomer(Instant at, ZoneId zone) {
    return new Act(THE_CUSTOMER, Role.CUSTOMER, at, zone);
  }

  /** What the program does of itself, such as giving up on a message. */
  public static Act ofProgram(Instant at, ZoneId zone) {
    return new Act(THE_PROGRAM, Role.PROGRAM, at, zone);
  }

  /** The same moment, as what a technician does. */
  public Act byTechnician(long technicianId) {
    return new Act(technicianId, Role.TECHNICIAN, at, zone);
  }

  /** The company's day at the moment of the act. */
  public LocalDate today() {
    return dayOf(at);
  }

  /** The company's day at another moment. */
  public LocalDate dayOf(Instant moment) {
    return moment.atZone(zone).toLocalDate();
  }
}
