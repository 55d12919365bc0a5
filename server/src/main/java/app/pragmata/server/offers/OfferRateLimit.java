package app.pragmata.server.offers;

import io.github.bucket4j.Bucket;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Lets one address ask for customers' pages so often and no oftener, so that links cannot be
 * guessed by trying. Each server counts for itself.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class OfferRateLimit extends OncePerRequestFilter {
  private static final int MOST_ADDRESSES = 10_000;

  private final int requestsAMinute;
  private final Map<String, Bucket> bucketByAddress =
      Collections.synchronizedMap(
          new LinkedHashMap<>(64, 0.75f, true) {
            private static final long serialVersionUID = 1L;

            @Override
            protected boolean removeEldestEntry(Map.Entry<String, Bucket> eldest) {
              return size() > MOST_ADDRESSES;
            }
          });

  OfferRateLimit(@Value("${pragmata.offers.requests-a-minute:120}") int requestsAMinute) {
    this.requestsAMinute = requestsAMinute;
  }

  @Override
  protected boolean shouldNotFilter(HttpServletRequest request) {
    return !request.getRequestURI().startsWith("/api/offers/");
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    Bucket bucket = bucketByAddress.computeIfAbsent(request.getRemoteAddr(), key -> bucket());
    if (bucket.tryConsume(1)) {
      chain.doFilter(request, response);
      return;
    }
    response.setStatus(HttpStatus.TOO_MANY_REQUESTS.value());
    response.setContentType("application/problem+json");
    response.setCharacterEncoding("UTF-8");
    response.setHeader("Retry-After", "60");
    response
        .getWriter()
        .write(
            "{\"status\":429,\"title\":\"Too many requests\",\"detail\":\"Too many requests from here. Wait a minute, then try again.\"}");
  }

  private Bucket bucket() {
    return Bucket.builder()
        .addLimit(
            limit ->
                limit
                    .capacity(requestsAMinute)
                    .refillGreedy(requestsAMinute, Duration.ofMinutes(1)))
        .build();
  }
}
