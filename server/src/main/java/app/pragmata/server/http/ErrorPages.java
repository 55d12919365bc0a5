package app.pragmata.server.http;

import jakarta.servlet.DispatcherType;
import jakarta.servlet.RequestDispatcher;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.core.StandardHost;
import org.apache.catalina.valves.ErrorReportValve;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.boot.webmvc.error.ErrorController;
import org.springframework.context.annotation.Bean;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.security.web.firewall.RequestRejectedHandler;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.RequestMapping;

/** No page of the web server or the framework is ever shown: their errors are told in our words. */
@Controller
class ErrorPages implements ErrorController {
  /** An address that is written as no browser writes one goes the way of all failures. */
  @Bean
  static RequestRejectedHandler addressesThatAreTricks() {
    return (request, response, rejected) -> {
      throw rejected;
    };
  }

  @Bean
  static WebServerFactoryCustomizer<TomcatServletWebServerFactory> wordsOfTheWebServer() {
    return factory ->
        factory.addContextCustomizers(
            context ->
                ((StandardHost) context.getParent())
                    .setErrorReportValveClass(Words.class.getName()));
  }

  /** What the framework has no other words for; by itself the address is none. */
  @RequestMapping("${server.error.path:/error}")
  void error(HttpServletRequest request) {
    Object status = request.getAttribute(RequestDispatcher.ERROR_STATUS_CODE);
    HttpStatus known =
        request.getDispatcherType() == DispatcherType.ERROR && status instanceof Integer number
            ? HttpStatus.resolve(number)
            : HttpStatus.NOT_FOUND;
    throw known == null
        ? new Problem(HttpStatus.BAD_REQUEST, words(HttpStatus.BAD_REQUEST))
        : new Problem(known, words(known));
  }

  private static String words(HttpStatus status) {
    if (status.is5xxServerError()) {
      return "Something went wrong here. Look whether it was kept before you try again; if it happens again, tell whoever looks after the program.";
    }
    return switch (status) {
      case NOT_FOUND -> "There is nothing at this address.";
      case FORBIDDEN ->
          "This is for others to do, or the page is older than your session. Reload it; if it says the same then, ask whoever does this.";
      default -> "This request cannot be read. Reload the page, then try again.";
    };
  }

  /** What the web server says of requests that reach no program, such as one without an address. */
  public static final class Words extends ErrorReportValve {
    @Override
    protected void report(Request request, Response response, @Nullable Throwable failure) {
      int status = response.getStatus();
      if (status < 400 || response.getContentWritten() > 0 || !response.setErrorReported()) {
        return;
      }
      HttpStatus known = HttpStatus.resolve(status);
      String words = words(known == null ? HttpStatus.BAD_REQUEST : known);
      try {
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        response.setCharacterEncoding(StandardCharsets.UTF_8.name());
        response.getReporter().write("{\"status\":" + status + ",\"detail\":\"" + words + "\"}");
        response.finishResponse();
      } catch (IOException gone) {
        containerLog(gone);
      }
    }

    private void containerLog(IOException gone) {
      container.getLogger().debug("Nobody waited for what is wrong with a request", gone);
    }
  }
}
