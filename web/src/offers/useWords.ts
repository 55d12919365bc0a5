import { createContext, useContext } from "react";

/** What a customer's page says, in the language of the company's documents. */
export type Say = (key: string, ...values: (string | number)[]) => string;

/** By the keys of the language's file; {0}, {1} … are filled in. */
export const sayBy =
  (words: Record<string, string>): Say =>
  (key, ...values) => {
    const pattern = words[key];
    if (pattern === undefined) {
      throw new Error(`No words for ${key}`);
    }
    return pattern.replace(/\{(\d)\}/g, (_, place: string) => String(values[Number(place)] ?? ""));
  };

export const Words = createContext<Say>((key) => key);

/** Says what the page says. */
export const useWords = (): Say => useContext(Words);
