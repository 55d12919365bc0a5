import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../api/client";
import type { Handover } from "../api/generated/schema";
import { queries } from "../api/queries";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";
import { Word } from "../kit/Word";

/** Parts on their way in all vans and the store, with the office's answers. */
export function Handovers() {
  const { data } = useQuery(queries.handovers);
  if (!data || data.length === 0) {
    return null;
  }
  return (
    <Section name="On their way">
      {data.map((handover) => (
        <Waiting key={handover.id} handover={handover} />
      ))}
    </Section>
  );
}

/** What goes from where to where, in words. */
export const onItsWay = ({ quantity, unit, part, from, to }: Handover): string =>
  `${quantity} ${unit} ${part}, ${from} to ${to}`.replace("  ", " ");

function Waiting({ handover }: { handover: Handover }) {
  const params = { path: { id: handover.id } };
  const body = { version: handover.version };
  const agree = useAct(() => answer(client.POST("/api/handovers/{id}/agree", { params, body })), {
    said: `Moved: ${onItsWay(handover)}.`,
  });
  const refuse = useAct(() => answer(client.POST("/api/handovers/{id}/refuse", { params, body })), {
    said: "It stays where it was.",
  });
  const withdraw = useAct(() => answer(client.POST("/api/handovers/{id}/withdraw", { params, body })), {
    said: "Not asked for any more.",
  });
  const of = `: ${onItsWay(handover)}`;
  return (
    <div data-handover={handover.id}>
      {onItsWay(handover)}{" "}
      <span className="soft small">
        asked by {handover.askedBy}
        {handover.waitsFor && `; waits for ${handover.waitsFor}`}
      </span>{" "}
      {handover.yours && (
        <>
          <Word id={`agree-${handover.id}`} of={of} run={() => agree.run()}>
            Yes
          </Word>{" "}
          <Word id={`refuse-${handover.id}`} of={of} run={() => refuse.run()}>
            No
          </Word>{" "}
        </>
      )}
      {!handover.yours && (
        <Word id={`withdraw-${handover.id}`} of={of} run={() => withdraw.run()}>
          Take it back
        </Word>
      )}
    </div>
  );
}
