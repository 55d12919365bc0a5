package app.pragmata.server.live;

import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.records.RecordKind;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Clock;
import java.time.LocalDate;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Properties;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.postgresql.PGNotification;
import org.postgresql.PGProperty;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * The streams of this server, and the one connection on which it listens for all of them. That
 * connection is none of the pool's: it is never given back. What is said while it is lost is lost
 * too, so that everybody is told to read everything anew as soon as it is there again.
 */
@Component
class LiveStreams implements SmartLifecycle {
  private static final Logger LOG = LoggerFactory.getLogger(LiveStreams.class);
  private static final int SIGN_OF_LIFE_MILLIS = 5_000;
  private static final long PAUSE_MILLIS = 1_000;

  private final String url;
  private final String user;
  private final String password;
  private final CompanyStore companies;
  private final Clock clock;
  private final ToldSoFar toldSoFar;
  private final Set<LiveStream> streams = ConcurrentHashMap.newKeySet();
  private @Nullable ExecutorService threads;
  private volatile @Nullable Connection listening;

  LiveStreams(
      @Value("${spring.datasource.url}") String url,
      @Value("${spring.datasource.username}") String user,
      @Value("${spring.datasource.password}") String password,
      CompanyStore companies,
      Clock clock,
      ToldSoFar toldSoFar) {
    this.url = url;
    this.user = user;
    this.password = password;
    this.companies = companies;
    this.clock = clock;
    this.toldSoFar = toldSoFar;
  }

  /**
   * A stream that goes on until its reader leaves or the server stops.
   *
   * @param mark what {@link ToldSoFar} said before the reader read what it shows; null when it does
   *     not know
   */
  SseEmitter open(@Nullable String mark) {
    var stream = new LiveStream(Objects.requireNonNull(threads), streams::remove);
    streams.add(stream);
    boolean missedNothing = toldSoFar.mark().equals(mark);
    stream.tell(missedNothing ? new Notice.Day(today()) : new Notice.Everything(today()));
    return stream.emitter();
  }

  private LocalDate today() {
    return clock.instant().atZone(companies.getZone()).toLocalDate();
  }

  private void tell(Notice notice) {
    streams.forEach(stream -> stream.tell(notice));
  }

  /** As long as nobody listens nobody asks for the day, which a company has once it is founded. */
  private void tellDay(Function<LocalDate, Notice> notice) {
    if (!streams.isEmpty()) {
      tell(notice.apply(today()));
    }
  }

  private Connection connect() throws SQLException {
    var properties = new Properties();
    PGProperty.USER.set(properties, user);
    PGProperty.PASSWORD.set(properties, password);
    PGProperty.APPLICATION_NAME.set(properties, "pragmata live");
    return DriverManager.getConnection(url, properties);
  }

  private void listen() {
    while (isRunning()) {
      try (Connection connection = connect()) {
        listening = connection;
        try (var statement = connection.createStatement()) {
          statement.execute("listen " + LiveNotices.CHANNEL);
        }
        toldSoFar.oneMore();
        tellDay(Notice.Everything::new);
        pass(connection);
      } catch (SQLException | RuntimeException lost) {
        if (isRunning()) {
          LOG.warn("Open pages hear of no changes until the database answers: {}", lost.toString());
          pause();
        }
      }
    }
  }

  private void pass(Connection connection) throws SQLException {
    var notifications = connection.unwrap(PGConnection.class);
    while (isRunning()) {
      PGNotification[] got = notifications.getNotifications(SIGN_OF_LIFE_MILLIS);
      if (got == null || got.length == 0) {
        // A connection that died without a word is found out by asking something of it.
        if (!connection.isValid(SIGN_OF_LIFE_MILLIS / 1_000)) {
          throw new SQLException("no answer");
        }
        tellDay(Notice.Day::new);
        continue;
      }
      var kinds = new LinkedHashSet<String>();
      for (PGNotification notification : got) {
        kinds.addAll(List.of(notification.getParameter().split(",", -1)));
      }
      toldSoFar.oneMore();
      tell(new Notice.Changed(kinds));
      if (kinds.contains(RecordKind.PERSON.code())) {
        // Somebody may have left or may see less now: every page asks anew whether it may listen.
        streams.forEach(LiveStream::end);
      }
    }
  }

  private static void pause() {
    try {
      TimeUnit.MILLISECONDS.sleep(PAUSE_MILLIS);
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
    }
  }

  @Override
  public void start() {
    ExecutorService started = Executors.newVirtualThreadPerTaskExecutor();
    threads = started;
    started.execute(this::listen);
  }

  @Override
  public void stop() {
    ExecutorService stopped = Objects.requireNonNull(threads);
    threads = null;
    Connection connection = listening;
    if (connection != null) {
      try {
        connection.close();
      } catch (SQLException alreadyLost) {
        LOG.debug("The connection was lost before", alreadyLost);
      }
    }
    stopped.shutdownNow();
    streams.forEach(LiveStream::end);
  }

  @Override
  public boolean isRunning() {
    return threads != null;
  }
}
