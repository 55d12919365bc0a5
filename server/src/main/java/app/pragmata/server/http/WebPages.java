package app.pragmata.server.http;

import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.people.SignedIn;
import app.pragmata.server.records.Act;
import java.time.Clock;
import java.time.Duration;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.MethodParameter;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.Resource;
import org.springframework.http.CacheControl;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.bind.support.WebDataBinderFactory;
import org.springframework.web.context.request.NativeWebRequest;
import org.springframework.web.method.support.HandlerMethodArgumentResolver;
import org.springframework.web.method.support.ModelAndViewContainer;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import org.springframework.web.servlet.resource.EncodedResourceResolver;
import org.springframework.web.servlet.resource.PathResourceResolver;

/** Serves the web part, and hands each request its {@link Act}. */
@Configuration(proxyBeanMethods = false)
class WebPages implements WebMvcConfigurer {
  private final CompanyStore companies;
  private final Clock clock;

  WebPages(CompanyStore companies, Clock clock) {
    this.companies = companies;
    this.clock = clock;
  }

  @Override
  public void addResourceHandlers(ResourceHandlerRegistry registry) {
    // File names under assets carry a hash of their content, so a browser may keep them for good.
    registry
        .addResourceHandler("/assets/**")
        .addResourceLocations("classpath:/static/assets/")
        .setCacheControl(CacheControl.maxAge(Duration.ofDays(365)).immutable())
        .resourceChain(true)
        .addResolver(new EncodedResourceResolver());
    registry
        .addResourceHandler("/**")
        .addResourceLocations("classpath:/static/")
        .setCacheControl(CacheControl.noCache())
        .resourceChain(false)
        .addResolver(new PageOrFile());
  }

  /** Every address that is neither a file nor of the API is a page of the one-page program. */
  private static final class PageOrFile extends PathResourceResolver {
    @Override
    protected @Nullable Resource getResource(String path, Resource location)
        throws java.io.IOException {
      Resource file = super.getResource(path, location);
      if (file != null || path.startsWith("api/") || path.startsWith("assets/")) {
        return file;
      }
      return new ClassPathResource("/static/index.html");
    }
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
