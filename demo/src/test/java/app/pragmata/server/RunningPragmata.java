package app.pragmata.server;

import static app.pragmata.server.generated.Tables.MAIL;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;

import app.pragmata.core.money.Money;
import app.pragmata.core.people.Role;
import app.pragmata.demo.Demo;
import app.pragmata.demo.MailStandIn;
import app.pragmata.server.mail.MailSending;
import app.pragmata.server.mail.MailState;
import app.pragmata.server.receipts.CardPayments;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Retention;
import app.pragmata.server.stores.StockStore;
import app.pragmata.server.worklists.Standings;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.Duration;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.support.GenericApplicationContext;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The real program on a real database of its own with the demo data, started once per process and
 * shared by all tests in it.
 */
public final class RunningPragmata {
  /** How often one address may ask for customers' pages here. */
  public static final int OFFER_REQUESTS_A_MINUTE = 900;

  private static final String FIXED_START = "2026-11-24T06:30";
  private static final String LARGE = "pragmata_large";
  private static final Duration PATIENCE = Duration.ofSeconds(60);
  private static final Duration LOOK_AGAIN = Duration.ofMillis(20);
  private static final Map<String, RunningPragmata> RUNNING = new HashMap<>();

  /** A program that does not start is not started anew for each test. */
  private static @Nullable String failure;

  private final ConfigurableApplicationContext context;
  private final SettableClock clock;
  private final Map<String, Visitor> visitors = new ConcurrentHashMap<>();

  private RunningPragmata(String database, String localStart) {
    if (!database.equals(LARGE)) {
      DemoTemplate.copyTo(
          database,
          localStart,
          template -> start(template, new SettableClock(SettableClock.moment(localStart))).close());
    }
    clock = new SettableClock(SettableClock.moment(localStart));
    context = start(database, clock);
  }

  static ConfigurableApplicationContext start(String database, Clock clock) {
    return start(
        database,
        clock,
        List.of(Pragmata.class, Demo.class),
        "pragmata.large=" + database.equals(LARGE));
  }

  /** A program of these parts on some database, with settings such as "pragmata.large=true". */
  public static ConfigurableApplicationContext start(
      String database, Clock clock, List<Class<?>> program, String... settings) {
    return start(
        System.getProperty("pragmata.database.url") + database,
        System.getProperty("pragmata.database.password"),
        clock,
        program,
        settings);
  }

  /** The same on a database of any cluster. */
  static ConfigurableApplicationContext start(
      String url, String password, Clock clock, List<Class<?>> program, String... settings) {
    return new SpringApplicationBuilder(program.toArray(Class<?>[]::new))
        .initializers(
            early ->
                ((GenericApplicationContext) early).registerBean("clock", Clock.class, () -> clock))
        .properties(settings)
        .run(
            "--server.port=0",
            "--pragmata.public-address=http://ferrow.example",
            "--pragmata.visits-told-after=0s",
            "--pragmata.reminders-looked-for-every=1s",
            "--pragmata.reports-sent-after=0s",
            // All tests come from one address.
            "--pragmata.offers.requests-a-minute=" + OFFER_REQUESTS_A_MINUTE,
            "--spring.datasource.url=" + url,
            "--spring.datasource.username=" + System.getProperty("pragmata.database.user"),
            "--spring.datasource.password=" + password);
  }

  private static synchronized RunningPragmata on(String database, String localStart) {
    if (failure != null) {
      throw new IllegalStateException("The program did not start: " + failure);
    }
    try {
      return RUNNING.computeIfAbsent(database, name -> new RunningPragmata(name, localStart));
    } catch (RuntimeException e) {
      failure = e.toString();
      throw e;
    }
  }

  /** The program whose demo data ends at the given moment, such as "2026-11-24T10:42". */
  public static RunningPragmata at(String localStart) {
    return on(databaseForTests(), localStart);
  }

  public static String databaseForTests() {
    return System.getProperty("pragmata.database.name");
  }

  /** The program for tests: early on a Tuesday, before anybody has started work. */
  public static RunningPragmata forTests() {
    return at(FIXED_START);
  }

  /** A program that no other test touches, for as long as one test runs; whoever asks stops it. */
  public static RunningPragmata untouched() {
    return new RunningPragmata(untouchedDatabase(), FIXED_START);
  }

  static String untouchedDatabase() {
    return databaseForTests() + "_untouched";
  }

  /** Stops a program that nobody else uses. */
  public void stop() {
    context.close();
  }

  /** The program on the large company, which {@code ./pragmata load} has made, as of now. */
  public static RunningPragmata large() {
    return on(LARGE, java.time.LocalDateTime.now(java.time.ZoneId.of("Europe/London")).toString());
  }

  /** Who is signed in, by user name. */
  Map<String, Visitor> visitors() {
    return visitors;
  }

  /** The id of whoever signs in by this name. */
  public long person(String username) {
    return database()
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.USERNAME.eq(username))
        .fetchSingle(PERSON.ID);
  }

  public SettableClock clock() {
    return clock;
  }

  public DSLContext database() {
    return context.getBean(DSLContext.class);
  }

  /** How many statements the program sends for the one request that something is about. */
  public int statements(Runnable work) {
    return Statements.of(database(), work).size();
  }

  /** These statements with their values in them. */
  List<String> statementsWithValues(Runnable work) {
    return Statements.withValues(database(), work);
  }

  /** Delivers parts at this cost each, unless at least so many are held. */
  public void keepInStock(String number, int atLeast, String cost) {
    DSLContext database = database();
    var part = database.selectFrom(PART).where(PART.NUMBER.eq(number)).fetchSingle();
    if (part.getQuantity().compareTo(BigDecimal.valueOf(atLeast)) >= 0) {
      return;
    }
    long office =
        database
            .select(PERSON.ID)
            .from(PERSON)
            .where(PERSON.USERNAME.eq("hester"))
            .fetchSingle(PERSON.ID);
    var act = new Act(office, Role.OFFICE, clock.instant(), ZoneId.of("Europe/London"));
    Money worth = Money.of(cost).times(BigDecimal.valueOf(atLeast));
    var stock = context.getBean(StockStore.class);
    context
        .getBean(TransactionTemplate.class)
        .executeWithoutResult(
            status -> {
              stock.receive(
                  act, part.getId(), stock.getPlaceOf(office), BigDecimal.valueOf(atLeast), worth);
            });
  }

  /**
   * Hands all mail that is due to the mail server now, instead of in a moment, and waits for what
   * the program took up by itself meanwhile.
   */
  public void sendMail() {
    sendMailFromHere();
    until(() -> database().fetchCount(MAIL, MAIL.STATE.eq(MailState.GOING_OUT)) == 0);
  }

  /** Hands over what is due, beside whoever else does. */
  void sendMailFromHere() {
    context.getBean(MailSending.class).sendWaiting();
  }

  /** Waits for what the program does by itself. */
  public static void until(BooleanSupplier come) {
    long end = System.nanoTime() + PATIENCE.toNanos();
    while (!come.getAsBoolean()) {
      if (System.nanoTime() > end) {
        throw new IllegalStateException("What the program does by itself did not come");
      }
      LockSupport.parkNanos(LOOK_AGAIN.toNanos());
    }
  }

  /** Deletes what was kept long enough now, instead of within an hour. */
  void forget() {
    context.getBean(Retention.class).forget();
  }

  <T> T bean(Class<T> type) {
    return context.getBean(type);
  }

  /** Asks the card terminal now what became of payments without an answer. */
  public void askCardTerminal() {
    context.getBean(CardPayments.class).askAgain();
  }

  /** Takes the mail server away, or brings it back on the same port. */
  public void mailServer(boolean running) {
    var standIn = context.getBean(MailStandIn.class);
    if (running) {
      standIn.resume();
    } else {
      standIn.interrupt();
    }
  }

  /** Works out anew where every quote and job stands. */
  public void recomputeStandings() {
    context
        .getBean(TransactionTemplate.class)
        .executeWithoutResult(status -> context.getBean(Standings.class).recompute());
  }

  /** Where a program listens. */
  public static String address(ConfigurableApplicationContext context) {
    return "http://127.0.0.1:" + context.getEnvironment().getProperty("local.server.port");
  }

  public String address() {
    return address(context);
  }
}
