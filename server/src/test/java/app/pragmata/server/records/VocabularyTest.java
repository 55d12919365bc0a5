package app.pragmata.server.records;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import org.junit.jupiter.api.Test;

class VocabularyTest {
  @Test
  void a_name_in_an_sql_text_stands_for_its_code() {
    assertThat(
            Vocabulary.inSql(
                "select sum(x)::bigint from t where state = :CALLED_OFF and kind = :LABOUR",
                JobState.Code.class,
                TimeEntry.Kind.class))
        .isEqualTo("select sum(x)::bigint from t where state = 'called_off' and kind = 'labour'");
  }

  @Test
  void a_name_that_no_vocabulary_has_is_a_mistake() {
    assertThatThrownBy(() -> Vocabulary.inSql("state = :SETTLED", JobState.Code.class))
        .hasMessageContaining(":SETTLED");
  }

  @Test
  void a_name_that_two_vocabularies_have_is_a_mistake() {
    assertThatThrownBy(
            () -> Vocabulary.inSql("state = :CHECKED", JobState.Code.class, VisitState.Code.class))
        .hasMessageContaining(":CHECKED");
  }
}
