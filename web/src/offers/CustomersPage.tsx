import { Input } from "antd";
import type { Identity } from "../api/generated/schema";
import { Signature } from "../kit/Signature";
import styles from "./CustomersPage.module.css";
import { type Say, useWords } from "./useWords";

/** Who we are, at the head of every page of a customer. */
export const Firm = ({ seller, logo }: { seller: Identity; logo: string | undefined }) => (
  <>
    {logo && <img className={styles.logo} src={logo} alt="" />}
    <div className={styles.firm}>{seller.name}</div>
    <div className="soft">{[seller.address, seller.phone, seller.email].filter(Boolean).join(" · ")}</div>
  </>
);

const signatureWords = (say: Say) => ({
  name: say("page_signature"),
  empty: say("page_draw"),
  drawn: say("page_drawn"),
  again: say("page_draw_again"),
});

/** What somebody has written of their name so far. */
export type Signing = { name: string; drawing: string | undefined };

/** A name and a box to draw it in, in the customer's language. */
export function SigningFields({
  signing,
  sign,
  fault,
}: {
  signing: Signing;
  sign: (signing: Signing) => void;
  fault?: string;
}) {
  const say = useWords();
  return (
    <>
      <label>
        {say("page_your_name")}
        <Input
          className="tall"
          autoComplete="name"
          value={signing.name}
          onChange={(event) => sign({ ...signing, name: event.target.value })}
        />
      </label>
      {fault && <p className="fault">{fault}</p>}
      <Signature
        drawing={signing.drawing}
        draw={(drawing) => sign({ ...signing, drawing })}
        words={signatureWords(say)}
      />
    </>
  );
}
