package app.pragmata.server.people;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** People set their passwords: by the link that they were given, or by the one that they have. */
@RestController
class PasswordsApi {
  /** Whose password a link sets. */
  record PasswordLink(String name, String username, String company) {}

  record NewPassword(@Nullable String password) {}

  /**
   * Another password of one's own.
   *
   * @param present the one that is good until now
   */
  record PasswordChange(@Nullable String present, @Nullable String password) {}

  private final Passwords passwords;
  private final SignIns signIns;
  private final OpenSessions sessions;
  private final CompanyStore companies;
  private final Events events;
  private final TransactionTemplate transaction;
  private final Clock clock;

  PasswordsApi(
      Passwords passwords,
      SignIns signIns,
      OpenSessions sessions,
      CompanyStore companies,
      Events events,
      TransactionTemplate transaction,
      Clock clock) {
    this.passwords = passwords;
    this.signIns = signIns;
    this.sessions = sessions;
    this.companies = companies;
    this.events = events;
    this.transaction = transaction;
    this.clock = clock;
  }

  @GetMapping("/api/password-links/{secret}")
  PasswordLink getPasswordLink(@PathVariable String secret) {
    SignedIn person = requireLink(secret, now());
    return new PasswordLink(
        person.name(), person.username(), companies.getCompany().identity().name());
  }

  /** Sets the password, once; whoever is signed in as this person elsewhere is signed out. */
  @PostMapping("/api/password-links/{secret}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void setPassword(@PathVariable String secret, @RequestBody NewPassword form) {
    Instant now = now();
    SignedIn person = requireLink(secret, now);
    String hash = hash(form.password(), person.username());
    transaction.executeWithoutResult(
        status -> {
          if (!passwords.use(secret, now)) {
            throw noLink();
          }
          store(person, hash, null, now);
        });
  }

  /** Takes another password for whoever is signed in; their other sessions end. */
  @PostMapping("/api/password")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void changePassword(
      @AuthenticationPrincipal SignedIn person,
      @RequestBody PasswordChange form,
      HttpServletRequest request) {
    String hash = hash(form.password(), person.username());
    signIns.requirePassword(
        person.username(), Objects.requireNonNullElse(form.present(), ""), request.getRemoteAddr());
    transaction.executeWithoutResult(
        status -> store(person, hash, request.getSession().getId(), now()));
  }

  private String hash(@Nullable String typed, String username) {
    var reading = new Reading();
    String password = Passwords.read(reading, "password", typed, username);
    reading.refuseIfFaulty();
    return passwords.hash(Objects.requireNonNull(password));
  }

  private void store(SignedIn person, String hash, @Nullable String session, Instant now) {
    passwords.store(person.personId(), hash);
    sessions.endAll(person.personId(), session);
    events.tell(
        new Act(person.personId(), person.role(), now, companies.getZone()),
        PersonEvent.PASSWORD_SET,
        person.personId(),
        About.NOTHING);
  }

  private Instant now() {
    return clock.instant().truncatedTo(ChronoUnit.MILLIS);
  }

  private SignedIn requireLink(String secret, Instant now) {
    return passwords.findByLink(secret, now).orElseThrow(PasswordsApi::noLink);
  }

  private static Refused noLink() {
    return new Refused(
        Rule.NOT_FOUND,
        "This link is good no more: it was used, or is older than two days. Ask the office for a new one.");
  }
}
