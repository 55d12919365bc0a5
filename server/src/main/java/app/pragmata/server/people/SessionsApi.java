package app.pragmata.server.people;

import app.pragmata.server.company.CompanyStore;
import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** Where whoever asks is signed in. */
@RestController
class SessionsApi {
  private final OpenSessions sessions;
  private final CompanyStore companies;

  SessionsApi(OpenSessions sessions, CompanyStore companies) {
    this.sessions = sessions;
    this.companies = companies;
  }

  @GetMapping("/api/sessions")
  List<OpenSessions.OpenSession> listSessions(
      @AuthenticationPrincipal SignedIn person, HttpServletRequest request) {
    return sessions.list(person.personId(), request.getSession().getId(), companies.getZone());
  }

  @DeleteMapping("/api/sessions/{id}")
  List<OpenSessions.OpenSession> endSession(
      @AuthenticationPrincipal SignedIn person, @PathVariable long id, HttpServletRequest request) {
    sessions.end(person.personId(), id);
    return listSessions(person, request);
  }

  /** Ends all but the one that asks. */
  @DeleteMapping("/api/sessions")
  List<OpenSessions.OpenSession> endOtherSessions(
      @AuthenticationPrincipal SignedIn person, HttpServletRequest request) {
    sessions.endAll(person.personId(), request.getSession().getId());
    return listSessions(person, request);
  }
}
