import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client } from "../api/client";
import type { CustomersVisits } from "../api/generated/schema";
import { queries } from "../api/queries";
import { weekday } from "../format";
import { Section } from "../kit/Section";
import { Select } from "../kit/Select";
import { useAct } from "../kit/useAct";
import { between, REPORT_COPY, TOLD_BY } from "./words";

type By = CustomersVisits["plan"];
type Copy = CustomersVisits["reportCopy"];

const WAYS = (["nobody", "mail", "text"] as const).map((by) => ({ value: by, label: TOLD_BY[by] }));

const COPIES = (["none", "without_prices", "with_prices"] as const).map((copy) => ({
  value: copy,
  label: REPORT_COPY[copy],
}));

/** A customer's next visits, and how they are told of them. */
export function VisitsSection({ customerId, mayChange }: { customerId: number; mayChange: boolean }) {
  const { data } = useQuery(queries.customersVisits(customerId));
  const save = useAct(
    (body: { plan: By; coming: By; reportCopy: Copy }) =>
      answer(client.PUT("/api/customers/{id}/told-by", { params: { path: { id: customerId } }, body })),
    { said: "From now on they are told that way." },
  );
  if (!data) {
    // Its place is kept, so that nothing below moves away under the pointer.
    return (
      <Section name="Visits">
        <p className="soft" aria-busy="true">
          …
        </p>
      </Section>
    );
  }
  const { plan, coming, reportCopy } = data;
  const told = { plan, coming, reportCopy };
  return (
    <Section name="Visits">
      {data.next.map((visit) => (
        <div key={visit.visitId}>
          <Link to={`/planner/${visit.day}?visit=${visit.visitId}`}>
            {weekday(visit.day)} {between(visit.window)}
          </Link>
          , {visit.technician}: {visit.title}
        </div>
      ))}
      {data.next.length === 0 && <span className="soft">No visit is planned.</span>}
      {mayChange ? (
        <div className="small">
          Told of plans, and reminded of them,{" "}
          <Select
            size="small"
            aria-label="Told of plans"
            popupMatchSelectWidth={false}
            value={plan}
            options={WAYS}
            onChange={(by: By) => save.run({ ...told, plan: by })}
          />{" "}
          and when somebody is on the way{" "}
          <Select
            size="small"
            aria-label="Told when somebody is on the way"
            popupMatchSelectWidth={false}
            value={coming}
            options={WAYS}
            onChange={(by: By) => save.run({ ...told, coming: by })}
          />{" "}
          and get of each visit{" "}
          <Select
            size="small"
            aria-label="What they get of each visit"
            popupMatchSelectWidth={false}
            value={reportCopy}
            options={COPIES}
            onChange={(copy: Copy) => save.run({ ...told, reportCopy: copy })}
          />
        </div>
      ) : (
        <div className="small soft">
          Told of plans, and reminded of them, {TOLD_BY[plan]}, when somebody is on the way {TOLD_BY[coming]}.
          Of each visit they get {REPORT_COPY[reportCopy]}.
        </div>
      )}
    </Section>
  );
}
