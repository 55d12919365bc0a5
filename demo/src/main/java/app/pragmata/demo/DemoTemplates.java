package app.pragmata.demo;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The kinds of work that come again and again, and what is mostly wrong then. */
final class DemoTemplates {
  /**
   * A kind of work; parts are numbers of the price list with quantities, such as "PHO-02:1".
   *
   * @param other a supplier's bill with its cost and price, such as "Lift hire:85.00:110.00"; empty
   *     for none
   */
  record Template(
      String title, String kind, String equipment, int minutes, String other, List<String> parts) {
    List<Used> used() {
      return parts.stream()
          .map(part -> part.split(":", -1))
          .map(split -> new Used(split[0], Integer.parseInt(split[1])))
          .toList();
    }

    /** What the office noted of it, as whoever comes reads it; empty for nothing. */
    String noted() {
      return NOTED.getOrDefault(title, "");
    }
  }

  /** A part of the price list and how many of it. */
  record Used(String number, int quantity) {}

  private static final Map<String, String> NOTED =
      Map.of(
          "Swing gate will not close",
          "Starts, then stops after a hand’s breadth. The lamp on the control box is lit.",
          "Sliding gate stops half-way",
          "Stops at the same place each time. Nothing lies in the track.",
          "Shutter will not lift",
          "Hums and does not move. The isolator is on, they have looked.",
          "Shutter curtain torn",
          "A van backed into it. The lower third hangs loose and is roped off.");

  static final List<Template> ALL =
      List.of(
          new Template(
              "Swing gate will not close",
              "Repair",
              "gate",
              120,
              "",
              List.of("RAM-230:1", "PHO-02:1")),
          new Template(
              "Sliding gate stops half-way",
              "Repair",
              "gate",
              90,
              "",
              List.of("PHO-02:1", "LIM-SW:1")),
          new Template(
              "Gate remote and receiver", "Repair", "gate", 60, "", List.of("REC-2:1", "REM-4:3")),
          new Template(
              "Control board after the storm", "Call-out", "gate", 105, "", List.of("CTL-2L:1")),
          new Template(
              "Shutter will not lift",
              "Call-out",
              "shutter",
              90,
              "",
              List.of("CTL-SH:1", "CAP-16:1")),
          new Template(
              "Shutter curtain torn",
              "Repair",
              "shutter",
              240,
              "Lift hire:85.00:110.00",
              List.of("SLT-77:6", "EDG-KIT:1")),
          new Template(
              "New shutter motor",
              "Installation",
              "shutter",
              210,
              "",
              List.of("MOT-400:1", "CBL-4:14", "KEY-SW:1")),
          new Template(
              "New roller shutter",
              "Installation",
              "shutter",
              420,
              "Skip hire:120.00:160.00",
              List.of("CUR-32:1", "MOT-400:1", "EDG-32:1")),
          new Template(
              "Safety edge replaced",
              "Repair",
              "shutter",
              75,
              "",
              List.of("EDG-32:1", "EDG-KIT:1")),
          new Template(
              "Garage door spring", "Repair", "door", 90, "", List.of("SPR-L:1", "SPR-R:1")),
          new Template(
              "Sectional door cable", "Repair", "door", 75, "", List.of("CAB-PR:1", "ROL-10:1")),
          new Template(
              "Garage door motor",
              "Installation",
              "door",
              150,
              "",
              List.of("MOT-140:1", "REM-4:2")),
          new Template("Six-monthly service", "Service", "any", 60, "", List.of("GRS-1:1")),
          new Template(
              "Safety check with certificate", "Safety check", "any", 75, "", List.of("SGN-W:1")),
          new Template(
              "Barrier arm after impact",
              "Repair",
              "barrier",
              90,
              "",
              List.of("ARM-4:1", "ARM-SP:1")),
          new Template(
              "Barrier loop detector",
              "Repair",
              "barrier",
              120,
              "",
              List.of("LOP-D:1", "LOP-W:12")),
          new Template(
              "Intercom to gate",
              "Installation",
              "gate",
              240,
              "Trench, subcontract:140.00:185.00",
              List.of("ICM-1:1", "CBL-4:25", "CND-20:20")),
          new Template(
              "Rapid door, curtain and sensor",
              "Repair",
              "door",
              150,
              "",
              List.of("PHO-02:1", "BRG-40:2")));

  /** The fault that a job's caller told, and the cause that the technician most often finds. */
  private record Wrong(String fault, String cause) {}

  private static final Map<String, Wrong> WRONG =
      Map.of(
          "Swing gate will not close", new Wrong("HALFWAY", "WEAR"),
          "Swing gate will not close, ram replaced", new Wrong("HALFWAY", "WEAR"),
          "Sliding gate stops half-way", new Wrong("HALFWAY", "SETTING"),
          "Gate remote and receiver", new Wrong("REMOTE", "BATTERY"),
          "Control board after the storm", new Wrong("POWER", "WATER"),
          "Shutter will not lift", new Wrong("STUCK", "WEAR"),
          "Safety edge replaced", new Wrong("REOPENS", "WEAR"),
          "Garage door spring", new Wrong("SPRING", "WEAR"),
          "Barrier arm after impact", new Wrong("IMPACT", "DAMAGE"),
          "Barrier loop detector", new Wrong("STUCK", "WATER"));

  private DemoTemplates() {}

  /** The fault that the caller tells; null where nothing is wrong. */
  static @Nullable String fault(Template template) {
    Wrong wrong = WRONG.get(template.title());
    return wrong == null ? null : wrong.fault();
  }

  /** The cause that is found most often; null where nothing was wrong. */
  static @Nullable String cause(Template template) {
    Wrong wrong = WRONG.get(template.title());
    return wrong == null ? null : wrong.cause();
  }
}
