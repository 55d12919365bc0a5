package app.pragmata.server.customers;

import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.EQUIPMENT_PHOTO;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.http.BodyLimit;
import app.pragmata.server.pictures.Pictures;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.time.Duration;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Sites and what stands there over HTTP. */
@RestController
class SitesApi {
  private static final int LARGEST_PHOTO = 20_000_000;

  record MoveForm(int version, @Nullable Long siteId) {}

  private final SiteService sites;
  private final EquipmentService equipment;
  private final VersionStore versions;
  private final DSLContext database;

  SitesApi(
      SiteService sites, EquipmentService equipment, DSLContext database, VersionStore versions) {
    this.versions = versions;
    this.sites = sites;
    this.equipment = equipment;
    this.database = database;
  }

  @PostMapping("/api/customers/{id}/sites")
  @Transactional
  Changed addSite(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody SiteService.SiteForm form) {
    return versions.changed(SITE.ID, sites.addSite(act, key, id, form));
  }

  @PutMapping("/api/sites/{id}")
  @Transactional
  Changed saveSite(Act act, @PathVariable long id, @RequestBody SiteService.SiteForm form) {
    sites.saveSite(act, id, form);
    return versions.changed(SITE.ID, id);
  }

  @DeleteMapping("/api/sites/{id}")
  void deleteSite(Act act, @PathVariable long id, @RequestParam int version) {
    sites.deleteSite(act, id, version);
  }

  @PostMapping("/api/sites/{id}/equipment")
  @Transactional
  Changed addEquipment(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody EquipmentService.EquipmentForm form) {
    return versions.changed(EQUIPMENT.ID, equipment.add(act, key, id, form));
  }

  @PutMapping("/api/equipment/{id}")
  @Transactional
  Changed saveEquipment(
      Act act, @PathVariable long id, @RequestBody EquipmentService.EquipmentForm form) {
    equipment.save(act, id, form);
    return versions.changed(EQUIPMENT.ID, id);
  }

  @PostMapping("/api/equipment/{id}/move")
  @Transactional
  Changed moveEquipment(Act act, @PathVariable long id, @RequestBody MoveForm form) {
    equipment.move(act, id, form.version(), form.siteId());
    return versions.changed(EQUIPMENT.ID, id);
  }

  @PostMapping("/api/equipment/{id}/replace")
  @Transactional
  Changed replaceEquipment(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody EquipmentService.EquipmentForm form) {
    return versions.changed(EQUIPMENT.ID, equipment.replace(act, key, id, form));
  }

  @DeleteMapping("/api/equipment/{id}")
  void deleteEquipment(Act act, @PathVariable long id, @RequestParam int version) {
    equipment.delete(act, id, version);
  }

  @GetMapping("/api/equipment/{id}/photo")
  ResponseEntity<byte[]> getEquipmentPhoto(@PathVariable long id) {
    var photo =
        database
            .selectFrom(EQUIPMENT_PHOTO)
            .where(EQUIPMENT_PHOTO.EQUIPMENT_ID.eq(id))
            .fetchOptional()
            .orElseThrow(() -> new Refused(Rule.NOT_FOUND, "There is no photo of this piece."));
    return ResponseEntity.ok()
        .contentType(MediaType.IMAGE_JPEG)
        .header(HttpHeaders.CONTENT_DISPOSITION, "inline")
        .cacheControl(CacheControl.maxAge(Duration.ofMinutes(1)).cachePrivate())
        .body(photo.getContent());
  }

  /** A photo as JPEG or PNG; it is made smaller, and where it was taken is not kept. */
  @PutMapping(path = "/api/equipment/{id}/photo", consumes = "image/*")
  @io.swagger.v3.oas.annotations.parameters.RequestBody(
      required = true,
      content =
          @Content(mediaType = "image/*", schema = @Schema(type = "string", format = "binary")))
  Changed keepPhoto(Act act, @PathVariable long id, HttpServletRequest request) throws IOException {
    // A body that comes slowly holds no connection to the database.
    byte[] photo =
        Pictures.photo(
            BodyLimit.read(
                request,
                LARGEST_PHOTO,
                "A photo has at most 20 MB. Make it smaller, then add it again."));
    return equipment.keepPhoto(act, id, photo);
  }
}
