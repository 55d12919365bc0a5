package app.pragmata.core;

/** What every cost and every charge is sorted by. */
public enum Category implements Coded {
  LABOUR,
  DRIVE,
  PARTS,
  OTHER
}
