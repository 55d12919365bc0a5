package app.pragmata.server.live;

import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
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
   *
   * @param told the session's mark of that name, from before the page read what it shows; as long
   *     as nothing was told since, the first event is {@code day} and not {@code everything}
   */
  @GetMapping(path = "/api/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter streamChanges(@RequestParam(required = false) @Nullable String told) {
    return streams.open(told);
  }
}
