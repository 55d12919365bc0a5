package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.UncheckedIOException;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Somebody who hears server-sent events, in the form of the HTML standard, 9.2. */
final class Listener implements AutoCloseable {
  /** One event: its name and its data. */
  record Heard(String name, JsonNode data) {
    boolean isChangeOf(String kind) {
      return name.equals("changed") && data.path("kinds").toString().contains('"' + kind + '"');
    }
  }

  private final int status;
  private final Stream<String> lines;
  private final CountDownLatch end = new CountDownLatch(1);
  private final BlockingQueue<Heard> heard = new LinkedBlockingQueue<>();

  Listener(HttpResponse<Stream<String>> answer) {
    status = answer.statusCode();
    lines = answer.body();
    Thread.ofVirtual().start(this::read);
  }

  private void read() {
    String[] name = {""};
    try {
      lines.forEach(
          line -> {
            if (line.startsWith("event:")) {
              name[0] = line.substring("event:".length());
            } else if (line.startsWith("data:")) {
              heard.add(
                  new Heard(
                      name[0], JsonMapper.shared().readTree(line.substring("data:".length()))));
            }
          });
    } catch (UncheckedIOException ended) {
      // The program was stopped, or nobody listens any more.
    } finally {
      end.countDown();
    }
  }

  /** Whether the program ends the stream within so long. */
  boolean ends(Duration longest) throws InterruptedException {
    return end.await(longest.toMillis(), TimeUnit.MILLISECONDS);
  }

  int status() {
    return status;
  }

  /** The first event of this sort that comes within so long; those before it are passed over. */
  Heard await(Duration longest, Predicate<Heard> wanted) {
    long end = System.nanoTime() + longest.toNanos();
    for (Heard next = next(end); next != null; next = next(end)) {
      if (wanted.test(next)) {
        return next;
      }
    }
    return fail(longest);
  }

  private @Nullable Heard next(long end) {
    try {
      return heard.poll(end - System.nanoTime(), TimeUnit.NANOSECONDS);
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(interrupted);
    }
  }

  private static Heard fail(Duration longest) {
    assertThat(false).as("heard within %s", longest).isTrue();
    throw new IllegalStateException();
  }

  @Override
  public void close() {
    lines.close();
  }
}
