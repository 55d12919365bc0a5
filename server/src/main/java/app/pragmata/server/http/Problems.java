package app.pragmata.server.http;

import app.pragmata.core.Fault;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.io.IOException;
import java.net.URI;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.apache.catalina.connector.ClientAbortException;
import org.postgresql.util.PSQLException;
import org.postgresql.util.ServerErrorMessage;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.security.web.firewall.RequestRejectedException;
import org.springframework.web.ErrorResponse;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.async.AsyncRequestNotUsableException;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.server.ResponseStatusException;

/**
 * Turns whatever went wrong into problem details (RFC 9457) that a person can read and a form can
 * point with.
 */
@RestControllerAdvice
class Problems {
  private static final URI NOWHERE = URI.create("/");

  private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

  /**
   * One fault as the page gets it; the pointer is a JSON Pointer (RFC 6901) into the request's
   * body.
   */
  record Pointed(String pointer, Rule rule, String detail) {}

  @ExceptionHandler
  ResponseEntity<ProblemDetail> refused(Refused refused) {
    return answer(status(refused.rule()), refused.faults());
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> problem(Problem problem) {
    ResponseEntity<ProblemDetail> answer =
        answer(problem.status(), List.of(), problem.getMessage());
    return problem.waiting() == null
        ? answer
        : ResponseEntity.status(problem.status())
            .header(HttpHeaders.RETRY_AFTER, Long.toString(problem.waiting().toSeconds()))
            .body(answer.getBody());
  }

  /** An address such as "//" is none that an answer could name. */
  @ExceptionHandler(RequestRejectedException.class)
  ResponseEntity<ProblemDetail> rejected(RequestRejectedException rejected) {
    ResponseEntity<ProblemDetail> answer = unreadable(rejected);
    Objects.requireNonNull(answer.getBody()).setInstance(NOWHERE);
    return answer;
  }

  @ExceptionHandler({
    HttpMessageNotReadableException.class,
    MethodArgumentTypeMismatchException.class
  })
  ResponseEntity<ProblemDetail> unreadable(Exception unreadable) {
    if (BodyLimit.isTooLong(unreadable)) {
      return problem(BodyLimit.tooLong());
    }
    Optional<Fault> fault = UnreadableRequest.fault(unreadable);
    if (fault.isEmpty()) {
      return answer(
          HttpStatus.BAD_REQUEST,
          List.of(),
          "This request cannot be read. Reload the page, then try again.");
    }
    return fault.get().rule() == Rule.UNREADABLE
        ? answer(HttpStatus.BAD_REQUEST, List.of(fault.get()))
        : refused(new Refused(List.of(fault.get())));
  }

  /** Whoever asked has gone; nobody is left to answer. */
  @ExceptionHandler({ClientAbortException.class, AsyncRequestNotUsableException.class})
  void gone(IOException gone) {
    LOG.debug("A request was given up by its sender", gone);
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> anythingElse(Exception exception) throws Exception {
    if (exception instanceof ErrorResponse known) {
      return ResponseEntity.status(known.getStatusCode()).body(known.getBody());
    }
    if (exception instanceof ResponseStatusException known) {
      return ResponseEntity.status(known.getStatusCode()).body(known.getBody());
    }
    Optional<Refused> guarded = refusalOfTheDatabase(exception);
    if (guarded.isPresent()) {
      return refused(guarded.get());
    }
    Optional<Problem> trouble = DatabaseTrouble.find(exception);
    if (trouble.isPresent()) {
      LOG.warn("A request failed by the database: {}", exception.toString());
      return problem(trouble.get());
    }
    LOG.error("A request failed", exception);
    return answer(
        HttpStatus.INTERNAL_SERVER_ERROR,
        List.of(),
        "Something went wrong here, and nothing was changed. Try again; if it happens again, tell whoever looks after the program.");
  }

  /** What the database's own guards refuse, in the words of the rule. */
  private static Optional<Refused> refusalOfTheDatabase(Throwable exception) {
    for (Throwable cause = exception; cause != null; cause = cause.getCause()) {
      if (cause instanceof PSQLException refused && refused.getServerErrorMessage() != null) {
        String constraint = String.valueOf(refused.getServerErrorMessage().getConstraint());
        return switch (String.valueOf(refused.getSQLState())) {
          case "PR002" ->
              Optional.of(
                  new Refused(
                      Rule.UNBALANCED_ENTRY, "The books refused an entry that does not balance."));
          case "PR003" ->
              Optional.of(
                  new Refused(
                      Rule.PERIOD_CLOSED,
                      "The month of this entry is closed. Use a day in an open month."));
          case "PR001" ->
              Optional.of(
                  new Refused(
                      Rule.POSTED_FOR_GOOD,
                      "This is posted, and nothing posted is changed. Reload the page, then correct it with a new entry."));
          case "PR004" ->
              Optional.of(
                  new Refused(
                      Rule.UNBALANCED_ENTRY,
                      "The books refused an invoice that does not add up to its lines."));
          case "PR005" ->
              Optional.of(
                  new Refused(
                      Rule.EXCEEDS_LIMIT,
                      "More of the deposit would be used than it holds. Reload the page to see what is left."));
          case "23P01" ->
              switch (constraint) {
                case "one_clock_per_person" -> Optional.of(overlappingClocks());
                case "booked_once" ->
                    Optional.of(
                        new Refused(
                            List.of(
                                new Fault(
                                    "overruled",
                                    Rule.OVERLAP,
                                    "Somebody has just given this time away. Choose another, or plan it there all the same."))));
                default -> Optional.empty();
              };
          case "23505" ->
              Optional.of(
                  new Refused(
                      Rule.REPEATED,
                      "%s is on record already. Reload the page to see it."
                          .formatted(SAID_ONCE.getOrDefault(constraint, "The same thing"))));
          case "23514" ->
              "at_most_sixteen_hours".equals(constraint)
                  ? Optional.of(
                      new Refused(
                          Rule.LONGER_THAN_SIXTEEN_HOURS,
                          "This clock would run longer than 16 hours. Enter when it really ended."))
                  : Optional.empty();
          case "22003", "22007", "22008" ->
              Optional.of(
                  new Refused(
                      Rule.UNREADABLE,
                      "It holds a day or a number that nothing here has. Check it, then ask again."));
          case "22021" ->
              Optional.of(
                  new Refused(
                      Rule.UNREADABLE,
                      "It contains a character that cannot be stored. Type it again."));
          case "23503" -> Optional.of(brokenReference(refused.getServerErrorMessage()));
          case "40001", "40P01" ->
              Optional.of(
                  new Refused(
                      Rule.STALE_VERSION,
                      "Somebody changed the same thing at this moment. Try again."));
          default -> Optional.empty();
        };
      }
    }
    return Optional.empty();
  }

  /** What stands once, by the constraint that sees to it. */
  private static final Map<String, String> SAID_ONCE =
      Map.of(
          "equipment_serial_number_key", "This serial number",
          "customer_reference_key", "A customer with this reference",
          "part_number_key", "This part number",
          "person_username_key", "This name to sign in with",
          "accepted_quote_pkey", "The job of this quote",
          "invoice_job_id_key", "The invoice of this job",
          "card_payment_one_at_a_time", "A card payment for this quote");

  /** One error code tells of both ends of a reference: the detail says which. */
  private static Refused brokenReference(ServerErrorMessage message) {
    boolean inUse = String.valueOf(message.getDetail()).contains("still referenced");
    return inUse
        ? new Refused(Rule.IN_USE, "Something else refers to it, so it stays. Reload the page.")
        : new Refused(
            Rule.NOT_FOUND,
            "It refers to something that does not exist any more. Reload the page.");
  }

  private static Refused overlappingClocks() {
    return new Refused(
        Rule.OVERLAPPING_CLOCKS,
        "This person has another clock at that time. Correct the other one first, or choose times that do not overlap.");
  }

  private static HttpStatus status(Rule rule) {
    return switch (rule.because()) {
      case INPUT -> HttpStatus.UNPROCESSABLE_CONTENT;
      case MISSING -> HttpStatus.NOT_FOUND;
      case STATE -> HttpStatus.CONFLICT;
    };
  }

  private static ResponseEntity<ProblemDetail> answer(HttpStatusCode status, List<Fault> faults) {
    return answer(status, faults, faults.getFirst().message());
  }

  private static ResponseEntity<ProblemDetail> answer(
      HttpStatusCode status, List<Fault> faults, String detail) {
    ProblemDetail body = ProblemDetail.forStatusAndDetail(status, detail);
    if (!faults.isEmpty()) {
      String name = faults.getFirst().rule().name().toLowerCase(Locale.ROOT).replace('_', '-');
      body.setType(URI.create("urn:pragmata:rule:" + name));
      body.setProperty("rule", faults.getFirst().rule());
      body.setProperty(
          "errors",
          faults.stream()
              .map(
                  fault ->
                      new Pointed(
                          fault.field().isEmpty() ? "" : "/" + fault.field(),
                          fault.rule(),
                          fault.message()))
              .toList());
    }
    return ResponseEntity.status(status).body(body);
  }
}
