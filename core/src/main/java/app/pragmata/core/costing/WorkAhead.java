package app.pragmata.core.costing;

import static app.pragmata.core.jobs.TimeEntry.Kind.DRIVE;
import static app.pragmata.core.jobs.TimeEntry.Kind.LABOUR;

import app.pragmata.core.Category;
import app.pragmata.core.Coded;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.Terms;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.OtherCost;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What of a job is still to come (the textbooks' estimate to complete): what is planned at the
 * rates of whoever is planned, and what was promised and is neither done nor planned as it was
 * quoted. Each item is rounded half up by itself.
 *
 * @param day of what is for no visit yet
 */
public record WorkAhead(List<Item> items, LocalDate day) {
  /** Why something is to come. */
  public enum Kind implements Coded {
    /** Somebody's labour on a visit that is not over. */
    PLANNED,
    /** It was promised, and is neither done nor planned. */
    PROMISED,
    /** A subcontractor was ordered to do it, and has not sent their bill. */
    AWAITED,
    /** The drive to a visit that is not over, reckoned as those before. */
    AS_BEFORE
  }

  /** One thing to come: time, a part or another cost. */
  public sealed interface Item {
    Kind kind();

    /** The visit that it is for; 0 for none yet. */
    long visitId();

    Category category();

    String description();

    Money cost();

    /** Labour or a drive, its cost reckoned. */
    record Time(Kind kind, long visitId, String description, TimeEntry entry, Money cost)
        implements Item {
      @Override
      public Category category() {
        return entry.kind() == DRIVE ? Category.DRIVE : Category.LABOUR;
      }
    }

    /** A promised part that is still to be fitted. */
    record Part(long visitId, PartUse use) implements Item {
      @Override
      public Kind kind() {
        return Kind.PROMISED;
      }

      @Override
      public Category category() {
        return Category.PARTS;
      }

      @Override
      public String description() {
        return use.description();
      }

      @Override
      public Money cost() {
        return use.cost();
      }
    }

    /** What of subcontracts, hire and permits no supplier has billed yet. */
    record Other(Kind kind, OtherCost other) implements Item {
      @Override
      public long visitId() {
        return NO_VISIT;
      }

      @Override
      public Category category() {
        return Category.OTHER;
      }

      @Override
      public String description() {
        return other.description();
      }

      @Override
      public Money cost() {
        return other.cost();
      }
    }
  }

  /**
   * A visit that is not over.
   *
   * @param start when it begins on that day; null where nobody has said, which counts as normal
   *     time
   */
  public record Visit(long id, LocalDate day, @Nullable LocalTime start, List<Worker> workers) {}

  /**
   * Somebody who is to work on a visit.
   *
   * @param personId null while nobody is chosen
   * @param startsAfter how many minutes after it begins
   */
  public record Worker(@Nullable Long personId, int startsAfter, int minutes) {}

  /**
   * A promised line of labour.
   *
   * @param workedMinutes clocked on this line by itself
   * @param done whether it was ticked off
   */
  public record PromisedWork(int minutes, int workedMinutes, boolean done) {
    private int missing() {
      return Math.max(0, minutes - workedMinutes);
    }
  }

  private static final long NO_VISIT = 0;
  private static final long NOBODY = 0;

  public WorkAhead {
    items = List.copyOf(items);
  }

  /**
   * Works out what is to come of a job that goes on.
   *
   * @param visits that are not over, in the order of their days
   * @param work its promised lines of labour
   * @param awaited suppliers' bills that are to come, at what they are expected to cost; they stand
   *     for what was promised of such costs
   * @param today the day of what has none
   */
  public static WorkAhead of(
      JobFacts job,
      List<Visit> visits,
      List<PromisedWork> work,
      List<OtherCost> awaited,
      Terms terms,
      WorkingCalendar calendar,
      LocalDate today) {
    return new Reckoning(job, visits, terms, calendar, today).all(work, awaited);
  }

  /** What is to come of a job whose work is done: bills of suppliers alone. */
  public static WorkAhead ofBills(List<OtherCost> awaited, LocalDate today) {
    return new WorkAhead(awaited.stream().map(WorkAhead::awaited).toList(), today);
  }

  private static Item awaited(OtherCost bill) {
    return new Item.Other(Kind.AWAITED, bill);
  }

  /** These facts and all that is to come, as if it were done. */
  public JobFacts addedTo(JobFacts job) {
    Map<Long, List<Item>> byVisit = new HashMap<>();
    var others = new ArrayList<>(job.otherCosts());
    for (Item item : items) {
      if (item instanceof Item.Other other) {
        others.add(other.other());
      } else {
        byVisit.computeIfAbsent(item.visitId(), id -> new ArrayList<>()).add(item);
      }
    }
    var visits = new ArrayList<VisitFacts>();
    for (VisitFacts visit : job.visits()) {
      List<Item> more = byVisit.remove(visit.id());
      visits.add(more == null ? visit : added(visit, more));
    }
    byVisit
        .values()
        .forEach(
            more ->
                visits.add(
                    added(
                        new VisitFacts(
                            NO_VISIT, day, Charging.WHOLE, List.of(), List.of(), List.of()),
                        more)));
    return new JobFacts(job.promise(), visits, others, job.charges(), job.vat());
  }

  private static VisitFacts added(VisitFacts visit, List<Item> more) {
    var times = new ArrayList<>(visit.times());
    var parts = new ArrayList<>(visit.parts());
    for (Item item : more) {
      switch (item) {
        case Item.Time time -> times.add(time.entry());
        case Item.Part part -> parts.add(part.use());
        case Item.Other other -> {}
      }
    }
    return new VisitFacts(
        visit.id(),
        visit.day(),
        visit.charging(),
        visit.outOfWarranty(),
        times,
        parts,
        visit.drivesHome());
  }

  /** Minutes of labour to come. */
  public int labourMinutes() {
    return items.stream()
        .mapToInt(
            item ->
                item instanceof Item.Time time && time.entry().kind() == LABOUR
                    ? time.entry().minutes()
                    : 0)
        .sum();
  }

  /** What is to come, while it is found out. */
  private static final class Reckoning {
    private final JobFacts job;
    private final List<Visit> visits;
    private final Terms terms;
    private final WorkingCalendar calendar;
    private final List<Item> items = new ArrayList<>();

    /** Where what is not planned is added: the last visit to come, or none. */
    private final long last;

    private final LocalDate lastDay;

    Reckoning(
        JobFacts job, List<Visit> visits, Terms terms, WorkingCalendar calendar, LocalDate today) {
      this.job = job;
      this.visits = visits;
      this.terms = terms;
      this.calendar = calendar;
      last = visits.isEmpty() ? NO_VISIT : visits.getLast().id();
      lastDay = visits.isEmpty() ? today : visits.getLast().day();
    }

    WorkAhead all(List<PromisedWork> work, List<OtherCost> awaited) {
      visits.forEach(visit -> visit.workers().forEach(worker -> planned(visit, worker)));
      promisedLabour(work);
      drive();
      parts();
      other(awaited);
      return new WorkAhead(items, lastDay);
    }

    /** Visits that happened or are to; what was spent on others has brought the work no further. */
    private Stream<VisitFacts> standing() {
      return job.visits().stream().filter(visit -> visit.charging() != Charging.NOTHING);
    }

    private Stream<TimeEntry> times(TimeEntry.Kind kind) {
      return standing().flatMap(visit -> times(visit, kind));
    }

    private static Stream<TimeEntry> times(VisitFacts visit, TimeEntry.Kind kind) {
      return visit.times().stream().filter(entry -> entry.kind() == kind);
    }

    private Stream<TimeEntry> times(long visitId, TimeEntry.Kind kind) {
      return standing().filter(visit -> visit.id() == visitId).flatMap(visit -> times(visit, kind));
    }

    private void planned(Visit visit, Worker worker) {
      int worked =
          worker.personId() == null
              ? 0
              : times(visit.id(), LABOUR)
                  .filter(entry -> entry.personId() == worker.personId())
                  .mapToInt(TimeEntry::minutes)
                  .sum();
      int left = worker.minutes() - worked;
      if (left <= 0) {
        return;
      }
      if (visit.start() == null) {
        planned(visit, worker, RateClass.NORMAL, visit.day(), left);
        return;
      }
      Instant from =
          visit
              .day()
              .atTime(visit.start())
              .atZone(calendar.zone())
              .toInstant()
              .plusSeconds(60L * (worker.startsAfter() + worked));
      for (WorkingCalendar.Span span : calendar.split(from, from.plusSeconds(60L * left))) {
        planned(
            visit,
            worker,
            span.rateClass(),
            span.from().atZone(calendar.zone()).toLocalDate(),
            TimeEntry.minutesBetween(span.from(), span.to()));
      }
    }

    private void planned(
        Visit visit, Worker worker, RateClass rateClass, LocalDate day, int minutes) {
      Money cost = Money.forMinutes(minutes, terms.costPerHour(worker.personId(), rateClass, day));
      long personId = worker.personId() == null ? NOBODY : worker.personId();
      labour(Kind.PLANNED, visit.id(), "", personId, rateClass, day, minutes, cost);
    }

    private void labour(
        Kind kind,
        long visitId,
        String description,
        long personId,
        RateClass rateClass,
        LocalDate day,
        int minutes,
        Money cost) {
      var approved = new TimeEntry.Cost(cost, Money.ZERO);
      var entry =
          new TimeEntry(0, personId, LABOUR, rateClass, day, minutes, BigDecimal.ZERO, approved);
      items.add(new Item.Time(kind, visitId, description, entry, cost));
    }

    private void leg(
        Kind kind, String description, int minutes, BigDecimal miles, Money time, Money distance) {
      if (minutes > 0 || miles.signum() > 0) {
        var approved = new TimeEntry.Cost(time, distance);
        var entry =
            new TimeEntry(0, NOBODY, DRIVE, RateClass.NORMAL, lastDay, minutes, miles, approved);
        items.add(new Item.Time(kind, last, description, entry, approved.total()));
      }
    }

    /** What of the promised labour is neither done nor planned, from the last line on. */
    private void promisedLabour(List<PromisedWork> work) {
      int planned = new WorkAhead(items, lastDay).labourMinutes();
      int promised = work.stream().mapToInt(PromisedWork::minutes).sum();
      int skip = promised - Math.max(0, toDo(work) - planned);
      for (QuoteLine line : job.promise()) {
        if (line instanceof QuoteLine.Labour labour) {
          int left = Math.max(0, labour.minutes() - skip);
          skip = Math.max(0, skip - labour.minutes());
          if (left > 0) {
            Money cost = Money.forMinutes(left, labour.costPerHour());
            labour(
                Kind.PROMISED,
                last,
                labour.description(),
                NOBODY,
                labour.rateClass(),
                lastDay,
                left,
                cost);
          }
        }
      }
    }

    /**
     * Minutes that the lines not ticked off still need. Work that was clocked on no line counts for
     * those that are done first, and then for the others.
     */
    private int toDo(List<PromisedWork> work) {
      int onLines = work.stream().mapToInt(PromisedWork::workedMinutes).sum();
      int elsewhere = times(LABOUR).mapToInt(TimeEntry::minutes).sum() - onLines;
      int ofDone = work.stream().filter(PromisedWork::done).mapToInt(PromisedWork::missing).sum();
      int open = work.stream().filter(line -> !line.done()).mapToInt(PromisedWork::missing).sum();
      return Math.max(0, open - Math.max(0, elsewhere - ofDone));
    }

    /**
     * What of the promised drive is left; once there is none, each visit drives as those before.
     */
    private void drive() {
      List<TimeEntry> driven = times(DRIVE).toList();
      int skipMinutes = driven.stream().mapToInt(TimeEntry::minutes).sum();
      BigDecimal skipMiles =
          driven.stream().map(TimeEntry::miles).reduce(BigDecimal.ZERO, BigDecimal::add);
      boolean promised = false;
      for (QuoteLine line : job.promise()) {
        if (line instanceof QuoteLine.Drive leg) {
          int minutes = Math.max(0, leg.minutes() - skipMinutes);
          BigDecimal miles = leg.miles().subtract(skipMiles).max(BigDecimal.ZERO);
          skipMinutes = Math.max(0, skipMinutes - leg.minutes());
          skipMiles = skipMiles.subtract(leg.miles()).max(BigDecimal.ZERO);
          promised |= minutes > 0;
          leg(
              Kind.PROMISED,
              leg.description(),
              minutes,
              miles,
              Money.forMinutes(minutes, leg.costPerHour()),
              Money.rounded(miles.multiply(leg.costPerMile())));
        }
      }
      if (!promised && !driven.isEmpty()) {
        asBefore(driven);
      }
    }

    private void asBefore(List<TimeEntry> driven) {
      long toDrive =
          visits.stream().filter(visit -> times(visit.id(), DRIVE).findAny().isEmpty()).count();
      long drivenTo = standing().filter(visit -> times(visit, DRIVE).findAny().isPresent()).count();
      var costing = new Costing(terms);
      BigDecimal share =
          BigDecimal.valueOf(toDrive)
              .divide(BigDecimal.valueOf(drivenTo), 10, RoundingMode.HALF_UP);
      leg(
          Kind.AS_BEFORE,
          "",
          BigDecimal.valueOf(driven.stream().mapToInt(TimeEntry::minutes).sum())
              .multiply(share)
              .setScale(0, RoundingMode.HALF_UP)
              .intValueExact(),
          driven.stream()
              .map(TimeEntry::miles)
              .reduce(BigDecimal.ZERO, BigDecimal::add)
              .multiply(share)
              .setScale(1, RoundingMode.HALF_UP),
          driven.stream()
              .map(entry -> costing.cost(entry).time())
              .collect(Money.sum())
              .times(share),
          driven.stream()
              .map(entry -> costing.cost(entry).distance())
              .collect(Money.sum())
              .times(share));
    }

    private void parts() {
      Map<Long, BigDecimal> fitted = new HashMap<>();
      job.parts().forEach(use -> fitted.merge(use.partId(), use.quantity(), BigDecimal::add));
      for (QuoteLine line : job.promise()) {
        if (line instanceof QuoteLine.Part part) {
          BigDecimal had = fitted.getOrDefault(part.partId(), BigDecimal.ZERO).min(part.quantity());
          fitted.merge(part.partId(), had, BigDecimal::subtract);
          BigDecimal left = part.quantity().subtract(had);
          if (left.signum() > 0) {
            items.add(
                new Item.Part(
                    last,
                    new PartUse(
                        0,
                        part.partId(),
                        part.description(),
                        left.stripTrailingZeros(),
                        Money.rounded(part.unitCost().multiply(left)),
                        part.unitPrice(),
                        part.vatTreatment(),
                        // What the promise left to the customer is under no warranty later.
                        part.reductions().warranty().isZero())));
          }
        }
      }
    }

    private void other(List<OtherCost> awaited) {
      awaited.forEach(bill -> items.add(awaited(bill)));
      Money billed =
          Stream.concat(job.otherCosts().stream(), awaited.stream())
              .map(OtherCost::cost)
              .filter(Money::isPositive)
              .collect(Money.sum());
      for (QuoteLine line : job.promise()) {
        if (line instanceof QuoteLine.Other other) {
          Money had = billed.compareTo(other.cost()) < 0 ? billed : other.cost();
          billed = billed.minus(had);
          Money left = other.cost().minus(had);
          if (left.isPositive()) {
            items.add(
                new Item.Other(
                    Kind.PROMISED,
                    new OtherCost(0, lastDay, other.description(), left, other.vatTreatment())));
          }
        }
      }
    }
  }
}
