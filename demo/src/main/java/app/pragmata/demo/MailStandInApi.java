package app.pragmata.demo;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.util.List;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** The page on which the stand-in's messages can be read. */
@RestController
class MailStandInApi {
  private final MailStandIn standIn;

  MailStandInApi(MailStandIn standIn) {
    this.standIn = standIn;
  }

  @GetMapping("/api/mail-stand-in")
  List<MailStandIn.Message> listMessages() {
    return standIn.list();
  }

  @GetMapping("/api/mail-stand-in/{number}/attachment")
  ResponseEntity<byte[]> getAttachment(@PathVariable int number) {
    byte[] content =
        standIn
            .findAttachment(number)
            .orElseThrow(() -> new Refused(Rule.NOT_FOUND, "This message has no attachment."));
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_PDF)
        .header(HttpHeaders.CONTENT_DISPOSITION, "inline; filename=\"attachment.pdf\"")
        .body(content);
  }
}
