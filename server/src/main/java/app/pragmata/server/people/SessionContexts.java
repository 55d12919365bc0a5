package app.pragmata.server.people;

import app.pragmata.core.people.Role;
import app.pragmata.server.company.CompanyStore;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.time.Duration;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.authority.AuthorityUtils;
import org.springframework.security.core.context.DeferredSecurityContext;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.context.HttpRequestResponseHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.stereotype.Component;

/**
 * A session says who it is of, and nothing more: what that person is and may do is looked up at
 * each request, so that it holds at once when it changes. However much it is used, a session ends
 * some hours after the sign-in.
 */
@Component
class SessionContexts implements SecurityContextRepository {
  private static final String PERSON = FindByIndexNameSessionRepository.PRINCIPAL_NAME_INDEX_NAME;

  private static final Duration A_DAY = Duration.ofHours(24);

  private final PeopleStore people;
  private final CompanyStore companies;
  private final OpenSessions sessions;

  SessionContexts(PeopleStore people, CompanyStore companies, OpenSessions sessions) {
    this.people = people;
    this.companies = companies;
    this.sessions = sessions;
  }

  @Override
  public DeferredSecurityContext loadDeferredContext(HttpServletRequest request) {
    return new Looked(() -> read(request));
  }

  // The interface still asks for it; the framework calls the other one.
  @Override
  @SuppressWarnings("deprecation")
  public SecurityContext loadContext(HttpRequestResponseHolder holder) {
    return read(holder.getRequest());
  }

  private SecurityContext read(HttpServletRequest request) {
    var context = SecurityContextHolder.createEmptyContext();
    HttpSession session = request.getSession(false);
    if (session == null || !(session.getAttribute(PERSON) instanceof String personId)) {
      return context;
    }
    var person = people.findActive(Long.parseLong(personId));
    if (person.isEmpty() || age(session).compareTo(longest(person.get().role())) > 0) {
      session.invalidate();
      return context;
    }
    context.setAuthentication(
        UsernamePasswordAuthenticationToken.authenticated(
            person.get(), null, AuthorityUtils.createAuthorityList("ROLE_" + person.get().role())));
    return context;
  }

  /** A phone is its owner's own; whoever passes a desk can use what is open there. */
  private Duration longest(Role role) {
    return role == Role.TECHNICIAN ? A_DAY : companies.getCompany().deskSession();
  }

  /** By the clock of the machine, as the times of sessions are. */
  private static Duration age(HttpSession session) {
    return Duration.ofMillis(System.currentTimeMillis() - session.getCreationTime());
  }

  /** Begins a session of this person; one that was there before is over. */
  @Override
  public void saveContext(
      SecurityContext context, HttpServletRequest request, HttpServletResponse response) {
    HttpSession before = request.getSession(false);
    if (context.getAuthentication() != null
        && context.getAuthentication().getPrincipal() instanceof SignedIn person) {
      if (before != null) {
        before.invalidate();
      }
      HttpSession session = request.getSession();
      session.setAttribute(PERSON, Long.toString(person.personId()));
      sessions.note(session.getId(), person.personId(), request);
    }
  }

  @Override
  public boolean containsContext(HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    return session != null && session.getAttribute(PERSON) != null;
  }

  /** Looked up once, when somebody asks for it: pages for everybody never do. */
  private static final class Looked implements DeferredSecurityContext {
    private final Supplier<SecurityContext> read;
    private @Nullable SecurityContext context;

    Looked(Supplier<SecurityContext> read) {
      this.read = read;
    }

    @Override
    public SecurityContext get() {
      if (context == null) {
        context = read.get();
      }
      return context;
    }

    @Override
    public boolean isGenerated() {
      return get().getAuthentication() == null;
    }
  }
}
