/** What can be set, by the section in which it stands and the words by which somebody may look for it. */
export const SECTIONS = [
  {
    id: "company",
    name: "Company",
    words:
      "name address phone mail address VAT number bank account sort code IBAN BIC logo letterhead identity documents",
  },
  {
    id: "working-hours",
    name: "Working hours",
    words: "normal overtime night holidays days of the week begin end",
  },
  {
    id: "pay",
    name: "Pay",
    words: "wages overtime after hours a day a week weekend holiday night percent breaks paid rounding",
  },
  {
    id: "rates",
    name: "Hourly rates",
    words: "charge rate price of an hour labour normal overtime night cost percent of the wage",
  },
  {
    id: "charging",
    name: "Charging",
    words:
      "step minutes rounding minimum visit drive call-out mile hour supplier's bills markup payment terms days due",
  },
  { id: "costs", name: "Costs", words: "standard cost overhead van vehicle mile mileage" },
  { id: "markup", name: "Markup on parts", words: "price bands cost band percent" },
  { id: "price-lists", name: "Price lists", words: "discount parts customers pay less" },
  {
    id: "quotes",
    name: "Quotes",
    words: "valid days follow up deposit due margin floor mail letter opening closing words",
  },
  {
    id: "kinds-of-job",
    name: "Kinds of job",
    words: "basis promise fixed price estimate not more than length default lines kit cost centre VAT calls",
  },
  {
    id: "promised-times",
    name: "Promised times",
    words: "response terms emergency urgent normal low hours until somebody is there",
  },
  { id: "holidays", name: "Holidays", words: "days off closed bank holiday" },
  {
    id: "vat",
    name: "VAT",
    words: "treatment percent rate exempt reverse charge zero outside scope usual tax",
  },
  {
    id: "accounts",
    name: "Accounts",
    words:
      "chart of accounts what posts where category bookkeeping ledger cost centres sales bank debtors stock",
  },
  {
    id: "numbers",
    name: "Numbers",
    words: "number series next number prefix invoice credit note quote job receipt customer journal",
  },
  {
    id: "mail",
    name: "Mail",
    words: "mail server host port user name password encrypted TLS SMTP test message",
  },
  {
    id: "texts",
    name: "Text messages",
    words: "text SMS sent stand-in customers visits told on the way",
  },
  {
    id: "people",
    name: "People",
    words: "technician office bookkeeper owner role wage pay rise on-costs leaves starter password link",
  },
  {
    id: "availability",
    name: "Skills and hours",
    words:
      "technician certificate runs out knows working week pattern part-time hours absence away holiday illness training",
  },
  {
    id: "office",
    name: "Office",
    words:
      "patience money line marked days quoted won worked checked session signed in hours desk reminders visits told",
  },
  {
    id: "check-desk",
    name: "Check desk",
    words: "odd oddities told limit finished visits check gap drive labour pattern signature",
  },
  { id: "password", name: "Your password", words: "change password" },
  { id: "sessions", name: "Signed in", words: "sessions sign out everywhere devices" },
] as const;

export type SectionId = (typeof SECTIONS)[number]["id"];

/** The sections in which all of the words stand, however they begin. */
export function findSections(typed: string): readonly (typeof SECTIONS)[number][] {
  const wanted = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return SECTIONS.filter((section) => {
    const said = `${section.name} ${section.words}`.toLowerCase().split(/[\s'-]+/);
    return wanted.every((word) => said.some((one) => one.startsWith(word)));
  });
}
