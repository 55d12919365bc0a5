package app.pragmata.demo;

import java.util.Random;

/** Invented names, streets and notes in any number, the same ones for the same seed. */
final class LargeNames {
  private static final String[] FIRST = {
    "Bar", "Cal", "Den", "Eld", "Fen", "Gar", "Hal", "Ing", "Jas", "Kel", "Lor", "Mar", "Nor",
        "Ost",
    "Pel", "Quin", "Ros", "Sel", "Tar", "Ul", "Ver", "Wes", "Yar", "Zan", "Ash", "Bex", "Cor", "Dun"
  };
  private static final String[] SECOND = {
    "ber", "com", "dal", "en", "fer", "gor", "hol", "in", "ker", "lan", "mer", "nes", "or", "pen",
    "rin", "sal", "ter", "und", "ven", "wor"
  };
  private static final String[] THIRD = {
    "by", "cott", "den", "field", "ford", "gate", "ham", "house", "ing", "land", "ley", "man",
    "more", "ness", "ridge", "sby", "shaw", "son", "stead", "ton", "well", "wick", "wood", "worth"
  };
  private static final String[] TRADES = {
    "Bakery", "Joinery", "Motors", "Haulage", "Cold Store", "Surgery", "Infants", "Nursery",
    "Caravans", "Marina", "Pottery", "Print Works", "Stables", "Self Store", "Fishmongers", "Farm",
    "Chandlery", "Studios", "Flats", "Garages", "Academy", "Dairy", "Foundry", "Laundry"
  };
  private static final String[] ROADS = {
    "Street", "Lane", "Road", "Row", "Hill", "Close", "Parade", "Way", "Bank", "Quay"
  };
  private static final String[] TITLES = {
    "Prefix will not close", "Prefix will not open", "Prefix stops half-way",
    "Prefix opens again by itself", "Prefix makes a grinding noise", "Prefix driven into",
    "Prefix: remote and receiver", "Prefix: photocells replaced", "Prefix: six-monthly service",
    "Prefix: safety check with certificate", "Prefix: limit switch", "Prefix: control board",
    "Prefix: motor replaced", "Prefix: spring and cables", "Prefix: bottom seal"
  };
  private static final String[] THINGS = {
    "Swing gate",
    "Sliding gate",
    "Roller shutter",
    "Sectional door",
    "Garage door",
    "Barrier",
    "Rapid door"
  };
  private static final String[] NOTES = {
    "Done and tested with the customer.", "Fixings seized, drilled out.",
    "Water in the junction box, dried and sealed.", "Wasps in the housing, came back with a mask.",
    "Track bent by a forklift, straightened.", "Battery flat, standby pair suggested.",
    "Second leaf sags, hinge to be watched.", "Loop cut by the road works, patched for now.",
    "Key safe empty, waited for the caretaker.", "Moss on the photocells, cleaned."
  };

  private final Random random;

  LargeNames(long seed) {
    random = new Random(seed);
  }

  private String of(String[] words) {
    return words[random.nextInt(words.length)];
  }

  String word() {
    return of(FIRST) + of(SECOND) + of(THIRD);
  }

  String person() {
    return (random.nextBoolean() ? "Mr " : "Ms ") + word();
  }

  String firm() {
    return word() + " " + of(TRADES);
  }

  String street() {
    return (1 + random.nextInt(180)) + " " + word() + " " + of(ROADS) + ", Ostmere";
  }

  String postcode() {
    return "OS"
        + (1 + random.nextInt(60))
        + " "
        + (1 + random.nextInt(9))
        + (char) ('A' + random.nextInt(26))
        + (char) ('A' + random.nextInt(26));
  }

  /** From the ranges that are kept free for fiction. */
  String phone() {
    String[] ranges = {
      "01632 960", "0113 496 0", "0117 496 0", "0161 496 0", "0191 498 0", "07700 900"
    };
    return of(ranges) + "%03d".formatted(random.nextInt(1000));
  }

  String title() {
    return of(TITLES).replace("Prefix", of(THINGS));
  }

  /** Every third note names something that hardly any other does. */
  String note() {
    return random.nextInt(3) == 0 ? of(NOTES) + " Asked for " + word() + "." : of(NOTES);
  }

  int below(int bound) {
    return random.nextInt(bound);
  }
}
