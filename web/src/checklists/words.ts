import type { AskedItem, TypedItem } from "../api/generated/schema";

type Asks = NonNullable<TypedItem["asks"]>;

/** How a question is answered. */
export const ASKS: Record<Asks, string> = {
  yes_no: "yes or no",
  choice: "one of several",
  measurement: "a measurement",
  text: "in words",
  photo: "with a photo",
};

/** What is within the limits of a measurement, such as "at most 400 N"; nothing where there are none. */
export function limits({ least, most, unit }: Pick<AskedItem, "least" | "most" | "unit">): string {
  const said =
    least != null && most != null
      ? `from ${least} to ${most}`
      : least != null
        ? `at least ${least}`
        : most != null
          ? `at most ${most}`
          : "";
  return said && `${said} ${unit}`.trim();
}

/** An answer as people say it, such as "380 N". */
export function said(
  item: Pick<AskedItem, "unit">,
  given: { answer: string; doesNotApply?: boolean },
): string {
  return given.doesNotApply ? "does not apply" : `${given.answer} ${item.unit}`.trim();
}
