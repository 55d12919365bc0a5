package app.pragmata.server.live;

import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** What others change, while a page is open. */
@RestController
class LiveApi {
  private final LiveStreams streams;

  LiveApi(LiveStreams streams) {
    this.streams = streams;
  }

  /**
   * Server-sent events: {@code changed} with the kinds of records that did, {@code everything} when
   * something may have been missed, {@code day} every few seconds with the company's day. None
   * carries what changed; whoever hears it asks for what they may see.
   */
  @GetMapping(path = "/api/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter streamChanges() {
    return streams.open();
  }
}
