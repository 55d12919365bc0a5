import { useQuery } from "@tanstack/react-query";
import { Dropdown } from "antd";
import { Link, NavLink, Outlet } from "react-router";
import { queries } from "./api/queries";
import { FindField } from "./finding/FindField";
import { weekday } from "./format";
import { signOut, useSession } from "./people/SessionGate";
import { useMay } from "./people/useMay";
import { MoneyLine } from "./worklists/MoneyLine";

/** The frame of every office page: the one field above, the Money line below it, then the work. */
export default function Office() {
  const session = useSession();
  const { data: choices } = useQuery(queries.choices);
  const { data: toDos } = useQuery(queries.toDoCount);
  const canSell = useMay("sell");
  return (
    <div className="office">
      <header className="top">
        <NavLink to="/" className="name">
          Pragmata
        </NavLink>
        <FindField canSell={canSell} />
        <nav aria-label="Places">
          {canSell && <NavLink to="/quotes/new">New quote</NavLink>}
          <NavLink to="/quotes/follow-up">Follow up</NavLink>
          <NavLink to="/customers" end>
            Customers
          </NavLink>
          <NavLink to="/to-dos">
            To-dos{toDos && toDos.open > 0 && ` ${toDos.open}`}
            {toDos && toDos.late > 0 && <span className="needs"> {toDos.late} late</span>}
          </NavLink>
          <NavLink to="/books">Books</NavLink>
        </nav>
        <span className="right">
          {weekday(session.now.slice(0, 10))}{" "}
          <Dropdown
            trigger={["click"]}
            menu={{
              items: [
                { key: "settings", label: <Link to="/settings">Settings</Link> },
                { key: "out", label: "Sign out", onClick: () => void signOut() },
              ],
            }}
          >
            <button type="button" className="plain" aria-haspopup="menu">
              {session.person.name}
            </button>
          </Dropdown>
        </span>
      </header>
      <MoneyLine currency={session.currency} />
      {choices && <Outlet />}
    </div>
  );
}
