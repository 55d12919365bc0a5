package app.pragmata.core.calls;

import app.pragmata.core.Coded;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.company.Priority;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The questions that are asked on the phone about one kind of equipment. The first question opens
 * the talk; every answer leads on, and every talk comes to an end.
 */
public record FaultTalk(List<Question> questions) {
  private static final int MOST_QUESTIONS = 60;
  private static final int MOST_ANSWERS = 9;

  /** One question, known by its number, with the answers in the order in which they are offered. */
  public record Question(int number, String text, List<Answer> answers) {
    public Question {
      answers = List.copyOf(answers);
    }
  }

  /** One answer and where it leads. */
  public record Answer(String text, LeadsTo leadsTo) {}

  /** Where an answer leads. */
  public sealed interface LeadsTo {
    /** The names of the ways. */
    enum Code implements Coded {
      QUESTION,
      SOLVED,
      VISIT
    }

    /** To another question. */
    record Next(int question) implements LeadsTo {}

    /** To the end: what the caller does helps, and nobody has to come. */
    record Solved(String solution, @Nullable String faultCode) implements LeadsTo {}

    /** To the end: somebody has to come, this soon and for about so long. */
    record Visit(@Nullable String faultCode, Priority priority, int expectedMinutes)
        implements LeadsTo {}
  }

  public FaultTalk {
    questions = List.copyOf(questions);
  }

  /**
   * Notes every fault of the talk with its field: no question, two of one number, a question
   * without answers, an answer that leads to no question, a question that no answer leads to, and
   * answers that lead in a circle. A talk without faults always ends.
   */
  public void check(Reading reading) {
    if (questions.isEmpty()) {
      reading.fault("questions", Rule.NO_LINES, "A talk needs at least one question. Add one.");
      return;
    }
    if (questions.size() > MOST_QUESTIONS) {
      reading.fault(
          "questions", Rule.TOO_LARGE, "At most 60 questions fit in one talk. Shorten it.");
    }
    Set<Integer> numbers = new HashSet<>();
    for (int i = 0; i < questions.size(); i++) {
      Question question = questions.get(i);
      if (!numbers.add(question.number())) {
        reading.fault(
            "questions/" + i + "/text", Rule.REPEATED, "Two questions have one number. Reload.");
      }
      checkCount(question, i, reading);
    }
    checkLeads(numbers, reading);
    if (reading.faults().isEmpty()) {
      checkEnds(reading);
    }
  }

  private static void checkCount(Question question, int at, Reading reading) {
    if (question.answers().isEmpty() || question.answers().size() > MOST_ANSWERS) {
      reading.fault(
          "questions/" + at + "/text",
          question.answers().isEmpty() ? Rule.NO_LINES : Rule.TOO_LARGE,
          "A question has one to nine answers, one for each key. Add or remove some.");
    }
  }

  private void checkLeads(Set<Integer> numbers, Reading reading) {
    Set<Integer> reached = new HashSet<>(Set.of(questions.getFirst().number()));
    for (int i = 0; i < questions.size(); i++) {
      List<Answer> answers = questions.get(i).answers();
      for (int k = 0; k < answers.size(); k++) {
        if (answers.get(k).leadsTo() instanceof LeadsTo.Next next) {
          reached.add(next.question());
          if (!numbers.contains(next.question())) {
            reading.fault(
                "questions/%d/answers/%d/next".formatted(i, k),
                Rule.NOT_FOUND,
                "This answer leads to a question that is not there. Choose where it leads.");
          }
        }
      }
    }
    for (int i = 0; i < questions.size(); i++) {
      if (!reached.contains(questions.get(i).number())) {
        reading.fault(
            "questions/" + i + "/text",
            Rule.UNREACHABLE,
            "No answer leads to this question. Let one lead here, or remove it.");
      }
    }
  }

  private void checkEnds(Reading reading) {
    Set<Integer> ending = new HashSet<>();
    boolean grown = true;
    while (grown) {
      grown = false;
      for (Question question : questions) {
        if (!ending.contains(question.number())
            && question.answers().stream().allMatch(answer -> ends(answer, ending))) {
          grown = ending.add(question.number());
        }
      }
    }
    for (int i = 0; i < questions.size(); i++) {
      if (!ending.contains(questions.get(i).number())) {
        reading.fault(
            "questions/" + i + "/text",
            Rule.LEADS_IN_A_CIRCLE,
            "From here the answers can lead in a circle. Let one of them end the talk or lead further.");
      }
    }
  }

  private static boolean ends(Answer answer, Set<Integer> ending) {
    return switch (answer.leadsTo()) {
      case LeadsTo.Next next -> ending.contains(next.question());
      case LeadsTo.Solved solved -> true;
      case LeadsTo.Visit visit -> true;
    };
  }
}
