package app.pragmata.server.field;

import app.pragmata.core.Reading;
import app.pragmata.server.field.VisitPhotos.PhotoNote;
import app.pragmata.server.field.VisitPhotos.VisitPhoto;
import app.pragmata.server.http.BodyLimit;
import app.pragmata.server.pictures.Pictures;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.AtVersion;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Photos of visits over HTTP, on the phone and at the desk. */
@RestController
class VisitPhotosApi {
  /**
   * What a technician sees on a visit.
   *
   * @param photos of the visit itself
   * @param before the latest of other visits at the same site
   */
  record PhotosOnSite(List<VisitPhoto> photos, List<VisitPhoto> before) {}

  /** Why a photo is taken off. */
  record PhotoRemovalForm(int version, @Nullable String reason) {}

  private static final int LARGEST = 20_000_000;
  private static final int LONGEST_REASON = 300;
  private static final String TOO_LARGE =
      "A photo has at most 20 MB. Make it smaller, then add it again.";

  private final VisitPhotos photos;

  VisitPhotosApi(VisitPhotos photos) {
    this.photos = photos;
  }

  @GetMapping("/api/pocket/visits/{id}/photos")
  PhotosOnSite listPhotosOnSite(Act act, @PathVariable long id) {
    photos.requireOwn(act, id);
    return onSite(act, id);
  }

  private PhotosOnSite onSite(Act act, long visitId) {
    return new PhotosOnSite(photos.listOfVisit(act, visitId), photos.listBefore(act, visitId));
  }

  /**
   * Adds a photo as JPEG or PNG; it is made smaller and turned upright, and a position in it is not
   * kept. Where the company wants to know places, the phone says beside it where it was taken.
   *
   * @param latitude in degrees (WGS 84), as is the longitude; null where the phone does not say
   * @param accuracyMetres it was within so many metres of there
   */
  @PostMapping(path = "/api/pocket/visits/{id}/photos", consumes = "image/*")
  @io.swagger.v3.oas.annotations.parameters.RequestBody(
      required = true,
      content =
          @Content(mediaType = "image/*", schema = @Schema(type = "string", format = "binary")))
  PhotosOnSite takePhoto(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestParam(required = false) @Nullable String words,
      @RequestParam(required = false) @Nullable Long partWantedId,
      @RequestParam(required = false) @Nullable Long unlistedPartId,
      @RequestParam(required = false) @Nullable Long checklistItemId,
      @RequestParam(required = false) @Nullable Instant takenAt,
      @RequestParam(required = false) @Nullable Instant sentAt,
      @RequestParam(required = false) @Nullable Double latitude,
      @RequestParam(required = false) @Nullable Double longitude,
      @RequestParam(required = false) @Nullable Double accuracyMetres,
      HttpServletRequest request)
      throws IOException {
    // A body that comes slowly holds no connection to the database, nor does drawing it.
    Pictures.Kept photo = Pictures.kept(BodyLimit.read(request, LARGEST, TOO_LARGE));
    photos.add(
        act,
        key,
        id,
        photo,
        new PhotoNote(
            words,
            partWantedId,
            unlistedPartId,
            checklistItemId,
            takenAt,
            sentAt,
            PositionForm.of(latitude, longitude, accuracyMetres)));
    return onSite(act, id);
  }

  /** Takes one's own photo off again. */
  @PostMapping("/api/pocket/photos/{id}/remove")
  PhotosOnSite takePhotoBack(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    return onSite(act, photos.remove(act, id, at.version(), ""));
  }

  @GetMapping("/api/pocket/photos/{id}")
  ResponseEntity<byte[]> getPhotoOnSite(Act act, @PathVariable long id) {
    return picture(photos.picture(act, id, false));
  }

  /** The same, small enough for a list. */
  @GetMapping("/api/pocket/photos/{id}/small")
  ResponseEntity<byte[]> getSmallPhotoOnSite(Act act, @PathVariable long id) {
    return picture(photos.picture(act, id, true));
  }

  @GetMapping("/api/jobs/{id}/photos")
  List<VisitPhoto> listPhotosOfJob(Act act, @PathVariable long id) {
    return photos.listOfJob(act, id);
  }

  @GetMapping("/api/visit-photos/{id}")
  ResponseEntity<byte[]> getVisitPhoto(Act act, @PathVariable long id) {
    return picture(photos.picture(act, id, false));
  }

  @GetMapping("/api/visit-photos/{id}/small")
  ResponseEntity<byte[]> getSmallVisitPhoto(Act act, @PathVariable long id) {
    return picture(photos.picture(act, id, true));
  }

  /** Takes a photo off its visit; the reason stays. */
  @PostMapping("/api/visit-photos/{id}/remove")
  List<VisitPhoto> removeVisitPhoto(
      Act act, @PathVariable long id, @RequestBody PhotoRemovalForm form) {
    var reading = new Reading();
    String reason = reading.text("reason", form.reason(), LONGEST_REASON);
    reading.refuseIfFaulty();
    long visit = photos.remove(act, id, form.version(), Objects.requireNonNull(reason));
    return photos.listOfVisit(act, visit);
  }

  /** A kept picture never changes. */
  private static ResponseEntity<byte[]> picture(byte[] jpeg) {
    return ResponseEntity.ok()
        .contentType(MediaType.IMAGE_JPEG)
        .header(HttpHeaders.CONTENT_DISPOSITION, "inline")
        .cacheControl(CacheControl.maxAge(Duration.ofDays(1)).cachePrivate())
        .body(jpeg);
  }
}
