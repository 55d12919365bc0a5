package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.*;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.company.BankAccount;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.people.Role;
import app.pragmata.server.founding.Founding;
import app.pragmata.server.founding.NewCompany;
import app.pragmata.server.founding.NewPerson;
import app.pragmata.server.records.NumberSeries.Series;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * What the demo company starts with: settings, people, rates, accounts, customers, sites, equipment
 * and the price list.
 */
@Component
class DemoCatalogue {
  static final ZoneId ZONE = ZoneId.of("Europe/London");
  static final String PASSWORD = "ostmere";

  /** A part with what it costs us; an empty price leaves it to its cost band. */
  record PartOnList(String number, String name, String unit, String cost, String price) {}

  static final List<PartOnList> PARTS =
      List.of(
          new PartOnList("RAM-230", "Gate ram 230 V", "", "212.40", "318.60"),
          new PartOnList("PHO-02", "Photocell pair", "", "14.25", "26.90"),
          new PartOnList("RAM-024", "Gate ram 24 V", "", "188.00", "282.00"),
          new PartOnList("CTL-2L", "Control board, two leaves", "", "134.50", "214.00"),
          new PartOnList("CTL-SH", "Control board, shutter", "", "96.00", "158.00"),
          new PartOnList("MOT-400", "Shutter motor 400 N", "", "246.00", "389.00"),
          new PartOnList("MOT-140", "Garage door motor", "", "118.00", "196.00"),
          new PartOnList("CUR-32", "Shutter curtain 3.2 m", "", "468.00", "695.00"),
          new PartOnList("SLT-77", "Curtain slat 77 mm", "m", "11.80", "21.50"),
          new PartOnList("EDG-32", "Safety edge 3.2 m", "", "74.00", "128.00"),
          new PartOnList("EDG-KIT", "Safety edge connection kit", "", "18.20", ""),
          new PartOnList("SPR-L", "Torsion spring, left", "", "42.60", "79.00"),
          new PartOnList("SPR-R", "Torsion spring, right", "", "42.60", "79.00"),
          new PartOnList("CAB-PR", "Lift cable pair", "", "12.90", "27.50"),
          new PartOnList("ROL-10", "Door roller, set of ten", "", "16.40", "34.00"),
          new PartOnList("HNG-C", "Hinge, centre", "", "4.15", ""),
          new PartOnList("HNG-S", "Hinge, side", "", "5.35", ""),
          new PartOnList("BAT-24", "Standby battery pair 24 V", "", "38.00", "68.00"),
          new PartOnList("REM-4", "Hand remote, four buttons", "", "17.50", "36.00"),
          new PartOnList("REC-2", "Radio receiver", "", "29.00", "54.00"),
          new PartOnList("KEY-SW", "Key switch, surface", "", "14.80", "31.00"),
          new PartOnList("PAD-W", "Keypad, weatherproof", "", "46.00", "86.00"),
          new PartOnList("ICM-1", "Entry intercom, one call", "", "128.00", "219.00"),
          new PartOnList("LOP-D", "Loop detector", "", "52.00", "98.00"),
          new PartOnList("LOP-W", "Loop wire", "m", "0.92", ""),
          new PartOnList("ARM-4", "Barrier arm 4 m", "", "94.00", "165.00"),
          new PartOnList("ARM-SP", "Barrier spring", "", "36.50", "66.00"),
          new PartOnList("CPL-1", "Ram coupling", "", "9.70", ""),
          new PartOnList("PST-BR", "Post bracket, galvanised", "", "22.30", "42.00"),
          new PartOnList("LIM-SW", "Limit switch", "", "13.60", "28.00"),
          new PartOnList("CAP-16", "Run capacitor 16 µF", "", "6.40", ""),
          new PartOnList("BRG-40", "Barrel bearing 40 mm", "", "19.90", "38.00"),
          new PartOnList("LCK-P", "Pin lock pair", "", "15.60", "32.00"),
          new PartOnList("BLT-D", "Drop bolt", "", "11.20", "24.00"),
          new PartOnList("CBL-4", "Four-core cable", "m", "1.35", ""),
          new PartOnList("CND-20", "Conduit 20 mm", "m", "1.10", ""),
          new PartOnList("LMP-F", "Flashing lamp", "", "16.80", "34.00"),
          new PartOnList("SGN-W", "Warning sign set", "", "5.90", "14.00"),
          new PartOnList("GRS-1", "Grease cartridge", "", "4.60", "9.50"),
          new PartOnList("SEA-B", "Bottom seal", "m", "6.75", "13.50"));

  private static final String[] FIRMS = {
    "Ostmere Harbour Trust", "Pellgate School", "Quillon Bakery", "Tansy Row Garages",
        "Northquay Cold Store",
    "Lantern House Flats", "Fenn & Daughter Joinery", "Brackwater Marina", "Brackwater Depot",
        "Hollin Farm",
    "Saltpan Chandlery", "Gannet Point Caravans", "Kiln Bank Pottery", "Ropewalk Studios",
        "St Osyth's Infants",
    "Mereside Surgery", "Weir Street Motors", "Larkfield Nursery", "The Tern Hotel",
        "Ostmere Rowing Club",
    "Copperfield Scrap & Metals", "Drover's Yard Stables", "Eastgate Self Store",
        "Harbour Ice Company", "Ludd & Ames Solicitors",
    "Mill Lane Allotments", "Norrey Print Works", "Pike & Sons Haulage", "Quayside Fishmongers",
        "Sedge Lane Vets"
  };

  private static final String[] PERSONS = {
    "Mrs Abelow", "Mr Tolland", "Ms Carrow", "Mr & Mrs Detering", "Mrs Endicote", "Mr Falloway",
        "Ms Garrick",
    "Mr Hesketh-Rowe", "Mrs Imbrey", "Mr Jessop-Lane", "Ms Kettleby", "Mr Lorimer", "Mrs Maddern",
        "Mr Nutley",
    "Ms Orchardson", "Mr Penhale", "Mrs Quested", "Mr Rushbrook", "Ms Sandiford", "Mr Thornwick",
        "Mrs Underhay",
    "Mr Vellacott", "Ms Wetherden", "Mr Yardley-Moss", "Mrs Zeal", "Mr Amberson", "Ms Brindle",
        "Mr Cottesmore",
    "Mrs Dunstanville", "Mr Eversholt"
  };

  private static final String[] STREETS = {
    "Weir Street", "Cinder Lane", "Mill Lane", "Harbour Road", "Quay Parade", "Tansy Row",
        "Lantern Hill",
    "Saltpan Road", "The Ropewalk", "Gannet Close", "Kiln Bank", "Chandler Street", "Drover's Way",
        "Sedge Lane"
  };

  private static final String[] PLACES = {
    "front gate", "rear yard", "Shed 2", "Shed 5", "Shed 9", "Unit 4", "loading bay", "car park"
  };

  static final String[] MODELS = {
    "Swing gate, two leaves",
    "Sliding gate",
    "Roller shutter",
    "Sectional door",
    "Garage door",
    "Arm barrier",
    "Rapid door"
  };

  private final DSLContext database;
  private final DemoFrontDesk frontDesk;
  private final DemoTown town;
  private final DemoTeam team;
  private final Founding founding;

  DemoCatalogue(
      DSLContext database,
      DemoFrontDesk frontDesk,
      DemoTown town,
      DemoTeam team,
      Founding founding) {
    this.database = database;
    this.frontDesk = frontDesk;
    this.town = town;
    this.team = team;
    this.founding = founding;
  }

  void insert(LocalDate today) {
    LocalDate longAgo = today.minusYears(1).withDayOfYear(1);
    founding.found(company(longAgo), people());
    // It has been at work for long, and is told nothing about its first steps.
    database.execute("update company set backed_up_at = now(), tap_position_days = 90");
    raiseWage(today.minusDays(50));
    frontDesk.insert(longAgo, today);
    parts();
    customers(today);
    frontDesk.describeCustomers(today);
    town.lay();
    team.train(today);
    // People at home want to know what they pay, firms what it costs them.
    database.execute("update customer set prices_with_vat = true where name ~ '^(Mr|Mrs|Ms) '");
    database
        .update(CUSTOMER)
        .set(CUSTOMER.VAT_NUMBER, "GB 000 0417 22")
        .set(CUSTOMER.VAT_CODE, "reverse_charge")
        .where(CUSTOMER.NAME.in("Fenn & Daughter Joinery", "Copperfield Scrap & Metals"))
        .execute();
  }

  private static NewCompany company(LocalDate longAgo) {
    return new NewCompany(
        "GB",
        "Ferrow Gate & Shutter",
        "7 Capstan Wharf, Ostmere OS1 3FG",
        "01632 960100",
        "office@ferrow.example",
        "GB 000 0000 00",
        new BankAccount("Ostmere Savings, sort code 00-00-00, account 00000000", "", ""),
        longAgo,
        Map.of(
            Series.CUSTOMER, 101L,
            Series.QUOTE, 1201L,
            Series.JOB, 2001L,
            Series.INVOICE, 4001L,
            Series.CREDIT_NOTE, 501L,
            Series.RECEIPT, 301L,
            Series.AGREEMENT, 41L),
        NewCompany.Differs.NOTHING);
  }

  private static List<NewPerson> people() {
    return List.of(
        new NewPerson("Hester Lyle", "hester", PASSWORD, Role.OFFICE, null),
        new NewPerson("Maud Ferris", "maud", PASSWORD, Role.BOOKKEEPER, null),
        new NewPerson("Orla Ferrow", "orla", PASSWORD, Role.OWNER, null),
        technician("Imre Vasko", "imre", "19.60"),
        technician("Dilys Marrant", "dilys", "20.40"),
        technician("Tobias Quennell", "tobias", "18.75"),
        technician("Ngozi Adair", "ngozi", "20.10"),
        technician("Piet Osei", "piet", "17.90"));
  }

  private static NewPerson technician(String name, String username, String wage) {
    return new NewPerson(name, username, PASSWORD, Role.TECHNICIAN, new BigDecimal(wage));
  }

  /** Ngozi Adair earns more since some weeks ago. */
  private void raiseWage(LocalDate from) {
    database
        .insertInto(WAGE)
        .select(
            select(PERSON.ID, val(from), val(new BigDecimal("20.90")), WAGE.ON_COST_SHARE)
                .from(PERSON)
                .join(WAGE)
                .on(WAGE.PERSON_ID.eq(PERSON.ID))
                .where(PERSON.USERNAME.eq("ngozi")))
        .execute();
  }

  private void parts() {
    for (PartOnList part : PARTS) {
      database
          .insertInto(PART, PART.NUMBER, PART.NAME, PART.UNIT, PART.PRICE, PART.VAT_CODE)
          .values(
              part.number(),
              part.name(),
              part.unit(),
              part.price().isEmpty() ? null : UnitPrice.of(part.price()),
              "standard")
          .execute();
    }
  }

  private void customers(LocalDate today) {
    var random = new Random(1848);
    var names = new ArrayList<String>(List.of(FIRMS));
    names.addAll(List.of(PERSONS));
    int sites = 0;
    for (int i = 0; i < names.size(); i++) {
      boolean firm = i < FIRMS.length;
      String street = (1 + random.nextInt(88)) + " " + STREETS[random.nextInt(STREETS.length)];
      String postcode =
          "OS"
              + (1 + random.nextInt(6))
              + " "
              + (1 + random.nextInt(9))
              + (char) ('A' + random.nextInt(20))
              + (char) ('B' + random.nextInt(18));
      String phone = "01632 960%03d".formatted(100 + i * 7);
      String mail =
          names
                  .get(i)
                  .toLowerCase(Locale.ROOT)
                  .replaceAll("[^a-z]+", ".")
                  .replaceAll("^\\.|\\.$", "")
              + "@example."
              + (firm ? "com" : "org");
      long customer =
          database
              .insertInto(CUSTOMER)
              .set(CUSTOMER.NUMBER, 101L + i)
              .set(CUSTOMER.NAME, names.get(i))
              .set(CUSTOMER.PHONE, phone)
              .set(CUSTOMER.EMAIL, mail)
              .set(CUSTOMER.ADDRESS, street + ", Ostmere")
              .set(CUSTOMER.POSTCODE, postcode)
              .set(CUSTOMER.PAYMENT_DAYS, (short) (firm ? 30 : 14))
              .set(CUSTOMER.CREDIT_LIMIT_MINOR, firm ? 500_000L : 100_000L)
              .returning(CUSTOMER.ID)
              .fetchSingle(CUSTOMER.ID);
      int ofThis = firm && i % 2 == 0 ? 3 : 1;
      for (int k = 0; k < ofThis; k++, sites++) {
        site(
            customer,
            firm ? PLACES[(i + k) % PLACES.length] : "house",
            k == 0
                ? street
                : (1 + random.nextInt(60)) + " " + STREETS[random.nextInt(STREETS.length)],
            postcode,
            sites,
            random,
            today);
      }
    }
    database
        .update(NUMBER_SERIES)
        .set(NUMBER_SERIES.NEXT_NUMBER, 101L + names.size())
        .where(NUMBER_SERIES.SERIES.eq("customer"))
        .execute();
  }

  private void site(
      long customer,
      String name,
      String street,
      String postcode,
      int index,
      Random random,
      LocalDate today) {
    String[] notes = {
      "",
      "Ring the bell twice.",
      "Dog in the yard until 11. Power cut-off is left of the door.",
      "Report at the office first.",
      "Gate code from the contact.",
      "No parking before 9."
    };
    String[] contacts = {
      "M. Okafor", "Ms Fenn", "J. Harrow", "Mrs Pell", "D. Amery", "The caretaker"
    };
    long site =
        database
            .insertInto(SITE)
            .set(SITE.CUSTOMER_ID, customer)
            .set(SITE.NAME, name)
            .set(SITE.ADDRESS, street + ", Ostmere")
            .set(SITE.POSTCODE, postcode)
            .set(SITE.ACCESS_NOTES, notes[random.nextInt(notes.length)])
            .set(SITE.AREA, postcode.substring(0, 3))
            .returning(SITE.ID)
            .fetchSingle(SITE.ID);
    database
        .insertInto(CONTACT)
        .set(CONTACT.CUSTOMER_ID, customer)
        .set(CONTACT.SITE_ID, site)
        .set(CONTACT.NAME, contacts[random.nextInt(contacts.length)])
        .set(CONTACT.PHONE, "01632 960%03d".formatted(520 + index))
        .set(CONTACT.OPENS, true)
        .execute();
    LocalDate fitted = today.minusDays(60 + random.nextInt(1500));
    String model = MODELS[random.nextInt(MODELS.length)];
    database
        .insertInto(EQUIPMENT)
        .set(EQUIPMENT.SITE_ID, site)
        .set(EQUIPMENT.MODEL, model)
        .set(EQUIPMENT.EQUIPMENT_KIND_ID, DemoFrontDesk.kind(database, model))
        .set(EQUIPMENT.SERIAL_NUMBER, "FQ %d".formatted(20_400 + index * 3))
        .set(EQUIPMENT.FITTED_ON, fitted)
        .set(EQUIPMENT.PARTS_WARRANTY_UNTIL, fitted.plusYears(2))
        .set(EQUIPMENT.PARTS_WARRANTY_SHARE, new BigDecimal("0.6"))
        .set(EQUIPMENT.LABOUR_WARRANTY_UNTIL, fitted.plusMonths(6))
        .set(EQUIPMENT.LABOUR_WARRANTY_SHARE, new BigDecimal("0.5"))
        .execute();
  }
}
