import { useQuery } from "@tanstack/react-query";
import { answer, client, withKey } from "../api/client";
import type { AgreedRound, Agreement } from "../api/generated/schema";
import { queries } from "../api/queries";
import { fullDay, hours, money } from "../format";
import { ChoiceField, MoneyField, TextField, TickField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { usePreview } from "../kit/usePreview";
import styles from "./Rounds.module.css";

type Typed = {
  siteId: number | undefined;
  equipmentId: number | undefined;
  kindOfJobId: number | undefined;
  title: string;
  expected: string;
  price: string;
  withParts: boolean;
  repeats: string;
  from: string;
  until: string;
};

/** What comes again, where and how often; the days that come of it are shown while it is typed. */
export function RoundForm({
  agreement,
  round,
  close,
}: {
  agreement: Agreement;
  /** Nothing for a new one. */
  round?: AgreedRound;
  close: () => void;
}) {
  const { data: choices } = useQuery(queries.choices);
  const { data: customer } = useQuery(queries.customer(agreement.customerId));
  const sites = customer?.sites ?? [];
  const form = useForm<Typed>({
    version: round?.version ?? 0,
    draft: {
      siteId: round?.siteId ?? (sites.length === 1 ? sites[0]?.id : undefined),
      equipmentId: round?.equipmentId ?? undefined,
      kindOfJobId: round?.kindOfJobId,
      title: round?.title ?? "",
      expected: round ? hours(round.expectedMinutes) : "",
      price: round?.priceMinor == null ? "" : money(round.priceMinor),
      withParts: round?.withParts ?? false,
      repeats: round?.repeats ?? "",
      from: round?.from ?? agreement.from,
      until: round?.until ?? "",
    },
  });
  const { draft } = form;
  const save = useAct(
    (_: undefined, key) => {
      const body = { version: form.version, ...draft };
      return answer(
        round
          ? client.PUT("/api/rounds/{id}", { params: { path: { id: round.id } }, body })
          : client.POST("/api/agreements/{id}/rounds", {
              params: { path: { id: agreement.id }, ...withKey(key) },
              body,
            }),
      );
    },
    { done: close, refused: form.refused, said: round ? "The round is changed." : "The round is agreed." },
  );
  const site = sites.find(({ id }) => id === draft.siteId);
  const standing = site?.equipment.filter(({ removedOn, id }) => !removedOn || id === draft.equipmentId);
  return (
    <InlineForm
      form={form}
      label={round ? `Change ${round.title}` : "New round"}
      confirm={round ? "Change it" : "Add it"}
      running={save.running}
      submit={() => save.run(undefined)}
      close={close}
      overtaken={round && "this round"}
    >
      <TextField form={form} name="title" label="What is done" needed autoFocus />
      <TextField
        form={form}
        name="repeats"
        label="How often"
        placeholder="every 6 weeks on Tuesday"
        width={280}
        needed
      />
      <ChoiceField
        form={form}
        name="kindOfJobId"
        label="Kind of job"
        needed
        options={(choices?.kindsOfJob ?? []).map(({ id, name }) => ({ value: id, label: name }))}
      />
      <ChoiceField
        form={form}
        name="siteId"
        label="Site"
        needed
        options={sites.map(({ id, name }) => ({ value: id, label: name }))}
        chosen={() => ({ equipmentId: undefined })}
      />
      <ChoiceField
        form={form}
        name="equipmentId"
        label="Equipment"
        clearable
        placeholder="none in particular"
        options={(standing ?? []).map(({ id, model, serialNumber }) => ({
          value: id,
          label: `${model}, ${serialNumber}`,
        }))}
      />
      <TextField form={form} name="expected" label="How long" width={90} placeholder="1:30" needed />
      <MoneyField
        form={form}
        name="price"
        label="Price each time, without VAT"
        width={190}
        placeholder="by time and parts"
      />
      {draft.price.trim() !== "" && <TickField form={form} name="withParts" label="Parts are included" />}
      <TextField form={form} name="from" label="From" width={120} />
      <TextField form={form} name="until" label="Until" width={150} placeholder="as the agreement" />
      <NextDays repeats={draft.repeats} from={draft.from} />
    </InlineForm>
  );
}

/** On which days it comes next, as the server understands what is typed. */
function NextDays({ repeats, from }: { repeats: string; from: string }) {
  const { figures: read, problem } = usePreview(
    repeats.trim() === "" ? undefined : { repeats, from },
    (query, signal) => answer(client.GET("/api/rounds/reading", { params: { query }, signal })),
  );
  return (
    <div className={styles.reading} aria-live="polite" data-reading>
      {problem ? (
        <span className="soft">{problem.faults[0]?.detail ?? problem.message}</span>
      ) : (
        read && (
          <>
            {read.repeats}: <b>{read.days.map(fullDay).join(", ") || "never"}</b>
          </>
        )
      )}
    </div>
  );
}
