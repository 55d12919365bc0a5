import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { queries } from "../api/queries";
import { CallerCardView, type Opened } from "../customers/CallerCardView";
import sheet from "../kit/Sheet.module.css";
import { useTitle } from "../kit/useTitle";
import { useMay } from "../people/useMay";
import styles from "./CallerPage.module.css";
import { CallSlip } from "./CallSlip";
import { emptySlip, onlyPlace, type Slip, sameAgain } from "./slip";

/** The caller's card on the left, the call in hand on the right. */
export default function CallerPage() {
  const id = Number(useParams().id);
  return <Caller key={id} id={id} />;
}

function Caller({ id }: { id: number }) {
  const { data: card, error } = useQuery(queries.customer(id));
  const [search] = useSearchParams();
  const [slip, setSlip] = useKeptSlip(id, search.get("at") ?? "");
  const [opened, setOpened] = useState<Opened>();
  const mayTakeCalls = useMay("take_calls");
  const navigate = useNavigate();
  useTitle(card?.name);

  // A customer who was merged into another one is answered for by that one.
  useEffect(() => {
    if (card && card.id !== id) {
      navigate(`/customers/${card.id}`, { replace: true });
    }
  }, [card, id, navigate]);

  // Whoever types on while the card is still coming, or before the field has the focus, loses no letter and presses no
  // key by it: what is said comes first, the keys that do something come after it.
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement &&
        event.target.closest("input, textarea, [role=combobox], .ant-modal, .ant-select-dropdown") !== null;
      if (typing || event.ctrlKey || event.metaKey || event.altKey) {
        return;
      }
      if (slip.step === "about" && event.key.length === 1 && event.key !== "/") {
        event.preventDefault();
        setSlip({ ...slip, about: slip.about + event.key });
        document.querySelector<HTMLTextAreaElement>("[data-slip] textarea")?.focus();
      } else if (slip.step === "what" && event.key === "e") {
        event.preventDefault();
        setOpened({ form: "customer" });
      }
    };
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  });

  if (error && !card) {
    return <p className="pad fault">{error.message}</p>;
  }
  if (!card) {
    return <div className={sheet.sheet} aria-busy="true" />;
  }
  const shown = slip.place ? slip : { ...slip, place: onlyPlace(card) };
  return (
    <div className={styles.desk}>
      <CallerCardView
        card={card}
        chosen={shown.place}
        choose={(place) => setSlip({ ...shown, place })}
        opened={opened}
        open={setOpened}
        again={(visit) => setSlip(sameAgain(shown, visit))}
      />
      {mayTakeCalls && <CallSlip card={card} slip={shown} change={setSlip} />}
    </div>
  );
}

/** The slip of one caller stays in this window until the call is taken, for the next call may come first. */
function useKeptSlip(id: number, place: string) {
  const name = `call-${id}`;
  const [slip, setSlip] = useState<Slip>(() => {
    const kept = window.sessionStorage.getItem(name);
    const before = kept === null ? emptySlip : (JSON.parse(kept) as Slip);
    return place ? { ...before, place } : before;
  });
  useEffect(() => {
    window.sessionStorage.setItem(name, JSON.stringify(slip));
  }, [name, slip]);
  return [slip, setSlip] as const;
}
