package app.pragmata.core.calls;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.calls.FaultTalk.Answer;
import app.pragmata.core.calls.FaultTalk.LeadsTo;
import app.pragmata.core.calls.FaultTalk.Question;
import app.pragmata.core.company.Priority;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class FaultTalkTest {
  private static final LeadsTo SOLVED = new LeadsTo.Solved("Switch it on.", null);
  private static final LeadsTo VISIT = new LeadsTo.Visit("STUCK", Priority.URGENT, 90);

  private static List<Fault> faults(Question... questions) {
    var reading = new Reading();
    new FaultTalk(List.of(questions)).check(reading);
    return reading.faults();
  }

  private static Question question(int number, LeadsTo... leads) {
    var answers = new ArrayList<Answer>();
    for (LeadsTo lead : leads) {
      answers.add(new Answer("answer " + answers.size(), lead));
    }
    return new Question(number, "Question " + number, answers);
  }

  private static LeadsTo to(int question) {
    return new LeadsTo.Next(question);
  }

  @Test
  void a_talk_whose_answers_lead_on_or_end_has_no_fault() {
    assertThat(faults(question(1, to(2), to(3)), question(2, SOLVED, to(3)), question(3, VISIT)))
        .isEmpty();
  }

  @Test
  void a_talk_without_questions_is_refused() {
    assertThat(faults()).extracting(Fault::rule).containsExactly(Rule.NO_LINES);
  }

  @Test
  void a_question_without_answers_is_refused_at_its_place() {
    assertThat(faults(question(1, to(2)), question(2)))
        .extracting(Fault::field)
        .containsExactly("questions/1/text");
  }

  @Test
  void an_answer_that_leads_nowhere_is_refused_at_its_place() {
    assertThat(faults(question(1, VISIT, to(9))))
        .singleElement()
        .satisfies(
            fault -> {
              assertThat(fault.field()).isEqualTo("questions/0/answers/1/next");
              assertThat(fault.rule()).isEqualTo(Rule.NOT_FOUND);
            });
  }

  @Test
  void a_question_that_no_answer_leads_to_is_refused() {
    assertThat(faults(question(1, VISIT), question(2, SOLVED)))
        .extracting(Fault::rule)
        .containsExactly(Rule.UNREACHABLE);
  }

  @Test
  void answers_that_lead_in_a_circle_are_refused() {
    assertThat(faults(question(1, to(2), VISIT), question(2, to(1), SOLVED)))
        .extracting(Fault::rule)
        .containsOnly(Rule.LEADS_IN_A_CIRCLE);
  }

  @Property(tries = 300)
  void whoever_answers_a_talk_without_faults_comes_to_an_end(@ForAll long seed) {
    var random = new Random(seed);
    int count = 1 + random.nextInt(7);
    var questions = new Question[count];
    for (int i = 0; i < count; i++) {
      var leads = new LeadsTo[1 + random.nextInt(3)];
      for (int k = 0; k < leads.length; k++) {
        int next = 1 + random.nextInt(count);
        leads[k] = random.nextInt(3) == 0 ? VISIT : random.nextBoolean() ? SOLVED : to(next);
      }
      questions[i] = question(i + 1, leads);
    }
    if (faults(questions).isEmpty()) {
      assertThat(longestWay(questions, 1, 0)).isLessThanOrEqualTo(count);
    }
  }

  private static int longestWay(Question[] questions, int at, int steps) {
    assertThat(steps).isLessThanOrEqualTo(questions.length);
    return questions[at - 1].answers().stream()
        .mapToInt(
            answer ->
                answer.leadsTo() instanceof LeadsTo.Next next
                    ? longestWay(questions, next.question(), steps + 1)
                    : steps + 1)
        .max()
        .orElseThrow();
  }
}
