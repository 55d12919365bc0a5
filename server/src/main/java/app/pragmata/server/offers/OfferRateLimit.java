package app.pragmata.server.offers;

import static app.pragmata.server.generated.Tables.REQUEST_COUNT;

import app.pragmata.server.http.Problem;
import app.pragmata.server.records.Retention.KeptForAWhile;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import org.jooq.DSLContext;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Configuration;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/**
 * Lets one address ask for customers' pages so often within a minute and no oftener, so that links
 * cannot be guessed by trying. All servers count together. It stands where addresses have been read
 * already, so that none gets past it by being written in another way.
 */
@Configuration(proxyBeanMethods = false)
class OfferRateLimit implements WebMvcConfigurer, HandlerInterceptor, KeptForAWhile {
  private final DSLContext database;
  private final int requestsAMinute;

  OfferRateLimit(
      DSLContext database, @Value("${pragmata.offers.requests-a-minute:120}") int requestsAMinute) {
    this.database = database;
    this.requestsAMinute = requestsAMinute;
  }

  @Override
  public void addInterceptors(InterceptorRegistry registry) {
    registry
        .addInterceptor(this)
        .addPathPatterns("/api/offers/**", "/api/job-pages/**", "/api/password-links/**");
  }

  @Override
  public boolean preHandle(
      HttpServletRequest request, HttpServletResponse response, Object handler) {
    // By the machine's clock, as the minute is one of waiting and none of the work.
    Instant minute = Instant.now().truncatedTo(ChronoUnit.MINUTES);
    int requests =
        database
            .insertInto(REQUEST_COUNT)
            .set(REQUEST_COUNT.ADDRESS, request.getRemoteAddr())
            .set(REQUEST_COUNT.MINUTE, minute)
            .set(REQUEST_COUNT.REQUESTS, 1)
            .onConflict(REQUEST_COUNT.ADDRESS, REQUEST_COUNT.MINUTE)
            .doUpdate()
            .set(REQUEST_COUNT.REQUESTS, REQUEST_COUNT.REQUESTS.plus(1))
            .returning(REQUEST_COUNT.REQUESTS)
            .fetchSingle(REQUEST_COUNT.REQUESTS);
    if (requests > requestsAMinute) {
      throw Problem.tooMany(
          "Too many requests from here. Wait a minute, then try again.", Duration.ofMinutes(1));
    }
    return true;
  }

  @Override
  public void forget(Instant now) {
    database
        .deleteFrom(REQUEST_COUNT)
        .where(REQUEST_COUNT.MINUTE.lt(Instant.now().minus(Duration.ofHours(1))))
        .execute();
  }
}
