package app.pragmata.server.worklists;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.company.Company;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StageTest {
  private static final Company.Patience PATIENCE = new Company.Patience(14, 5, 3, 2);

  @ParameterizedTest
  @CsvSource({"QUOTED, 14", "WON, 5", "WORKED, 3", "CHECKED, 2"})
  void money_stands_as_long_as_the_company_has_patience(Stage stage, int days) {
    assertThat(stage.patienceDays(PATIENCE)).isEqualTo(days);
  }

  @ParameterizedTest
  @CsvSource({"BOOKED", "BILLED"})
  void what_has_a_day_of_its_own_is_late_as_soon_as_that_has_passed(Stage stage) {
    assertThat(stage.patienceDays(PATIENCE)).isZero();
  }
}
