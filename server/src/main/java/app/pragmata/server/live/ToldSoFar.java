package app.pragmata.server.live;

import java.util.UUID;
import java.util.concurrent.atomic.AtomicLong;
import org.springframework.stereotype.Component;

/**
 * How far this server has told of changes. A page takes the mark before it reads anything and gives
 * it back when its stream opens: as long as it still stands nothing was missed, and what the page
 * read need not be read twice. Other servers, and this one started anew, have other marks.
 */
@Component
public class ToldSoFar {
  private final String server = UUID.randomUUID().toString();
  private final AtomicLong notices = new AtomicLong();

  public String mark() {
    return server + "-" + notices.get();
  }

  /** To be called before the word goes out: a stream that opens in between hears it or knows. */
  void oneMore() {
    notices.incrementAndGet();
  }
}
