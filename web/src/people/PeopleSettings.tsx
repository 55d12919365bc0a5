import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { Employee, MadeLink } from "../api/generated/schema";
import { queries } from "../api/queries";
import { currencyMark, day, unitPrice, weekday, words } from "../format";
import { History } from "../history/History";
import { Lines } from "../kit/Lines";
import { RecordForm } from "../kit/RecordForm";
import { useAct } from "../kit/useAct";
import { KeptSection } from "./KeptSection";
import { useSession } from "./SessionGate";
import { useMay } from "./useMay";

const ROLES = ["technician", "office", "bookkeeper", "owner"] as const;

/** Who works here, and who did: added with a link to set a password, never deleted. */
export function PeopleSettings() {
  const { data, error } = useQuery(queries.staff);
  const [adding, setAdding] = useState(false);
  return (
    <KeptSection name="People" error={error} add={() => setAdding(true)}>
      {data && (
        <Lines
          caption="People"
          columns={[
            { name: "Name" },
            { name: "Signs in as" },
            { name: "Role" },
            { name: `${currencyMark()} an hour`, figure: true },
            { name: "What can be done", silent: true },
          ]}
        >
          {data.map((person) => (
            <Person key={person.id} person={person} />
          ))}
        </Lines>
      )}
      {adding && <PersonForm close={() => setAdding(false)} />}
    </KeptSection>
  );
}

function Person({ person }: { person: Employee }) {
  const mayChange = useMay("change_settings");
  const me = useSession().person;
  const [open, setOpen] = useState<"form" | "leave" | "link">();
  const [link, setLink] = useState<string>();
  const endSessions = useAct(
    () => answer(client.DELETE("/api/staff/{id}/sessions", { params: { path: { id: person.id } } })),
    { said: `${person.name} is signed out everywhere.` },
  );
  const comeBack = useAct(
    () =>
      answer(
        client.POST("/api/staff/{id}/come-back", {
          params: { path: { id: person.id } },
          body: { version: person.version },
        }),
      ),
    { said: person.active ? `${person.name} stays.` : `${person.name} works here again.` },
  );
  const touchable = mayChange && (person.role !== "owner" || me.role === "owner");
  return (
    <>
      <tr className={person.active ? undefined : "soft"}>
        <td>{person.name}</td>
        <td>
          {person.username}
          {person.active && !person.signsIn && <span className="needs"> no password yet</span>}
        </td>
        <td>
          {words(person.role)}
          {person.lastDay && (
            <span className="soft">
              , {person.active ? "leaves after" : "left"} {day(person.lastDay)}
            </span>
          )}
        </td>
        <td className="figure">
          {person.wagePerHour ? unitPrice(person.wagePerHour) : ""}
          {person.comingWages.map((wage) => (
            <Coming key={wage.fromDay} person={person} wage={wage} />
          ))}
        </td>
        <td style={{ paddingLeft: 24 }}>
          {touchable && person.active && (
            <>
              <button
                type="button"
                className="plain small"
                aria-label={`edit ${person.name}`}
                onClick={() => setOpen("form")}
              >
                edit
              </button>{" "}
              <button
                type="button"
                className="plain small"
                aria-label={`password link for ${person.name}`}
                onClick={() => setOpen("link")}
              >
                password link
              </button>{" "}
              <button
                type="button"
                className="plain small"
                aria-label={`sign ${person.name} out everywhere`}
                onClick={() => endSessions.run()}
              >
                sign out
              </button>{" "}
              <button
                type="button"
                className="plain small"
                aria-label={person.lastDay ? `stays: ${person.name}` : `leaves: ${person.name}`}
                onClick={() => (person.lastDay ? comeBack.run() : setOpen("leave"))}
              >
                {person.lastDay ? "stays" : "leaves"}
              </button>
            </>
          )}
          {touchable && !person.active && (
            <button
              type="button"
              className="plain small"
              aria-label={`back again: ${person.name}`}
              onClick={() => comeBack.run()}
            >
              back again
            </button>
          )}
        </td>
      </tr>
      {link && (
        <tr>
          <td colSpan={5}>
            <output>
              {person.name} sets a password here, once, within two days; an earlier link is good no more:{" "}
              <b>{link}</b>
            </output>{" "}
            <button
              type="button"
              className="plain small"
              onClick={() => void navigator.clipboard.writeText(link)}
            >
              copy
            </button>{" "}
            <button type="button" className="plain small" onClick={() => setLink(undefined)}>
              done
            </button>
          </td>
        </tr>
      )}
      {open === "form" && <PersonForm person={person} close={() => setOpen(undefined)} />}
      {open === "leave" && <LeaveForm person={person} close={() => setOpen(undefined)} />}
      {open === "link" && <LinkForm person={person} made={setLink} close={() => setOpen(undefined)} />}
    </>
  );
}

function PersonForm({ person, close }: { person?: Employee; close: () => void }) {
  const me = useSession().person;
  const roles = ROLES.filter((role) => role !== "owner" || me.role === "owner");
  return (
    <RecordForm
      title={person ? person.name : "Somebody starts"}
      confirm={person ? "Save" : "Add person"}
      fields={[
        { name: "name", label: "Name", half: true, needed: true },
        ...(person
          ? []
          : [{ name: "username", label: "Name to sign in with", half: true, needed: true, hint: "aino" }]),
        {
          name: "role",
          label: "Role",
          kind: "choice" as const,
          half: true,
          needed: true,
          options: roles.map((role) => ({ value: role, label: words(role) })),
        },
        { name: "wagePerHour", label: "Wage per hour, of a technician", half: true, hint: "18.50" },
        { name: "onCostPercent", label: "On-costs in percent, of a technician", half: true, hint: "23" },
        ...(person
          ? [{ name: "fromDay", label: "This wage holds from", half: true, hint: "today, mon, 1 jan" }]
          : []),
        { name: "mayBackdate", label: "May put their own times right", kind: "tick" as const, half: true },
        { name: "maySeePrices", label: "May see prices on the phone", kind: "tick" as const, half: true },
      ]}
      initial={{
        name: person?.name ?? "",
        ...(person ? {} : { username: "" }),
        role: person?.role ?? "technician",
        wagePerHour:
          person?.wagePerHour === undefined || person.wagePerHour === null ? "" : String(person.wagePerHour),
        onCostPercent:
          person?.onCostPercent === undefined || person.onCostPercent === null
            ? ""
            : String(person.onCostPercent),
        ...(person ? { fromDay: "today" } : {}),
        mayBackdate: person?.mayBackdate ?? true,
        maySeePrices: person?.maySeePrices ?? false,
      }}
      version={person?.version ?? 0}
      save={(values, key, version) => {
        const body = { ...values, version } as { version: number; role: Employee["role"] };
        return person
          ? answer(client.PUT("/api/staff/{id}", { params: { path: { id: person.id } }, body }))
          : answer(client.POST("/api/staff", { params: withKey(key), body }));
      }}
      close={close}
      below={person && <History kind="person" id={person.id} />}
    />
  );
}

const LeaveForm = ({ person, close }: { person: Employee; close: () => void }) => (
  <RecordForm
    title={`${person.name} leaves`}
    confirm="Note that they left"
    fields={[{ name: "lastDay", label: "Last day", half: true, needed: true, hint: "today, fri, 27 nov" }]}
    initial={{ lastDay: "today" }}
    version={person.version}
    save={(values, _, version) =>
      answer(
        client.POST("/api/staff/{id}/leave", {
          params: { path: { id: person.id } },
          body: { version, lastDay: String(values.lastDay ?? "") },
        }),
      )
    }
    close={close}
    below={
      <p className="small soft">
        They are signed out when their last day has come: today at once, later when it is over. All that they
        did stays.
      </p>
    }
  />
);

/** What somebody is paid from a day that is to come. */
function Coming({ person, wage }: { person: Employee; wage: Employee["comingWages"][number] }) {
  const mayChange = useMay("change_settings");
  const withdraw = useAct(
    () =>
      answer(
        client.DELETE("/api/staff/{id}/wages/{fromDay}", {
          params: { path: { id: person.id, fromDay: wage.fromDay }, query: { version: person.version } },
        }),
      ),
    { said: "Taken back. The wage that holds now goes on." },
  );
  return (
    <div className="small">
      <b className="needs">
        {unitPrice(wage.wagePerHour)} from {weekday(wage.fromDay)}
      </b>{" "}
      {mayChange && (
        <button
          type="button"
          className="plain small"
          aria-label={`take back the wage of ${person.name} from ${weekday(wage.fromDay)}`}
          onClick={() => withdraw.run()}
        >
          take back
        </button>
      )}
    </div>
  );
}

/** A link to set a password, mailed or read out. */
const LinkForm = ({
  person,
  made,
  close,
}: {
  person: Employee;
  made: (link: string) => void;
  close: () => void;
}) => (
  <RecordForm
    title={`A password link for ${person.name}`}
    confirm="Make the link"
    fields={[{ name: "mailTo", label: "Mail it to; empty to read it out or hand it over" }]}
    initial={{ mailTo: "" }}
    version={0}
    save={(values) =>
      answer(
        client.POST("/api/staff/{id}/password-link", {
          params: { path: { id: person.id } },
          body: { mailTo: String(values.mailTo ?? "") },
        }),
      )
    }
    done={(link) => made(window.location.origin + (link as MadeLink).path)}
    close={close}
    below={<p className="small soft">It is good once, for two days. An earlier link is good no more.</p>}
  />
);
