package app.pragmata.server.telling;

/**
 * Whoever carries text messages to telephones; a real one may stand in the place of the stand-in.
 */
interface TextGateway {
  /**
   * Hands a message over.
   *
   * @param id the same for the same message, so that whoever gets it twice knows it again
   */
  void send(long id, String toNumber, String body);
}
