package app.pragmata.server.records;

import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * All that happened in one transaction, told once just before it commits, so that whatever follows
 * from it is worked out for all of it together and commits with it.
 */
public record WhatHappened(List<Happened> list) {
  /** The records to which something of this happened. */
  public Set<Long> records(Predicate<Happened> which) {
    return list.stream().filter(which).map(Happened::recordId).collect(Collectors.toSet());
  }

  /** What those records are a part of. */
  public Set<Long> owners(Predicate<Happened> which) {
    return list.stream()
        .filter(which)
        .map(Happened::ownerId)
        .filter(Objects::nonNull)
        .collect(Collectors.toSet());
  }
}
