package app.pragmata.server.telling;

import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Carries nothing anywhere: what was sent is read on the page of text messages. */
@Component
class StandInTextGateway implements TextGateway {
  private static final Logger LOG = LoggerFactory.getLogger(StandInTextGateway.class);

  @Override
  public void send(long id, String toNumber, String body) {
    LOG.debug("Text message {} is read on its page", id);
  }
}
