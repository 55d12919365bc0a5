import { useKept } from "./useKept";

/** A record's fields as a form holds them, with the version that they are of. */
type Stored<T> = { version: number; draft: T };

/** What is typed, over which version, and what stood there when typing began. */
type Typed<T> = Stored<T> & { base: T };

/** A field that somebody else stored in another way while it was open here. */
export type Difference<T> = { field: keyof T & string; mine: T[keyof T]; theirs: T[keyof T] };

/**
 * What is typed over a stored record that others may change meanwhile. Until something is typed the form shows what
 * is stored, as it changes; from then on nothing of it is torn away, and what others stored since is told field by
 * field.
 *
 * @param keptAs under which name it is kept in this window until it is saved or given up, so that whoever leaves for
 *     another caller finds it again; none for a form that is open only while it is looked at
 */
export function useTyped<T extends object>(stored: Stored<T>, keptAs?: string) {
  const [typed, setTyped, forget] = useKept<Typed<T>>(keptAs);
  const differences = typed ? fields(typed.base, stored.draft) : [];
  return {
    draft: typed?.draft ?? stored.draft,
    // Nothing that is open here was changed, so what is typed is as if typed over the newest version.
    version: typed && differences.length > 0 ? typed.version : stored.version,
    dirty: typed !== undefined,
    overtaken: differences.map(
      (field): Difference<T> => ({
        field,
        mine: (typed?.draft ?? stored.draft)[field],
        theirs: stored.draft[field],
      }),
    ),
    /** Over what is typed by then: two fields may change before the form is drawn again. */
    change: (changed: Partial<T>) =>
      setTyped((now) => ({
        version: now?.version ?? stored.version,
        base: now?.base ?? stored.draft,
        draft: { ...(now?.draft ?? stored.draft), ...changed },
      })),
    /** Takes theirs wherever nothing was typed here, and keeps what was. */
    keepMine: () =>
      typed && setTyped({ version: stored.version, base: stored.draft, draft: merge(typed, stored.draft) }),
    forget,
  };
}

function fields<T extends object>(before: T, after: T): (keyof T & string)[] {
  return (Object.keys(after) as (keyof T & string)[]).filter((field) => !same(before[field], after[field]));
}

function same(one: unknown, other: unknown): boolean {
  return one === other || JSON.stringify(one) === JSON.stringify(other);
}

function merge<T extends object>({ base, draft }: Typed<T>, theirs: T): T {
  const mine = fields(base, draft).map((field) => [field, draft[field]]);
  return { ...theirs, ...Object.fromEntries(mine) };
}
