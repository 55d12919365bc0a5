package app.pragmata.server.http;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.servlet.HandlerExceptionResolver;

/**
 * What fails before a request reaches any capability, such as finding its session, is answered by
 * {@link Problems} as everything else is. It stands around all other filters.
 */
@Component
@Order(AnswersInWords.OUTERMOST)
class AnswersInWords extends OncePerRequestFilter {
  static final int OUTERMOST = Ordered.HIGHEST_PRECEDENCE;

  private final HandlerExceptionResolver problems;

  AnswersInWords(@Qualifier("handlerExceptionResolver") HandlerExceptionResolver problems) {
    this.problems = problems;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    try {
      chain.doFilter(request, response);
    } catch (Exception failure) {
      if (response.isCommitted()) {
        throw failure;
      }
      response.resetBuffer();
      Exception told =
          failure instanceof ServletException wrapped && wrapped.getCause() instanceof Exception why
              ? why
              : failure;
      if (problems.resolveException(request, response, null, told) == null) {
        throw failure;
      }
    }
  }
}
