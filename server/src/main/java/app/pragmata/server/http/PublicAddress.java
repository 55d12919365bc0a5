package app.pragmata.server.http;

import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** Under which address others reach the program, for links that leave it. */
@Component
public class PublicAddress {
  private final String address;

  PublicAddress(
      @Value("${pragmata.public-address:http://127.0.0.1:${server.port:8080}}") String address) {
    this.address = address;
  }

  /** The whole address of a path such as "/offer/…". */
  public String of(String path) {
    return address + path;
  }
}
