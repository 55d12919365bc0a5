package app.pragmata.server;

import app.pragmata.demo.Demo;
import app.pragmata.server.mail.MailServer;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * The program in a process of its own, on a database that is there already: so that it can be
 * killed like a machine whose plug is pulled.
 */
final class ServerProcess {
  private static final String LISTENING = "listening at ";

  private final Process process;
  private final String address;

  private ServerProcess(Process process, String address) {
    this.process = process;
    this.address = address;
  }

  /** Waits until the program listens; its mail goes to this server. */
  static ServerProcess start(String database, String localNow, MailServer mail) {
    var command = new ArrayList<String>();
    command.add(System.getProperty("java.home") + "/bin/java");
    command.add("-cp");
    command.add(
        System.getProperty("surefire.test.class.path", System.getProperty("java.class.path")));
    for (String property : List.of("url", "user", "password", "name")) {
      String name = "pragmata.database." + property;
      command.add("-D%s=%s".formatted(name, System.getProperty(name)));
    }
    command.add("-XX:TieredStopAtLevel=1");
    command.add("-Xmx512m");
    command.addAll(
        List.of(
            ServerProcess.class.getName(),
            database,
            localNow,
            "pragmata.demo.mail-port=" + mail.port()));
    try {
      Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
      BufferedReader output = process.inputReader();
      var said = new StringBuilder();
      for (String line = output.readLine(); line != null; line = output.readLine()) {
        if (line.startsWith(LISTENING)) {
          Thread.ofVirtual().start(() -> output.lines().forEach(ignored -> {}));
          return new ServerProcess(process, line.substring(LISTENING.length()));
        }
        said.append(line).append('\n');
      }
      throw new IllegalStateException("The process of its own did not start: " + said);
    } catch (IOException exception) {
      throw new UncheckedIOException(exception);
    }
  }

  String address() {
    return address;
  }

  long residentKilobytes() throws IOException {
    return AttackBenchTest.residentKilobytes(process.pid());
  }

  /** SIGKILL: no handler runs, nothing is put in order. */
  void kill() {
    process.destroyForcibly().onExit().join();
  }

  /** The process itself: a database, a moment by Ostmere's clocks, and settings. */
  public static void main(String[] arguments) {
    var clock = new SettableClock(SettableClock.moment(arguments[1]));
    var context =
        RunningPragmata.start(
            arguments[0],
            clock,
            List.of(Pragmata.class, Demo.class),
            Arrays.copyOfRange(arguments, 2, arguments.length));
    System.out.println(LISTENING + RunningPragmata.address(context));
  }
}
