import { moment } from "../format";
import { Asking } from "./Asking";
import { say } from "./useSaid";
import { Word } from "./Word";

/** The link to a page of the customer: whether it was opened, its address to copy, and how it is withdrawn. */
export const CustomersLink = ({
  address,
  openedAt,
  withdraw,
}: {
  address: string;
  openedAt: string | null | undefined;
  /** Nothing for whoever may not. */
  withdraw: (() => void) | undefined;
}) => (
  <div>
    <a href={new URL(address).pathname} target="_blank" rel="noreferrer">
      The customer's page
    </a>{" "}
    <span className="soft">{openedAt ? `read first ${moment(openedAt)}` : "nobody has opened it yet"}</span>{" "}
    <Word
      run={() => {
        void navigator.clipboard?.writeText(address);
        say({ text: "The address is copied." });
      }}
    >
      copy the address
    </Word>
    {withdraw && (
      <>
        {" · "}
        <Asking
          plain
          label="withdraw it…"
          title="Withdraw the link? The customer can open it no more."
          confirm="Withdraw it"
          run={withdraw}
        />
      </>
    )}
  </div>
);
