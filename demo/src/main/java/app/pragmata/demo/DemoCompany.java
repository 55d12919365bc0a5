package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.COMPANY;

import app.pragmata.core.people.Role;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.finding.SearchEntries;
import app.pragmata.server.records.Act;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Ferrow Gate & Shutter in Ostmere: invented from the first to the last penny, but worked through
 * the real services.
 */
@Component
public class DemoCompany {
  private static final Logger LOG = LoggerFactory.getLogger(DemoCompany.class);

  private final DSLContext database;
  private final DemoCatalogue catalogue;
  private final DemoWork work;
  private final DemoOffers offers;
  private final DemoTeam team;
  private final DemoMoney money;
  private final DemoBills bills;
  private final DemoPlanner planner;
  private final DemoPartsWanted partsWanted;
  private final DemoChecklists checklists;
  private final DemoHours hours;
  private final DemoPhotos photos;
  private final DemoMessages messages;
  private final DemoStores stores;
  private final DemoRounds rounds;
  private final DemoLate late;
  private final SearchEntries search;
  private final CompanyStore companies;
  private final TransactionTemplate transaction;
  private final Clock clock;
  private final ObjectProvider<LargeCompany> large;

  DemoCompany(
      DSLContext database,
      DemoCatalogue catalogue,
      DemoWork work,
      DemoOffers offers,
      DemoTeam team,
      DemoMoney money,
      DemoBills bills,
      DemoPlanner planner,
      DemoPartsWanted partsWanted,
      DemoChecklists checklists,
      DemoHours hours,
      DemoPhotos photos,
      DemoMessages messages,
      DemoStores stores,
      DemoRounds rounds,
      DemoLate late,
      SearchEntries search,
      CompanyStore companies,
      TransactionTemplate transaction,
      Clock clock,
      ObjectProvider<LargeCompany> large) {
    this.database = database;
    this.catalogue = catalogue;
    this.work = work;
    this.offers = offers;
    this.team = team;
    this.money = money;
    this.bills = bills;
    this.planner = planner;
    this.partsWanted = partsWanted;
    this.checklists = checklists;
    this.hours = hours;
    this.photos = photos;
    this.messages = messages;
    this.stores = stores;
    this.rounds = rounds;
    this.late = late;
    this.search = search;
    this.companies = companies;
    this.transaction = transaction;
    this.clock = clock;
    this.large = large;
  }

  /**
   * Fills an empty database, in one transaction, so that a start that is killed leaves nothing half
   * done.
   */
  public void loadOnce() {
    if (database.fetchExists(COMPANY)) {
      return;
    }
    if (large.getIfAvailable() != null) {
      loadLarge();
      return;
    }
    LOG.info("Loading the demo company");
    transaction.executeWithoutResult(
        status -> {
          // Nobody else reads yet, and a crash only means loading again.
          database.execute("set local synchronous_commit = off");
          var today = clock.instant().atZone(DemoCatalogue.ZONE).toLocalDate();
          catalogue.insert(today);
          offers.insertKits();
          work.replay(clock.instant(), companies.getZone());
          team.sendAway(today);
          offers.forgetOldMail();
          Instant now = clock.instant();
          ZoneId zone = companies.getZone();
          offers.offerSlidingGate(
              new Act(work.officeManager(), Role.OFFICE, now.minus(2, ChronoUnit.DAYS), zone),
              new Act(work.officeManager(), Role.OFFICE, now, zone));
          money.take(new Act(work.officeManager(), Role.OFFICE, now, zone));
          bills.post(new Act(work.officeManager(), Role.OFFICE, now, zone));
          var act = new Act(work.officeManager(), Role.OFFICE, now, zone);
          planner.leaveWork(act);
          partsWanted.want(act);
          checklists.fill(act);
          hours.fill(act);
          photos.take(act);
          messages.exchange(act);
          stores.handAround(act);
          rounds.agree(act);
          search.recompute();
        });
    planner.tellCustomers();
    late.comeIn(clock.instant(), companies.getZone());
    database.execute("analyze");
  }

  /** A load that is killed leaves no mark on the database; whoever starts it begins anew then. */
  private void loadLarge() {
    LOG.info("Loading the large company; it takes some minutes");
    catalogue.insert(clock.instant().atZone(DemoCatalogue.ZONE).toLocalDate());
    large.getObject().fill(clock.instant());
    database.execute(
        "do $$ begin execute format('comment on database %I is %L', current_database(), 'whole'); end $$");
  }
}
