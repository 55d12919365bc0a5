package app.pragmata.server.http;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ListFileTest {
  private static String csv(@Nullable Object... cells) {
    byte[] file =
        ListFile.named("list", ListFile.Format.CSV)
            .head("Name", "Sum")
            .rows(List.of(1), row -> cells)
            .answer()
            .getBody();
    return new String(file, StandardCharsets.UTF_8);
  }

  @Test
  void text_stands_in_quotation_marks_and_numbers_do_not() {
    assertThat(csv("Tern \"Lane\"", new BigDecimal("12.50")))
        .isEqualTo("\"Name\",\"Sum\"\r\n\"Tern \"\"Lane\"\"\",12.50\r\n");
  }

  @Test
  void a_text_stays_one_cell_where_lists_are_parted_by_semicolons_or_tabs() {
    assertThat(csv("Ferrow;=1+1\t=2+2", 1)).contains("\"Ferrow;=1+1\t=2+2\",1");
  }

  @ParameterizedTest
  @ValueSource(strings = {"=1+1", "+1", "-1", "@SUM(A1)", "\t=1", " =1", "＝1", "－1", "＋1", "＠A"})
  void no_text_is_taken_for_a_formula(String text) {
    assertThat(csv(text, 1)).contains("\"'" + text + "\"");
  }

  @Test
  void an_amount_below_nothing_stays_a_number() {
    assertThat(csv("Credit", new BigDecimal("-3.00"))).contains("\"Credit\",-3.00");
  }
}
