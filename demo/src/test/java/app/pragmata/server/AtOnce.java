package app.pragmata.server;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.IntFunction;
import java.util.stream.IntStream;

/** Several people who press at the same moment. */
final class AtOnce {
  private AtOnce() {}

  /** The status that each of so many simultaneous requests was answered with. */
  static List<Integer> statuses(int count, IntFunction<Visitor.Answer> request) throws Exception {
    try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
      List<Future<Integer>> answers =
          IntStream.range(0, count)
              .mapToObj(i -> threads.submit(() -> request.apply(i).status()))
              .toList();
      var statuses = new ArrayList<Integer>();
      for (Future<Integer> answer : answers) {
        statuses.add(answer.get());
      }
      return statuses;
    }
  }
}
