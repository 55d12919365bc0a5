package app.pragmata.server.people;

import app.pragmata.core.people.Role;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.live.ToldSoFar;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.LocalDateTime;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.security.core.authority.AuthorityUtils;
import org.springframework.security.core.context.SecurityContextHolder;
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
   * @param tapPositionDays for so many days it is kept where a clock was tapped; 0 for not at all
   * @param told how far the server had told of changes, for {@code GET /api/live}
   * @param locale how numbers and days are written (BCP 47)
   */
  record Session(
      @Nullable Person person,
      String company,
      String currency,
      String locale,
      int tapPositionDays,
      LocalDateTime now,
      String told) {}

  record Person(long id, String name, Role role) {}

  record SignIn(@Nullable String username, @Nullable String password) {}

  private final SignIns signIns;
  private final CompanyStore companies;
  private final SecurityContextRepository contexts;
  private final Clock clock;
  private final ToldSoFar toldSoFar;

  PeopleApi(
      SignIns signIns,
      CompanyStore companies,
      SecurityContextRepository contexts,
      Clock clock,
      ToldSoFar toldSoFar) {
    this.signIns = signIns;
    this.companies = companies;
    this.contexts = contexts;
    this.clock = clock;
    this.toldSoFar = toldSoFar;
  }

  @GetMapping("/api/session")
  Session getSession(@AuthenticationPrincipal @Nullable SignedIn person) {
    // Before anything is read, so that what changes meanwhile is not missed.
    String told = toldSoFar.mark();
    Company company = companies.getCompany();
    return new Session(
        person == null ? null : new Person(person.personId(), person.name(), person.role()),
        company.identity().name(),
        company.currency(),
        company.locale().toLanguageTag(),
        company.tapPositionDays(),
        LocalDateTime.ofInstant(clock.instant(), company.zone()),
        told);
  }

  @PostMapping("/api/sign-in")
  Session signIn(
      @RequestBody SignIn entered, HttpServletRequest request, HttpServletResponse response) {
    SignedIn person =
        signIns.signIn(
            Objects.requireNonNullElse(entered.username(), ""),
            Objects.requireNonNullElse(entered.password(), ""),
            request.getRemoteAddr());
    var context = SecurityContextHolder.createEmptyContext();
    context.setAuthentication(
        UsernamePasswordAuthenticationToken.authenticated(
            person, null, AuthorityUtils.createAuthorityList("ROLE_" + person.role())));
    SecurityContextHolder.setContext(context);
    contexts.saveContext(context, request, response);
    return getSession(person);
  }

  @PostMapping("/api/sign-out")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void signOut(HttpServletRequest request) {
    request.getSession().invalidate();
    SecurityContextHolder.clearContext();
  }
}
