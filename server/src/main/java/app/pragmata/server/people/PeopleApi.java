package app.pragmata.server.people;

import static app.pragmata.server.generated.Tables.KIND_OF_JOB;

import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.people.Role;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.http.Problem;
import app.pragmata.server.records.Act;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.LocalDateTime;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.security.core.authority.AuthorityUtils;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Signing in and out, and what a page needs to know before anything else. */
@RestController
class PeopleApi {
  /**
   * Who is signed in (nobody: null), and how the company writes and counts.
   *
   * @param locale how numbers and days are written (BCP 47)
   */
  record Session(
      @Nullable Person person, String company, String currency, String locale, LocalDateTime now) {}

  record Person(long id, String name, Role role) {}

  record SignIn(@Nullable String username, @Nullable String password) {}

  /**
   * A kind of job.
   *
   * @param usualForCalls what a job straight from a call is taken for unless said otherwise
   */
  record KindOfJob(long id, String name, int defaultMinutes, boolean usualForCalls) {}

  /**
   * What forms offer to choose from.
   *
   * @param driveCharge how the company charges driving
   */
  record Choices(
      List<PeopleStore.Colleague> technicians,
      List<PeopleStore.Colleague> officePeople,
      List<KindOfJob> kindsOfJob,
      List<VatChoice> vatRates,
      DriveCharge.Rule driveCharge) {}

  /** A rate of VAT; the usual one is taken where nobody says another. */
  record VatChoice(String code, String percent, boolean usual) {}

  // Compared with when the name is unknown, so that the answer takes as long as for a known one.
  private static final String NOBODYS_HASH =
      "$2a$10$7EqJtq98hPqEX7fNZaFWoOhi5VYd0iDWyBFEaRgYHk3dTxu1ZWm1m";

  private final PeopleStore people;
  private final CompanyStore companies;
  private final PasswordEncoder passwords;
  private final SecurityContextRepository contexts;
  private final DSLContext database;
  private final Clock clock;

  PeopleApi(
      PeopleStore people,
      CompanyStore companies,
      PasswordEncoder passwords,
      SecurityContextRepository contexts,
      DSLContext database,
      Clock clock) {
    this.people = people;
    this.companies = companies;
    this.passwords = passwords;
    this.contexts = contexts;
    this.database = database;
    this.clock = clock;
  }

  @GetMapping("/api/session")
  Session session(@AuthenticationPrincipal @Nullable SignedIn person) {
    Company company = companies.getCompany();
    return new Session(
        person == null ? null : new Person(person.personId(), person.name(), person.role()),
        company.identity().name(),
        company.currency(),
        company.locale().toLanguageTag(),
        LocalDateTime.ofInstant(clock.instant(), company.zone()));
  }

  @PostMapping("/api/sign-in")
  Session signIn(
      @RequestBody SignIn entered, HttpServletRequest request, HttpServletResponse response) {
    String username =
        entered.username() == null
            ? ""
            : entered.username().strip().toLowerCase(java.util.Locale.ROOT);
    String password = entered.password() == null ? "" : entered.password();
    var credentials = people.findCredentials(username);
    boolean matches =
        passwords.matches(
            password, credentials.map(PeopleStore.Credentials::passwordHash).orElse(NOBODYS_HASH));
    if (credentials.isEmpty() || !matches) {
      throw new Problem(
          HttpStatus.FORBIDDEN, "The name or the password is not right. Check both and try again.");
    }
    SignedIn person = credentials.get().person();
    if (request.getSession(false) != null) {
      request.changeSessionId();
    }
    var context = SecurityContextHolder.createEmptyContext();
    context.setAuthentication(
        UsernamePasswordAuthenticationToken.authenticated(
            person, null, AuthorityUtils.createAuthorityList("ROLE_" + person.role())));
    SecurityContextHolder.setContext(context);
    contexts.saveContext(context, request, response);
    return session(person);
  }

  @PostMapping("/api/sign-out")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void signOut(HttpServletRequest request) {
    request.getSession().invalidate();
    SecurityContextHolder.clearContext();
  }

  @GetMapping("/api/choices")
  Choices choices(Act act) {
    Company company = companies.getCompany();
    return new Choices(
        people.listTechnicians(),
        people.listOfficePeople(),
        database
            .selectFrom(KIND_OF_JOB)
            .orderBy(KIND_OF_JOB.NAME)
            .fetch(
                row ->
                    new KindOfJob(
                        row.getId(),
                        row.getName(),
                        row.getDefaultMinutes(),
                        row.getUsualForCalls())),
        company.terms().vat().listOn(act.today()).stream()
            .map(
                rate ->
                    new VatChoice(
                        rate.code(),
                        rate.percent().stripTrailingZeros().toPlainString(),
                        rate.code().equals(company.terms().vat().usualCode())))
            .toList(),
        company.terms().charge().on(act.today()).drive().rule());
  }
}
