package app.pragmata.server.telling;

import static app.pragmata.server.generated.Tables.CALENDAR_FEED;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_COMPANION;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.CalendarEntry;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.http.PublicAddress;
import app.pragmata.server.http.Unguessable;
import app.pragmata.server.jobs.OwnHours;
import app.pragmata.server.mail.MailServers;
import app.pragmata.server.records.Act;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RestController;

/** A technician's visits in their own calendar, at an address that nobody can guess. */
@RestController
class CalendarFeeds {
  /** Whether there is a feed, and since when. */
  record FeedState(@Nullable Instant madeAt) {}

  /** The address of a feed; it is told once, for only its sum is kept. */
  record FeedMade(String address) {}

  private static final int PAST_DAYS = 14;
  private static final MediaType CALENDAR =
      new MediaType("text", "calendar", StandardCharsets.UTF_8);

  private final DSLContext database;
  private final CompanyStore companies;
  private final MailServers mailServers;
  private final PublicAddress publicAddress;
  private final Clock clock;

  CalendarFeeds(
      DSLContext database,
      CompanyStore companies,
      MailServers mailServers,
      PublicAddress publicAddress,
      Clock clock) {
    this.database = database;
    this.companies = companies;
    this.mailServers = mailServers;
    this.publicAddress = publicAddress;
    this.clock = clock;
  }

  @GetMapping("/api/pocket/calendar")
  FeedState getCalendarFeed(Act act) {
    return new FeedState(
        database
            .select(CALENDAR_FEED.MADE_AT)
            .from(CALENDAR_FEED)
            .where(CALENDAR_FEED.PERSON_ID.eq(act.personId()))
            .fetchOne(CALENDAR_FEED.MADE_AT));
  }

  /** Makes an address; one that there was is good no more. */
  @PostMapping("/api/pocket/calendar")
  @Transactional
  public FeedMade makeCalendarFeed(Act act) {
    String secret = Unguessable.make();
    database
        .insertInto(CALENDAR_FEED)
        .set(CALENDAR_FEED.PERSON_ID, act.personId())
        .set(CALENDAR_FEED.SECRET_HASH, sum(secret))
        .set(CALENDAR_FEED.MADE_AT, act.at())
        .onConflict(CALENDAR_FEED.PERSON_ID)
        .doUpdate()
        .set(CALENDAR_FEED.SECRET_HASH, sum(secret))
        .set(CALENDAR_FEED.MADE_AT, act.at())
        .execute();
    return new FeedMade(publicAddress.of("/api/calendars/" + secret));
  }

  /** Withdraws the address. Withdrawing it again does nothing. */
  @DeleteMapping("/api/pocket/calendar")
  @Transactional
  public void withdrawCalendarFeed(Act act) {
    database.deleteFrom(CALENDAR_FEED).where(CALENDAR_FEED.PERSON_ID.eq(act.personId())).execute();
  }

  private static byte[] sum(String secret) {
    try {
      return MessageDigest.getInstance("SHA-256").digest(secret.getBytes(StandardCharsets.UTF_8));
    } catch (NoSuchAlgorithmException missing) {
      throw new IllegalStateException("Every Java has SHA-256", missing);
    }
  }

  /** The visits of whoever the address belongs to, from two weeks ago on. */
  @GetMapping("/api/calendars/{secret}")
  ResponseEntity<String> getCalendar(@PathVariable String secret) {
    var person =
        database
            .select(PERSON.ID, PERSON.NAME)
            .from(CALENDAR_FEED)
            .join(PERSON)
            .on(PERSON.ID.eq(CALENDAR_FEED.PERSON_ID))
            .where(CALENDAR_FEED.SECRET_HASH.eq(sum(secret)))
            .and(PERSON.ACTIVE)
            .fetchOne();
    if (person == null) {
      throw new Refused(
          Rule.NOT_FOUND,
          "This calendar does not exist or was withdrawn. Make a new address in Pocket.");
    }
    ZoneId zone = companies.getZone();
    LocalDate first = LocalDate.ofInstant(clock.instant(), zone).minusDays(PAST_DAYS);
    return ResponseEntity.ok()
        .contentType(CALENDAR)
        .cacheControl(CacheControl.noStore())
        .body(CalendarEntry.feed(person.value2(), entries(person.value1(), first, zone)));
  }

  private List<CalendarEntry> entries(long personId, LocalDate first, ZoneId zone) {
    String from = mailServers.from();
    String domain = from.substring(from.indexOf('@') + 1);
    return database
        .select(OwnHours.of(personId))
        .select(VISIT.ID, VISIT.VERSION, VISIT.DAY)
        .select(CUSTOMER.NAME, JOB.TITLE, JOB.NUMBER, SITE.NAME, SITE.ADDRESS, SITE.ACCESS_NOTES)
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .where(VISIT.DAY.ge(first))
        .and(
            VISIT.STATE.notIn(
                VisitState.Code.UNPLANNED,
                VisitState.Code.NOT_THIS_TIME,
                VisitState.Code.CALLED_OFF))
        .and(
            VISIT
                .TECHNICIAN_ID
                .eq(personId)
                .or(
                    DSL.exists(
                        selectOne()
                            .from(VISIT_COMPANION)
                            .where(VISIT_COMPANION.VISIT_ID.eq(VISIT.ID))
                            .and(VISIT_COMPANION.PERSON_ID.eq(personId)))))
        .orderBy(VISIT.DAY, VISIT.START_TIME, VISIT.ID)
        .fetch(
            row -> {
              OwnHours hours = row.get(0, OwnHours.class);
              Instant start = row.get(VISIT.DAY).atTime(hours.start()).atZone(zone).toInstant();
              return new CalendarEntry(
                  "stop-%d@%s".formatted(row.get(VISIT.ID), domain),
                  row.get(VISIT.VERSION),
                  clock.instant(),
                  start,
                  start.plus(Duration.ofMinutes(hours.minutes())),
                  row.get(CUSTOMER.NAME) + ": " + row.get(JOB.TITLE),
                  row.get(SITE.ADDRESS),
                  "J %d\n%s".formatted(row.get(JOB.NUMBER), row.get(SITE.ACCESS_NOTES)).strip(),
                  false);
            });
  }
}
