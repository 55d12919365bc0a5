/** How many people: "one person", "2 people". */
export const people = (count: number): string => (count === 1 ? "one person" : `${count} people`);

/** How many may go to a visit together, to choose from. */
export const CREWS = Array.from({ length: 10 }, (_, index) => ({
  value: index + 1,
  label: people(index + 1),
}));
