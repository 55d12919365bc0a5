package app.pragmata.server.telling;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_MESSAGE;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.planning.ArrivalWindow;
import app.pragmata.core.planning.CalendarEntry;
import app.pragmata.core.planning.TellBy;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.VisitMessageRecord;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.mail.MailQueue;
import app.pragmata.server.mail.MailServers;
import app.pragmata.server.planning.Arrivals;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.LaterWork;
import app.pragmata.server.records.WhatHappened;
import app.pragmata.server.telling.VisitFacts.Facts;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.TaskInstance;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Tells customers of their visits. A plan that changed is told two minutes after its last change,
 * and only what differs from what they were told before: whoever drags a visit to and fro sends one
 * message, or none. That somebody is on the way, or comes later, is told at once.
 */
@Component
class VisitNews {
  /** What may have to be told of a visit. */
  enum News {
    PLAN,
    COMING,
    LATE
  }

  /** A change of a visit that may have to be told. */
  record Change(long visitId, News news) {}

  private static final TaskDescriptor<Change> TASK = TaskDescriptor.of("visit-news", Change.class);

  private static final Set<JobEvent> OF_THE_PLAN =
      Set.of(
          JobEvent.VISIT_PLANNED,
          JobEvent.VISIT_UNPLANNED,
          JobEvent.VISIT_CALLED_OFF,
          JobEvent.VISIT_NOT_THIS_TIME);

  private static final List<ToldKind> OF_PLAN =
      Stream.of(ToldKind.values()).filter(ToldKind::isOfPlan).toList();

  private final DSLContext database;
  private final VisitFacts facts;
  private final CompanyStore companies;
  private final MailQueue mail;
  private final MailServers mailServers;
  private final TextMessages texts;
  private final Arrivals arrivals;
  private final LaterWork later;
  private final TransactionTemplate transaction;
  private final Clock clock;
  private final Duration settlesIn;

  VisitNews(
      DSLContext database,
      VisitFacts facts,
      CompanyStore companies,
      MailQueue mail,
      MailServers mailServers,
      TextMessages texts,
      Arrivals arrivals,
      LaterWork later,
      TransactionTemplate transaction,
      Clock clock,
      @Value("${pragmata.visits-told-after:2m}") Duration settlesIn) {
    this.settlesIn = settlesIn;
    this.database = database;
    this.facts = facts;
    this.companies = companies;
    this.mail = mail;
    this.mailServers = mailServers;
    this.texts = texts;
    this.arrivals = arrivals;
    this.later = later;
    this.transaction = transaction;
    this.clock = clock;
  }

  @Bean
  static Task<Change> visitNewsTask(VisitNews news) {
    return Tasks.oneTime(TASK).execute((work, context) -> news.changed(work.getData()));
  }

  /** Has told what follows from changes of plans, and from drives that begin. */
  @EventListener
  public void follow(WhatHappened what) {
    Set<Long> planned = what.records(each -> OF_THE_PLAN.contains(each.event()));
    Set<Long> coming = what.records(each -> each.event() == JobEvent.VISIT_UNDER_WAY);
    Set<Long> late = what.records(each -> each.event() == JobEvent.VISIT_LATE);
    if (planned.isEmpty() && coming.isEmpty() && late.isEmpty()) {
      return;
    }
    Instant now = Instant.now();
    for (long visit : listeners(planned, true)) {
      later.at(now.plus(settlesIn), work(new Change(visit, News.PLAN), now));
    }
    for (long visit : listeners(coming, false)) {
      later.soon(work(new Change(visit, News.COMING), now));
    }
    for (long visit : listeners(late, false)) {
      later.soon(work(new Change(visit, News.LATE), now));
    }
  }

  private static TaskInstance<Change> work(Change change, Instant now) {
    return TASK.instance(change.visitId() + " " + now).data(change).build();
  }

  /** Those of these visits whose customers want to know. */
  private List<Long> listeners(Set<Long> visits, boolean ofPlan) {
    return visits.isEmpty()
        ? List.of()
        : database
            .select(VISIT.ID)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .where(VISIT.ID.in(visits))
            .and((ofPlan ? CUSTOMER.PLAN_TOLD_BY : CUSTOMER.COMING_TOLD_BY).ne(TellBy.NOBODY))
            .orderBy(VISIT.ID)
            .fetch(VISIT.ID);
  }

  private void changed(Change change) {
    transaction.executeWithoutResult(
        status -> {
          Act act = Act.ofProgram(clock.instant(), companies.getZone());
          Facts visit = facts.get(change.visitId());
          switch (change.news()) {
            case PLAN -> tellPlan(act, visit, visit.planToldBy());
            case COMING -> tellComing(act, visit);
            case LATE -> tellLate(act, visit);
          }
        });
  }

  /**
   * Tells a customer of a visit as it stands, whether they are told as a rule or not; says nothing
   * twice.
   *
   * @return what was told; null when they know it already, or when its time has passed
   */
  @Nullable ToldKind tell(Act act, long visitId) {
    Facts visit = facts.get(visitId);
    TellBy by =
        visit.planToldBy() != TellBy.NOBODY
            ? visit.planToldBy()
            : visit.mailAddress().isEmpty() ? TellBy.TEXT : TellBy.MAIL;
    if (address(visit, by).isEmpty()) {
      throw new Refused(
          Rule.MISSING,
          "Nobody knows where to write to %s. Enter a mail address or a telephone number first."
              .formatted(visit.customer()));
    }
    return tellPlan(act, visit, by);
  }

  private @Nullable ToldKind tellPlan(Act act, Facts visit, TellBy by) {
    VisitMessageRecord last = lastOfPlan(visit.visitId());
    boolean known = last != null && last.getKind() != ToldKind.CALLED_OFF;
    ToldKind kind = kind(visit, last, known);
    if (kind == null || address(visit, by).isEmpty()) {
      return null;
    }
    Told told =
        kind == ToldKind.CALLED_OFF
            ? Told.of(Objects.requireNonNull(last))
            : new Told(
                Objects.requireNonNull(visit.technicianId()),
                Objects.requireNonNull(visit.day()),
                Objects.requireNonNull(visit.start()),
                visit.expectedMinutes());
    if (told.hasPassed(act)) {
      // Work that is written down afterwards is no news.
      return null;
    }
    int sequence = last == null ? 0 : last.getSequence() + 1;
    note(act, visit, kind, by, told, sequence);
    Wording wording = companies.getCompany().wording();
    ArrivalWindow window = ArrivalWindow.of(told.start());
    String day = wording.day(told.day());
    Object[] when = {day, window.from(), window.to()};
    String subject =
        switch (kind) {
          case CONFIRMED -> wording.say(Phrase.MAIL_VISIT, when);
          case CHANGED -> wording.say(Phrase.MAIL_VISIT_CHANGED, when);
          default -> wording.say(Phrase.MAIL_VISIT_CALLED_OFF, day);
        };
    String says =
        kind == ToldKind.CALLED_OFF
            ? wording.say(Phrase.MAIL_VISIT_CALLED_OFF_SAYS, when)
            : says(wording, visit, day, window);
    send(act, visit, by, subject, says, entry(act, visit, told, sequence, subject, says, kind));
    return kind;
  }

  /** What the customer knows of a visit's plan, or is told of it. */
  private record Told(long technicianId, LocalDate day, LocalTime start, int minutes) {
    static Told of(VisitMessageRecord row) {
      return new Told(
          row.getTechnicianId(), row.getDay(), row.getStartTime(), row.getExpectedMinutes());
    }

    boolean hasPassed(Act act) {
      return day.atTime(start).isBefore(LocalDateTime.ofInstant(act.at(), act.zone()));
    }
  }

  private static @Nullable ToldKind kind(
      Facts visit, @Nullable VisitMessageRecord last, boolean known) {
    if (visit.state() == VisitState.Code.PLANNED) {
      if (last == null || !known) {
        return ToldKind.CONFIRMED;
      }
      boolean same =
          last.getDay().equals(visit.day())
              && last.getStartTime().equals(visit.start())
              && Objects.equals(last.getTechnicianId(), visit.technicianId());
      return same ? null : ToldKind.CHANGED;
    }
    boolean gone = visit.state() == VisitState.Code.UNPLANNED || visit.state().isDropped();
    return gone && known ? ToldKind.CALLED_OFF : null;
  }

  private @Nullable VisitMessageRecord lastOfPlan(long visitId) {
    return database
        .selectFrom(VISIT_MESSAGE)
        .where(VISIT_MESSAGE.VISIT_ID.eq(visitId))
        .and(VISIT_MESSAGE.KIND.in(OF_PLAN))
        .orderBy(VISIT_MESSAGE.ID.desc())
        .limit(1)
        .fetchOne();
  }

  /** Tells a customer once more of a visit as they know it, whose plan they are told of. */
  void remind(Act act, long visitId) {
    Facts visit = facts.get(visitId);
    TellBy by = visit.planToldBy();
    if (address(visit, by).isEmpty()) {
      return;
    }
    noteAsPlanned(act, visit, ToldKind.REMINDED, by);
    Wording wording = companies.getCompany().wording();
    ArrivalWindow window = ArrivalWindow.of(Objects.requireNonNull(visit.start()));
    String day = wording.day(Objects.requireNonNull(visit.day()));
    send(
        act,
        visit,
        by,
        wording.say(Phrase.MAIL_VISIT_REMINDER, day, window.from(), window.to()),
        says(wording, visit, day, window),
        null);
  }

  private void tellComing(Act act, Facts visit) {
    TellBy by = visit.comingToldBy();
    if (visit.state() != VisitState.Code.DRIVING || address(visit, by).isEmpty()) {
      return;
    }
    noteAsPlanned(act, visit, ToldKind.ON_THE_WAY, by);
    Wording wording = companies.getCompany().wording();
    LocalTime arrives = arrivals.expected(act, visit.visitId());
    send(
        act,
        visit,
        by,
        wording.say(Phrase.MAIL_ON_THE_WAY, visit.technician()),
        wording.say(Phrase.MAIL_ON_THE_WAY_SAYS, visit.technician(), arrives),
        null);
  }

  private void tellLate(Act act, Facts visit) {
    TellBy by = visit.comingToldBy();
    boolean ahead =
        visit.state() == VisitState.Code.PLANNED || visit.state() == VisitState.Code.DRIVING;
    if (!ahead || visit.lateMinutes() == null || address(visit, by).isEmpty()) {
      return;
    }
    noteAsPlanned(act, visit, ToldKind.LATE, by);
    Wording wording = companies.getCompany().wording();
    LocalTime arrives = Objects.requireNonNull(visit.start()).plusMinutes(visit.lateMinutes());
    send(
        act,
        visit,
        by,
        wording.say(Phrase.MAIL_LATE, visit.technician(), arrives),
        wording.say(Phrase.MAIL_LATE_SAYS, visit.technician(), visit.start(), arrives),
        null);
  }

  private void noteAsPlanned(Act act, Facts visit, ToldKind kind, TellBy by) {
    VisitMessageRecord last = lastOfPlan(visit.visitId());
    var told =
        new Told(
            Objects.requireNonNull(visit.technicianId()),
            Objects.requireNonNull(visit.day()),
            Objects.requireNonNull(visit.start()),
            visit.expectedMinutes());
    note(act, visit, kind, by, told, last == null ? 0 : last.getSequence());
  }

  private void note(Act act, Facts visit, ToldKind kind, TellBy by, Told told, int sequence) {
    VisitMessageRecord row = database.newRecord(VISIT_MESSAGE);
    row.setVisitId(visit.visitId());
    row.setKind(kind);
    row.setToldBy(by);
    row.setAddress(address(visit, by));
    row.setSequence((short) sequence);
    row.setTechnicianId(told.technicianId());
    row.setDay(told.day());
    row.setStartTime(told.start());
    row.setExpectedMinutes(told.minutes());
    row.setToldAt(act.at());
    row.store();
    if (kind.isOfPlan()) {
      boolean calledOff = kind == ToldKind.CALLED_OFF;
      database
          .update(VISIT)
          .set(VISIT.TOLD_DAY, calledOff ? null : told.day())
          .set(VISIT.TOLD_START, calledOff ? null : told.start())
          .where(VISIT.ID.eq(visit.visitId()))
          .execute();
    }
  }

  private static String address(Facts visit, TellBy by) {
    return switch (by) {
      case MAIL -> visit.mailAddress();
      case TEXT -> visit.phone();
      case NOBODY -> "";
    };
  }

  private String says(Wording wording, Facts visit, String day, ArrivalWindow window) {
    var says =
        new StringBuilder(
            wording.say(
                Phrase.MAIL_VISIT_SAYS,
                visit.technician(),
                day,
                window.from(),
                window.to(),
                visit.site().isEmpty() ? visit.address() : visit.site() + ", " + visit.address(),
                visit.title(),
                Minutes.text(visit.expectedMinutes())));
    if (!visit.equipment().isEmpty()) {
      says.append('\n').append(wording.say(Phrase.MAIL_VISIT_ON, visit.equipment()));
    }
    if (!visit.parts().isEmpty()) {
      says.append('\n')
          .append(wording.say(Phrase.MAIL_VISIT_PARTS, String.join(", ", visit.parts())));
    }
    says.append("\n\n").append(costs(wording, visit));
    return says.toString();
  }

  private String costs(Wording wording, Facts visit) {
    if (visit.quotedMinor() != null) {
      return wording.say(
          Phrase.MAIL_VISIT_AS_QUOTED,
          "%s %s"
              .formatted(
                  wording.price(
                      new UnitPrice(Money.ofMinor(visit.quotedMinor().longValueExact()).major())),
                  companies.getCompany().currency()));
    }
    LocalDate until = visit.warrantyUntil();
    return until != null && !until.isBefore(Objects.requireNonNull(visit.day()))
        ? wording.say(Phrase.MAIL_VISIT_WARRANTY, wording.day(until))
        : wording.say(Phrase.MAIL_VISIT_BY_TIME);
  }

  private CalendarEntry entry(
      Act act, Facts visit, Told told, int sequence, String subject, String says, ToldKind kind) {
    ZoneId zone = act.zone();
    Instant start = told.day().atTime(told.start()).atZone(zone).toInstant();
    return new CalendarEntry(
        uid(visit.visitId()),
        sequence,
        act.at(),
        start,
        start.plus(Duration.ofMinutes(told.minutes())),
        subject,
        visit.address(),
        says,
        kind == ToldKind.CALLED_OFF);
  }

  private String uid(long visitId) {
    String from = mailServers.from();
    return "visit-%d@%s"
        .formatted(visitId, from.substring(from.indexOf('@') + 1))
        .toLowerCase(Locale.ROOT);
  }

  private void send(
      Act act, Facts visit, TellBy by, String subject, String says, @Nullable CalendarEntry entry) {
    if (by == TellBy.TEXT) {
      texts.queue(act, visit.phone(), subject + ". " + says);
      return;
    }
    Company company = companies.getCompany();
    mail.queue(
        act,
        MailQueue.Letter.of(
                visit.mailAddress(),
                subject,
                "%s\n\n%s\n\n%s\n"
                    .formatted(
                        company.wording().say(Phrase.MAIL_GREETING, visit.customer()),
                        says,
                        company.identity().name()),
                visit.customerId())
            .withCalendar(entry == null ? null : entry.message(mailServers.from())));
  }
}
