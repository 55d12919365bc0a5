package app.pragmata.server.http;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Lets no request be longer than any form is, before anything of it is read. Files come as what
 * they are, not as forms; {@link #read} is how the addresses that take one read it.
 */
@Component
@Order(AnswersInWords.OUTERMOST + 1)
public class BodyLimit extends OncePerRequestFilter {
  private static final int LONGEST_FORM = 2_000_000;

  /** A form without a length in its head turned out to be longer than it may be. */
  private static final class TooLong extends IOException {
    private static final long serialVersionUID = 1L;
  }

  /**
   * Reads a file that is sent as the body, and no more of it than it may have.
   *
   * @param tooLarge what whoever sends more is told
   */
  public static byte[] read(HttpServletRequest request, int most, String tooLarge)
      throws IOException {
    if (request.getContentLengthLong() > most) {
      throw tooLong(tooLarge);
    }
    byte[] content = request.getInputStream().readNBytes(most + 1);
    if (content.length > most) {
      throw tooLong(tooLarge);
    }
    return content;
  }

  /** Whether a form could not be read because it is too long. */
  static boolean isTooLong(Throwable failure) {
    for (Throwable cause = failure; cause != null; cause = cause.getCause()) {
      if (cause instanceof TooLong) {
        return true;
      }
    }
    return false;
  }

  static Problem tooLong() {
    return tooLong(
        "This is longer than any form of the program. Shorten it, or send it in parts; nothing of it was kept.");
  }

  private static Problem tooLong(String message) {
    return new Problem(HttpStatus.CONTENT_TOO_LARGE, message);
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    if (isFile(request.getContentType())) {
      chain.doFilter(request, response);
      return;
    }
    if (request.getContentLengthLong() > LONGEST_FORM) {
      throw tooLong();
    }
    chain.doFilter(request.getContentLengthLong() < 0 ? new Limited(request) : request, response);
  }

  private static boolean isFile(String contentType) {
    return contentType != null
        && (contentType.startsWith("image/")
            || contentType.startsWith(MediaType.APPLICATION_OCTET_STREAM_VALUE));
  }

  /** A request of unknown length that ends in a fault where the longest form would. */
  private static final class Limited extends HttpServletRequestWrapper {
    Limited(HttpServletRequest request) {
      super(request);
    }

    @Override
    public ServletInputStream getInputStream() throws IOException {
      return new Counted(super.getInputStream());
    }

    @Override
    public BufferedReader getReader() throws IOException {
      return new BufferedReader(new InputStreamReader(getInputStream(), StandardCharsets.UTF_8));
    }
  }

  private static final class Counted extends ServletInputStream {
    private final ServletInputStream body;
    private int count;

    Counted(ServletInputStream body) {
      this.body = body;
    }

    private int counted(int read) throws IOException {
      count += Math.max(read, 0);
      if (count > LONGEST_FORM) {
        throw new TooLong();
      }
      return read;
    }

    @Override
    public int read() throws IOException {
      int next = body.read();
      counted(next < 0 ? 0 : 1);
      return next;
    }

    @Override
    public int read(byte[] into, int from, int most) throws IOException {
      return counted(body.read(into, from, most));
    }

    @Override
    public boolean isFinished() {
      return body.isFinished();
    }

    @Override
    public boolean isReady() {
      return body.isReady();
    }

    @Override
    public void setReadListener(ReadListener listener) {
      body.setReadListener(listener);
    }
  }
}
