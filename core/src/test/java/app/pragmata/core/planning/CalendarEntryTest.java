package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CalendarEntryTest {
  private static CalendarEntry entry(String description, boolean calledOff) {
    return new CalendarEntry(
        "visit-7@ferrow.example",
        2,
        Instant.parse("2026-11-28T09:00:00Z"),
        Instant.parse("2026-11-30T10:15:00Z"),
        Instant.parse("2026-11-30T11:45:00Z"),
        "Gate, left leaf",
        "Unit 4; Ropewalk",
        description,
        calledOff);
  }

  @Test
  void an_invitation_is_written_as_calendars_read_it() {
    assertThat(entry("Ring first\nthen knock", false).message("office@ferrow.example"))
        .isEqualTo(
            String.join(
                "\r\n",
                "BEGIN:VCALENDAR",
                "VERSION:2.0",
                "PRODID:-//Pragmata//Visits//EN",
                "METHOD:REQUEST",
                "BEGIN:VEVENT",
                "UID:visit-7@ferrow.example",
                "SEQUENCE:2",
                "DTSTAMP:20261128T090000Z",
                "DTSTART:20261130T101500Z",
                "DTEND:20261130T114500Z",
                "SUMMARY:Gate\\, left leaf",
                "LOCATION:Unit 4\\; Ropewalk",
                "DESCRIPTION:Ring first\\nthen knock",
                "STATUS:CONFIRMED",
                "ORGANIZER:mailto:office@ferrow.example",
                "END:VEVENT",
                "END:VCALENDAR",
                ""));
  }

  @Test
  void what_is_called_off_takes_the_entry_out_again() {
    assertThat(entry("", true).message("office@ferrow.example"))
        .contains("METHOD:CANCEL")
        .contains("STATUS:CANCELLED")
        .contains("UID:visit-7@ferrow.example");
  }

  @Test
  void a_feed_invites_nobody() {
    assertThat(CalendarEntry.feed("Imre’s visits", List.of(entry("", false))))
        .contains("X-WR-CALNAME:Imre’s visits")
        .doesNotContain("METHOD", "ORGANIZER");
  }

  @Property
  void no_line_is_longer_than_75_octets_and_unfolding_gives_all_of_it_back(@ForAll String text) {
    String calendar = entry(text, false).message("office@ferrow.example");
    assertThat(Arrays.stream(calendar.split("\r\n", -1)))
        .allMatch(line -> line.getBytes(StandardCharsets.UTF_8).length <= 75);
    String described =
        Arrays.stream(calendar.replace("\r\n ", "").split("\r\n", -1))
            .filter(line -> line.startsWith("DESCRIPTION:"))
            .findFirst()
            .orElseThrow();
    assertThat(described.substring("DESCRIPTION:".length()))
        .isEqualTo(
            text.replace("\\", "\\\\")
                .replace(";", "\\;")
                .replace(",", "\\,")
                .replace("\r", "")
                .replace("\n", "\\n"));
  }

  @ParameterizedTest
  @CsvSource({
    "10:00, 10:00, 11:00",
    "10:15, 10:00, 11:00",
    "10:45, 10:30, 11:30",
    "23:40, 23:30, 00:30"
  })
  void a_window_is_the_hour_from_the_half_hour_before(String start, String from, String to) {
    assertThat(ArrivalWindow.of(LocalTime.parse(start)))
        .isEqualTo(new ArrivalWindow(LocalTime.parse(from), LocalTime.parse(to)));
  }
}
