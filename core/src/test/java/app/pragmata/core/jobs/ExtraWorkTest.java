package app.pragmata.core.jobs;

import static app.pragmata.core.jobs.PromiseKind.ESTIMATE;
import static app.pragmata.core.jobs.PromiseKind.FIXED_PRICE;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import org.junit.jupiter.api.Test;

class ExtraWorkTest {
  @Test
  void further_work_at_the_site_of_the_same_kind_of_promise_belongs_to_the_job() {
    assertThatCode(() -> ExtraWork.check(2040, FIXED_PRICE, FIXED_PRICE, true))
        .doesNotThrowAnyException();
  }

  @Test
  void a_job_does_not_promise_a_fixed_price_and_an_estimate() {
    assertThatThrownBy(() -> ExtraWork.check(2040, ESTIMATE, FIXED_PRICE, true))
        .isInstanceOf(Refused.class)
        .hasMessageContaining("Job 2040 promises an estimate, this quote a fixed price");
  }

  @Test
  void work_at_another_site_is_another_job() {
    assertThatThrownBy(() -> ExtraWork.check(2040, FIXED_PRICE, FIXED_PRICE, false))
        .isInstanceOf(Refused.class)
        .hasMessageContaining("at another site");
  }
}
