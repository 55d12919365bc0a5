package app.pragmata.server.company;

import static app.pragmata.server.generated.Tables.COMPANY_LOGO;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.records.Act;
import java.time.Duration;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** The picture at the head of documents and of the customer's page. */
@Repository
public class Logo {
  private final DSLContext database;
  private final SettingsChanges settings;

  Logo(DSLContext database, SettingsChanges settings) {
    this.database = database;
    this.settings = settings;
  }

  /** As PNG; empty where there is none. */
  public Optional<byte[]> find() {
    return database.select(COMPANY_LOGO.PNG).from(COMPANY_LOGO).fetchOptional(COMPANY_LOGO.PNG);
  }

  /** The same as the answer to a request; refused where there is none. */
  public ResponseEntity<byte[]> answer() {
    byte[] png = find().orElseThrow(() -> new Refused(Rule.NOT_FOUND, "There is no logo."));
    return ResponseEntity.ok()
        .contentType(MediaType.IMAGE_PNG)
        .header(HttpHeaders.CONTENT_DISPOSITION, "inline")
        .cacheControl(CacheControl.maxAge(Duration.ofMinutes(1)).cachePrivate())
        .body(png);
  }

  @Transactional
  public void keep(Act act, byte[] png) {
    settings.change(
        act, CompanyEvent.LOGO_CHANGED, settings.version(), Map.of(), Map.of("bytes", png.length));
    database
        .insertInto(COMPANY_LOGO, COMPANY_LOGO.PNG)
        .values(png)
        .onConflict(COMPANY_LOGO.ID)
        .doUpdate()
        .set(COMPANY_LOGO.PNG, png)
        .execute();
  }

  @Transactional
  public void remove(Act act) {
    if (database.deleteFrom(COMPANY_LOGO).execute() > 0) {
      settings.change(
          act, CompanyEvent.LOGO_CHANGED, settings.version(), Map.of("logo", "yes"), Map.of());
    }
  }
}
