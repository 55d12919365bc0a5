package app.pragmata.core.planning;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;

/**
 * An appointment as calendars read it (iCalendar, RFC 5545). Times are written in UTC, so that no
 * time zone has to go with them.
 *
 * @param uid the same for all versions of one appointment
 * @param sequence counts its versions (RFC 5545, 3.8.7.4)
 * @param stamped when this version was made
 * @param calledOff whether it does not take place
 */
public record CalendarEntry(
    String uid,
    int sequence,
    Instant stamped,
    Instant start,
    Instant end,
    String summary,
    String location,
    String description,
    boolean calledOff) {
  private static final DateTimeFormatter MOMENT =
      DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);
  private static final int MOST_OCTETS = 75;
  private static final String LINE_END = "\r\n";

  /** A calendar that others subscribe to (RFC 5545; no METHOD, for nobody is invited). */
  public static String feed(String name, List<CalendarEntry> entries) {
    return calendar("X-WR-CALNAME:" + escaped(name), entries);
  }

  /**
   * A message to one reader (RFC 5546): to put this into their calendar, or to take it out.
   *
   * @param organizer the address that it comes from
   */
  public String message(String organizer) {
    return calendar(
        calledOff ? "METHOD:CANCEL" : "METHOD:REQUEST",
        List.of(this),
        "ORGANIZER:mailto:" + organizer);
  }

  private static String calendar(String head, List<CalendarEntry> entries, String... more) {
    var text = new StringBuilder();
    line(text, "BEGIN:VCALENDAR");
    line(text, "VERSION:2.0");
    line(text, "PRODID:-//Pragmata//Visits//EN");
    line(text, head);
    for (CalendarEntry entry : entries) {
      entry.write(text, more);
    }
    line(text, "END:VCALENDAR");
    return text.toString();
  }

  private void write(StringBuilder text, String... more) {
    line(text, "BEGIN:VEVENT");
    line(text, "UID:" + uid);
    line(text, "SEQUENCE:" + sequence);
    line(text, "DTSTAMP:" + MOMENT.format(stamped));
    line(text, "DTSTART:" + MOMENT.format(start));
    line(text, "DTEND:" + MOMENT.format(end));
    line(text, "SUMMARY:" + escaped(summary));
    line(text, "LOCATION:" + escaped(location));
    line(text, "DESCRIPTION:" + escaped(description));
    line(text, "STATUS:" + (calledOff ? "CANCELLED" : "CONFIRMED"));
    for (String extra : more) {
      line(text, extra);
    }
    line(text, "END:VEVENT");
  }

  /** A text value (RFC 5545, 3.3.11). */
  private static String escaped(String value) {
    return value
        .replace("\\", "\\\\")
        .replace(";", "\\;")
        .replace(",", "\\,")
        .replace("\r", "")
        .replace("\n", "\\n");
  }

  /** A line is folded so that none is longer than 75 octets (RFC 5545, 3.1). */
  private static void line(StringBuilder text, String content) {
    int octets = 0;
    for (int i = 0; i < content.length(); ) {
      int point = content.codePointAt(i);
      String sign = Character.toString(point);
      int length = sign.getBytes(StandardCharsets.UTF_8).length;
      if (octets + length > MOST_OCTETS) {
        text.append(LINE_END).append(' ');
        octets = 1;
      }
      text.append(sign);
      octets += length;
      i += Character.charCount(point);
    }
    text.append(LINE_END);
  }
}
