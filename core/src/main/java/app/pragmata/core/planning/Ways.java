package app.pragmata.core.planning;

/** Tells how long people drive; behind it stands a map of roads, or a service that has one. */
public interface Ways {
  /** The quickest way from one place to another; there is always one, at worst a guess. */
  Way between(Place from, Place to);
}
