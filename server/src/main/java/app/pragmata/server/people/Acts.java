package app.pragmata.server.people;

import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.records.Act;
import java.time.Clock;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.MethodParameter;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.bind.support.WebDataBinderFactory;
import org.springframework.web.context.request.NativeWebRequest;
import org.springframework.web.method.support.HandlerMethodArgumentResolver;
import org.springframework.web.method.support.ModelAndViewContainer;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Hands each request its {@link Act}: who is signed in, and when it is. */
@Configuration(proxyBeanMethods = false)
class Acts implements WebMvcConfigurer {
  private final CompanyStore companies;
  private final Clock clock;

  Acts(CompanyStore companies, Clock clock) {
    this.companies = companies;
    this.clock = clock;
  }

  @Override
  public void addArgumentResolvers(List<HandlerMethodArgumentResolver> resolvers) {
    resolvers.add(new ActResolver());
  }

  private final class ActResolver implements HandlerMethodArgumentResolver {
    @Override
    public boolean supportsParameter(MethodParameter parameter) {
      return parameter.getParameterType() == Act.class;
    }

    @Override
    public Act resolveArgument(
        MethodParameter parameter,
        @Nullable ModelAndViewContainer container,
        NativeWebRequest request,
        @Nullable WebDataBinderFactory binders) {
      var authentication = SecurityContextHolder.getContext().getAuthentication();
      if (authentication == null || !(authentication.getPrincipal() instanceof SignedIn person)) {
        throw new IllegalStateException("An act needs a signed-in person");
      }
      return new Act(
          person.personId(),
          person.role(),
          clock.instant().truncatedTo(ChronoUnit.MILLIS),
          companies.getZone());
    }
  }
}
