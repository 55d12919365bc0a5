import { useQuery } from "@tanstack/react-query";
import { Dropdown } from "antd";
import { useState } from "react";
import { Link, NavLink, Outlet, useLocation } from "react-router";
import { queries } from "./api/queries";
import { FindField } from "./finding/FindField";
import { weekday } from "./format";
import { KeysHelp } from "./kit/KeysHelp";
import { Shell } from "./kit/Shell";
import { useKeys } from "./kit/useKeys";
import { signOut, useSession } from "./people/SessionGate";
import { useMay } from "./people/useMay";
import { MoneyLine, STAGES } from "./worklists/MoneyLine";

/** The office's pages: the one field above, the Money line below it, then the work. */
export default function Office() {
  const session = useSession();
  const { data: choices } = useQuery(queries.choices);
  const canSell = useMay("sell");
  const { pathname } = useLocation();
  const place = pathname.split("/")[1] ?? "";
  const [keysShown, setKeysShown] = useState(false);
  useKeys({ "?": () => setKeysShown(true) });
  return (
    <Shell
      name={<NavLink to="/">Pragmata</NavLink>}
      find={<FindField canSell={canSell} />}
      places={<Places canSell={canSell} />}
      person={
        <>
          {weekday(session.now.slice(0, 10))}{" "}
          <Dropdown
            trigger={["click"]}
            menu={{
              items: [
                { key: "settings", label: <Link to="/settings">Settings</Link> },
                { key: "keys", label: "Keys", onClick: () => setKeysShown(true) },
                { key: "out", label: "Sign out", onClick: () => void signOut() },
              ],
            }}
          >
            <button type="button" className="plain" aria-haspopup="menu">
              {session.person.name}
            </button>
          </Dropdown>
        </>
      }
      page={STAGES.some((stage) => stage === place) ? place : pathname}
      strip={<MoneyLine currency={session.currency} />}
    >
      {choices && <Outlet />}
      <KeysHelp open={keysShown} close={() => setKeysShown(false)} />
    </Shell>
  );
}

function Places({ canSell }: { canSell: boolean }) {
  const { data: toDos } = useQuery(queries.toDoCount);
  const { data: parts } = useQuery(queries.partsWantedCount);
  const { data: rounds } = useQuery(queries.roundsCount);
  const { data: late } = useQuery(queries.lateActs);
  return (
    <>
      {canSell && <NavLink to="/quotes/new">New quote</NavLink>}
      <NavLink to="/planner">Planner</NavLink>
      <NavLink to="/quotes/follow-up">Follow up</NavLink>
      <NavLink to="/customers" end>
        Customers
      </NavLink>
      <NavLink to="/to-dos">
        To-dos{toDos && toDos.open > 0 && ` ${toDos.open}`}
        {toDos && toDos.late > 0 && <span className="needs"> {toDos.late} late</span>}
      </NavLink>
      <NavLink to="/parts-wanted">
        Parts{parts && parts.open > 0 && ` ${parts.open}`}
        {parts && parts.late > 0 && <span className="needs"> {parts.late} late</span>}
      </NavLink>
      <NavLink to="/rounds">
        Rounds
        {rounds && rounds.late > 0 && <span className="needs"> {rounds.late} late</span>}
      </NavLink>
      <NavLink to="/hours">Hours</NavLink>
      {late && late.length > 0 && (
        <NavLink to="/came-in-late">
          <span className="needs">Came in late {late.length}</span>
        </NavLink>
      )}
      <NavLink to="/books">Books</NavLink>
    </>
  );
}
