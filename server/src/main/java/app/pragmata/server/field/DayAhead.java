package app.pragmata.server.field;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpHeaders;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/**
 * Says beside a technician's page that their day will be asked for (Web Linking, RFC 8288), so that
 * a phone fetches it while the program's scripts are on their way. Whoever is not signed in is told
 * nothing: a browser would keep the refusal for the first question after they are.
 */
@Configuration(proxyBeanMethods = false)
class DayAhead implements WebMvcConfigurer, HandlerInterceptor {
  @Override
  public void addInterceptors(InterceptorRegistry registry) {
    registry.addInterceptor(this).addPathPatterns("/pocket");
  }

  @Override
  public boolean preHandle(
      HttpServletRequest request, HttpServletResponse response, Object handler) {
    if (request.isUserInRole("TECHNICIAN")) {
      response.addHeader(
          HttpHeaders.LINK, "</api/pocket/day>; rel=preload; as=fetch; crossorigin=anonymous");
    }
    return true;
  }
}
