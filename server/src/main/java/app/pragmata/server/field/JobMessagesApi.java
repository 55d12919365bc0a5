package app.pragmata.server.field;

import app.pragmata.server.field.JobMessages.JobMessage;
import app.pragmata.server.field.JobMessages.MessageForm;
import app.pragmata.server.records.Act;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** What technicians, the office and the customer say to each other about a job, over HTTP. */
@RestController
class JobMessagesApi {
  private final JobMessages messages;
  private final PocketApi pocket;

  JobMessagesApi(JobMessages messages, PocketApi pocket) {
    this.messages = messages;
    this.pocket = pocket;
  }

  /** From site to the office or to the customer. */
  @PostMapping("/api/pocket/visits/{id}/messages")
  PocketVisit sendMessageFromSite(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody MessageForm form) {
    messages.send(act, key, id, form);
    return pocket.getPocketVisit(act, id);
  }

  /** What the office says about the visit's job is seen. */
  @PostMapping("/api/pocket/visits/{id}/messages/seen")
  PocketVisit noteMessagesSeen(Act act, @PathVariable long id) {
    messages.see(act, id);
    return pocket.getPocketVisit(act, id);
  }

  @GetMapping("/api/jobs/{id}/messages")
  List<JobMessage> listMessagesOfJob(Act act, @PathVariable long id) {
    return messages.list(act, id);
  }

  /** From the office to whoever is on the job's visits, or to the customer. */
  @PostMapping("/api/jobs/{id}/messages")
  List<JobMessage> sendMessageFromOffice(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody MessageForm form) {
    messages.sendFromOffice(act, key, id, form);
    return messages.list(act, id);
  }
}
