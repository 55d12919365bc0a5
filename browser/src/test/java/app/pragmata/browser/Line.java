package app.pragmata.browser;

import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.URI;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The line between a phone and the server, which can be cut: nothing comes through then, whatever
 * the browser thinks of its network. It can also swallow answers, so that the server has done what
 * the phone never hears of.
 */
final class Line implements Closeable {
  private enum State {
    UP,
    NO_ANSWERS,
    CUT
  }

  private final ServerSocket listening;
  private final URI server;
  private final Set<Socket> open = ConcurrentHashMap.newKeySet();
  private volatile State state = State.UP;

  Line(String serverAddress) {
    server = URI.create(serverAddress);
    try {
      listening = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    Thread.ofVirtual().start(this::accept);
  }

  String address() {
    return "http://127.0.0.1:" + listening.getLocalPort();
  }

  void cut() {
    state = State.CUT;
    open.forEach(Line::end);
  }

  void swallowAnswers() {
    state = State.NO_ANSWERS;
  }

  /** Answers are heard again; what hangs on one that was swallowed goes on hanging. */
  void hearAgain() {
    state = State.UP;
  }

  void mend() {
    open.forEach(Line::end);
    state = State.UP;
  }

  @Override
  public void close() throws IOException {
    listening.close();
    cut();
  }

  private void accept() {
    while (!listening.isClosed()) {
      try {
        Socket phone = listening.accept();
        if (state == State.CUT) {
          phone.close();
        } else {
          Socket there = new Socket(server.getHost(), server.getPort());
          open.add(phone);
          open.add(there);
          Thread.ofVirtual().start(() -> pass(phone, there, false));
          Thread.ofVirtual().start(() -> pass(there, phone, true));
        }
      } catch (IOException ended) {
        // The next one is taken all the same; where no more are, the loop ends.
      }
    }
  }

  private void pass(Socket from, Socket to, boolean answers) {
    var portion = new byte[16_384];
    try (from;
        to;
        InputStream in = from.getInputStream();
        OutputStream out = to.getOutputStream()) {
      for (int read = in.read(portion); read >= 0; read = in.read(portion)) {
        if (!(answers && state == State.NO_ANSWERS)) {
          out.write(portion, 0, read);
          out.flush();
        }
      }
    } catch (IOException cut) {
      end(to);
    } finally {
      open.remove(from);
      open.remove(to);
    }
  }

  private static void end(Socket socket) {
    try {
      socket.close();
    } catch (IOException gone) {
      throw new UncheckedIOException(gone);
    }
  }
}
