package app.pragmata.server.http;

import app.pragmata.core.Coded;
import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.exc.InvalidFormatException;
import tools.jackson.databind.exc.MismatchedInputException;
import tools.jackson.databind.exc.UnrecognizedPropertyException;

/** What is wrong with a request that has another shape than its description says. */
final class UnreadableRequest {
  private UnreadableRequest() {}

  /**
   * At which field it cannot be read, and what belongs there; a word that is none of its vocabulary
   * is a fault like any other ({@link Rule#UNKNOWN_WORD}). Empty where nobody can say.
   */
  static Optional<Fault> fault(Exception unreadable) {
    if (unreadable instanceof MethodArgumentTypeMismatchException parameter) {
      return Optional.ofNullable(parameter.getRequiredType())
          .map(type -> ofParameter(parameter, type));
    }
    if (unreadable.getCause() instanceof MismatchedInputException found) {
      return Optional.of(ofBody(found));
    }
    return Optional.empty();
  }

  private static Fault ofParameter(MethodArgumentTypeMismatchException found, Class<?> type) {
    if (Coded.class.isAssignableFrom(type)) {
      boolean inPath = found.getParameter().hasParameterAnnotation(PathVariable.class);
      return unknownWord(
          inPath ? Rule.NOT_FOUND : Rule.UNKNOWN_WORD, found.getName(), found.getValue(), type);
    }
    return unreadable(found.getName(), found.getValue(), type);
  }

  private static Fault ofBody(MismatchedInputException found) {
    String field = field(found.getPath());
    if (found instanceof UnrecognizedPropertyException) {
      return new Fault(
          field,
          Rule.UNREADABLE,
          "There is no field “%s” here. Leave it out, or spell it as the description does."
              .formatted(Reading.abridged(field.substring(field.lastIndexOf('/') + 1))));
    }
    Object said = found instanceof InvalidFormatException format ? format.getValue() : null;
    Class<?> type = found.getTargetType();
    return type != null && Coded.class.isAssignableFrom(type)
        ? unknownWord(Rule.UNKNOWN_WORD, field, said, type)
        : unreadable(field, said, type);
  }

  /** From the outermost to the innermost, as in a JSON Pointer (RFC 6901). */
  private static String field(List<JacksonException.Reference> path) {
    return path.stream()
        .map(
            place ->
                place.getPropertyName() == null
                    ? Integer.toString(place.getIndex())
                    : place.getPropertyName())
        .collect(Collectors.joining("/"));
  }

  private static Fault unknownWord(
      Rule rule, String field, @Nullable Object said, Class<?> vocabulary) {
    return new Fault(
        field,
        rule,
        "“%s” is none of the words that can stand here: %s."
            .formatted(Reading.abridged(String.valueOf(said)), VocabularyJson.codes(vocabulary)));
  }

  private static Fault unreadable(String field, @Nullable Object said, @Nullable Class<?> type) {
    String not = said == null ? "" : ", not “%s”".formatted(Reading.abridged(String.valueOf(said)));
    return new Fault(
        field,
        Rule.UNREADABLE,
        "This request cannot be read: %s belongs at “%s”%s."
            .formatted(expected(type), Reading.abridged(field), not));
  }

  private static String expected(@Nullable Class<?> type) {
    if (type == null) {
      return "something else";
    }
    if (type == boolean.class || type == Boolean.class) {
      return "true or false";
    }
    if (type == double.class || type == Double.class || type == BigDecimal.class) {
      return "a number";
    }
    if (type.isPrimitive() || Number.class.isAssignableFrom(type)) {
      return "a whole number";
    }
    if (type == LocalDate.class) {
      return "a day such as 2026-11-26";
    }
    if (type == Instant.class) {
      return "a moment such as 2026-11-26T08:30:00Z";
    }
    if (type == String.class) {
      return "a text";
    }
    return Collection.class.isAssignableFrom(type) || type.isArray() ? "a list" : "an object";
  }
}
