package app.pragmata.server.billing;

import app.pragmata.server.http.BodyLimit;
import app.pragmata.server.records.Act;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Suppliers' bills as they came, over HTTP. */
@RestController
class BillFilesApi {
  private static final int LARGEST = 8_000_000;

  private final BillFiles files;

  BillFilesApi(BillFiles files) {
    this.files = files;
  }

  /** A PDF, JPEG or PNG of at most 8 MB; it stands instead of one that was kept before. */
  @PutMapping(
      path = "/api/other-costs/{id}/file",
      consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  @io.swagger.v3.oas.annotations.parameters.RequestBody(
      required = true,
      content =
          @Content(
              mediaType = "application/octet-stream",
              schema = @Schema(type = "string", format = "binary")))
  void keepBillFile(
      Act act,
      @PathVariable long id,
      @RequestParam(defaultValue = "") String fileName,
      HttpServletRequest request)
      throws IOException {
    byte[] content =
        BodyLimit.read(
            request, LARGEST, "A bill has at most 8 MB. Scan it smaller, then add it again.");
    files.keep(act, id, fileName, content);
  }

  @GetMapping("/api/other-costs/{id}/file")
  ResponseEntity<byte[]> getBillFile(@PathVariable long id) {
    BillFiles.BillFile file = files.get(id);
    return ResponseEntity.ok()
        .contentType(MediaType.parseMediaType(file.mediaType()))
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(file.name(), StandardCharsets.UTF_8)
                .build()
                .toString())
        .body(file.content().bytes());
  }
}
