package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.PERSON_DISTRICT;
import static app.pragmata.server.generated.Tables.POSTCODE_DISTRICT;
import static app.pragmata.server.generated.Tables.WORK_BASE;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.planning.Districts;
import app.pragmata.server.company.CompanyEvent;
import app.pragmata.server.company.SettingsChanges;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.records.Act;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Where technicians go, and where their days begin and end. */
@RestController
class AreasApi {
  /**
   * Where a technician goes, as it is typed.
   *
   * @param districts such as "OS1, OS2"; empty for everywhere
   * @param base the district in which their day begins and ends; empty for at the first stop and at
   *     the last
   */
  record AreaForm(int version, @Nullable String districts, @Nullable String base) {}

  private final DSLContext database;
  private final SettingsChanges settings;
  private final PeopleStore people;

  AreasApi(DSLContext database, SettingsChanges settings, PeopleStore people) {
    this.database = database;
    this.settings = settings;
    this.people = people;
  }

  /** Says where a technician goes and begins, in place of what was said before. */
  @PutMapping("/api/settings/availability/{personId}/area")
  @Transactional
  public void changeArea(Act act, @PathVariable long personId, @RequestBody AreaForm form) {
    people.requireTechnician(personId);
    var reading = new Reading();
    Set<String> districts = reading.optional("districts", form.districts(), Districts::parse);
    String base = reading.optional("base", form.base(), Districts::of);
    var middle =
        base == null
            ? null
            : database
                .selectFrom(POSTCODE_DISTRICT)
                .where(POSTCODE_DISTRICT.DISTRICT.eq(base))
                .fetchOne();
    if (base != null && middle == null) {
      reading.fault(
          "base",
          Rule.NOT_FOUND,
          "Nobody knows where this district is. Enter one like OS3, or nothing for the first stop.");
    }
    reading.refuseIfFaulty();
    Map<String, Object> before = said(personId);
    database.deleteFrom(PERSON_DISTRICT).where(PERSON_DISTRICT.PERSON_ID.eq(personId)).execute();
    if (districts != null) {
      districts.forEach(
          district -> database.insertInto(PERSON_DISTRICT).values(personId, district).execute());
    }
    if (!base(personId).equals(base == null ? "" : base)) {
      database.deleteFrom(WORK_BASE).where(WORK_BASE.PERSON_ID.eq(personId)).execute();
      if (middle != null) {
        database
            .insertInto(WORK_BASE)
            .values(personId, base, middle.getLatitude(), middle.getLongitude())
            .execute();
      }
    }
    settings.change(act, CompanyEvent.AREA_CHANGED, form.version(), before, said(personId));
  }

  private Map<String, Object> said(long personId) {
    String name = people.technicianName(personId);
    return Map.of(
        "districts of " + name, String.join(", ", districts(personId)),
        "start of " + name, base(personId));
  }

  private List<String> districts(long personId) {
    return database
        .selectFrom(PERSON_DISTRICT)
        .where(PERSON_DISTRICT.PERSON_ID.eq(personId))
        .orderBy(PERSON_DISTRICT.DISTRICT)
        .fetch(PERSON_DISTRICT.DISTRICT);
  }

  private String base(long personId) {
    return database
        .selectFrom(WORK_BASE)
        .where(WORK_BASE.PERSON_ID.eq(personId))
        .fetchOptional(WORK_BASE.DISTRICT)
        .orElse("");
  }
}
