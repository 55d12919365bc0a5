import type { SignatureWords } from "../kit/Signature";

/** What the box for a signature says on the technician's phone. */
export const SIGN_HERE: SignatureWords = {
  name: "Signature",
  empty: "Sign here with a finger; the name alone does too.",
  drawn: "Signed.",
  again: "Sign again",
};
