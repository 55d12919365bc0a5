package app.pragmata.server.live;

import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Executor;
import java.util.function.Consumer;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * One page's stream. What is told while an earlier notice is still on its way out goes out together
 * afterwards, so that a slow reader holds up nobody and keeps nothing growing.
 */
final class LiveStream {
  private static final long WITHOUT_END = 0;

  private final SseEmitter emitter = new SseEmitter(WITHOUT_END);
  private final Executor threads;
  private final Consumer<LiveStream> gone;
  private final Set<String> kinds = new LinkedHashSet<>();
  private final Map<String, Object> due = new LinkedHashMap<>();
  private boolean sending;

  LiveStream(Executor threads, Consumer<LiveStream> gone) {
    this.threads = threads;
    this.gone = gone;
    emitter.onCompletion(() -> gone.accept(this));
    emitter.onError(lost -> gone.accept(this));
  }

  SseEmitter emitter() {
    return emitter;
  }

  void tell(Notice notice) {
    synchronized (due) {
      switch (notice) {
        case Notice.Changed changed -> {
          kinds.addAll(changed.kinds());
          due.put("changed", new Notice.Changed(new LinkedHashSet<>(kinds)));
        }
        case Notice.Everything everything -> due.put("everything", everything);
        case Notice.Day day -> due.put("day", day);
      }
      if (sending) {
        return;
      }
      sending = true;
    }
    threads.execute(this::send);
  }

  private void send() {
    for (Map<String, Object> now = next(); !now.isEmpty(); now = next()) {
      try {
        for (Map.Entry<String, Object> event : now.entrySet()) {
          emitter.send(SseEmitter.event().name(event.getKey()).data(event.getValue()));
        }
      } catch (IOException | IllegalStateException left) {
        gone.accept(this);
        return;
      }
    }
  }

  private Map<String, Object> next() {
    synchronized (due) {
      Map<String, Object> now = new LinkedHashMap<>(due);
      due.clear();
      kinds.clear();
      sending = !now.isEmpty();
      return now;
    }
  }

  void end() {
    emitter.complete();
  }
}
