import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../api/client";
import type {
  CallerCard,
  ContactOf,
  Debt,
  EquipmentOf,
  SiteOf,
  VisitOf,
  WarrantyOf,
} from "../api/generated/schema";
import { day, fullDay, moment, money, openHours, time, weekday, words } from "../format";
import { History } from "../history/History";
import lines from "../kit/Lines.module.css";
import { latest } from "../kit/latest";
import { Section } from "../kit/Section";
import sheet from "../kit/Sheet.module.css";
import { useAct } from "../kit/useAct";
import { useSession } from "../people/SessionGate";
import { useMay } from "../people/useMay";
import { Agreements } from "../rounds/Agreements";
import { VisitsSection } from "../telling/VisitsSection";
import styles from "./CallerCardView.module.css";
import { ContactForm, CustomerForm, EquipmentForm, SiteForm } from "./CustomerForms";
import { Documents } from "./Documents";

/** What is open in front of the card: one form at a time. */
export type Opened =
  | { form: "customer" }
  | { form: "site"; site?: SiteOf }
  | { form: "contact"; contact?: ContactOf }
  | { form: "equipment"; siteId: number; piece?: EquipmentOf; replacing?: boolean };

/** All that should be known about a caller before anything is promised, from top to bottom. */
export function CallerCardView({
  card,
  chosen,
  choose,
  opened,
  open,
  again,
}: {
  card: CallerCard;
  chosen: string;
  choose: (place: string) => void;
  opened: Opened | undefined;
  open: (opened: Opened | undefined) => void;
  again: (visit: VisitOf) => void;
}) {
  const mayChange = useMay("sell");
  return (
    <article className={`${sheet.sheet} ${styles.caller}`} aria-label={card.name} data-card={card.id}>
      <header className={sheet.head}>
        <div className={sheet.number}>C {card.number}</div>
        <div className={sheet.titled}>
          <div>
            <h1>{card.name}</h1>
            <div className="small soft">
              {[card.phone, card.email, [card.address, card.postcode].filter(Boolean).join(", ")]
                .filter(Boolean)
                .join(" · ")}
            </div>
            <div className="small soft">
              pays within {card.paymentDays} days
              {card.priceList && ` · ${card.priceList}`}
              {card.responseTerms && ` · ${card.responseTerms}`}
              {card.tookIn.map((former) => ` · was also C ${former.number} ${former.name}`)}
            </div>
          </div>
          <button type="button" className="plain small" onClick={() => open({ form: "customer" })}>
            edit <kbd>E</kbd>
          </button>
        </div>
      </header>
      <Standing debt={card.debt} />
      <Notes card={card} />
      <OpenWork card={card} />
      <VisitsSection key={`visits ${card.id}`} customerId={card.id} mayChange={mayChange} />
      <Sites card={card} chosen={chosen} choose={choose} open={open} />
      <Agreements customerId={card.id} />
      <Lately card={card} again={again} />
      <Invoices card={card} />
      <Contacts card={card} open={open} />
      <Documents key={card.id} customerId={card.id} />
      <Section name="History">
        <History kind="customer" id={card.id} />
      </Section>
      {opened?.form === "customer" && <CustomerForm card={card} close={() => open(undefined)} />}
      {opened?.form === "site" && (
        <SiteForm card={card} site={latest(card.sites, opened.site)} close={() => open(undefined)} />
      )}
      {opened?.form === "contact" && (
        <ContactForm
          card={card}
          contact={latest(card.contacts, opened.contact)}
          close={() => open(undefined)}
        />
      )}
      {opened?.form === "equipment" && (
        <EquipmentForm
          key={String(opened.replacing)}
          card={card}
          siteId={opened.siteId}
          piece={latest(
            card.sites.flatMap((site) => site.equipment),
            opened.piece,
          )}
          replacing={opened.replacing}
          close={() => open(undefined)}
        />
      )}
    </article>
  );
}

/** What they owe; loud only when something is late, over the limit or on stop. */
function Standing({ debt }: { debt: Debt }) {
  const loud = debt.lateMinor > 0 || debt.overLimitMinor > 0 || debt.stopReason != null;
  return (
    <section
      className={
        loud ? `${sheet.section} ${styles.standing} ${styles.loud}` : `${sheet.section} ${styles.standing}`
      }
      aria-label="Owes"
      data-loud={loud}
    >
      <div className={sheet.margin}>
        <h2>Owes</h2>
      </div>
      <div>
        <div className={styles.owed}>
          <b className={styles.sum}>{debt.owedMinor === 0 ? "nothing" : money(debt.owedMinor)}</b>
          {debt.lateSince && (
            <span>
              {debt.lateMinor === debt.owedMinor ? "all of it" : money(debt.lateMinor)} late since{" "}
              {day(debt.lateSince)}, {debt.lateDays} {debt.lateDays === 1 ? "day" : "days"}
            </span>
          )}
          {debt.overLimitMinor > 0 ? (
            <span>
              {money(debt.overLimitMinor)} over the limit of {money(debt.creditLimitMinor)}
            </span>
          ) : (
            debt.creditLimitMinor > 0 && (
              <span className="soft small">limit {money(debt.creditLimitMinor)}</span>
            )
          )}
        </div>
        {debt.stopReason && (
          <div className={styles.stop}>
            <b>On stop.</b> {debt.stopReason}
          </div>
        )}
      </div>
    </section>
  );
}

function Notes({ card }: { card: CallerCard }) {
  const [adding, setAdding] = useState(false);
  const [typed, setTyped] = useState("");
  const pin = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/customers/{id}/notes", {
          params: { path: { id: card.id }, header: { "Idempotency-Key": key } },
          body: { text: typed },
        }),
      ),
    {
      done: () => {
        setAdding(false);
        setTyped("");
      },
    },
  );
  const unpin = useAct((noteId: number) =>
    answer(
      client.PUT("/api/customer-notes/{id}/pinned", {
        params: { path: { id: noteId } },
        body: { pinned: false },
      }),
    ),
  );
  return (
    <Section name="Pinned">
      {card.notes.map((note) => (
        <div key={note.id} className={styles.pinned}>
          {note.text}{" "}
          <span className="soft small">
            {note.by}, {day(note.at.slice(0, 10))}
          </span>{" "}
          <button type="button" className="plain small" onClick={() => unpin.run(note.id)}>
            take down
          </button>
        </div>
      ))}
      {adding ? (
        <form
          className={styles.pinForm}
          onSubmit={(event) => {
            event.preventDefault();
            pin.run(undefined);
          }}
        >
          <input
            // biome-ignore lint/a11y/noAutofocus: it was just asked for
            autoFocus
            aria-label="Note to pin"
            value={typed}
            maxLength={500}
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={(event) => event.key === "Escape" && setAdding(false)}
          />
          <button type="submit" className="plain small">
            pin it
          </button>
          {pin.problem && <span className="fault">{pin.problem.message}</span>}
        </form>
      ) : (
        <button type="button" className="plain small" onClick={() => setAdding(true)}>
          pin a note
        </button>
      )}
    </Section>
  );
}

function OpenWork({ card }: { card: CallerCard }) {
  const nothing =
    card.openJobs.length + card.openQuotes.length + card.nextVisits.length + card.toDos.length === 0;
  return (
    <Section name="Open">
      <table className={`${lines.lines} ${styles.openWork}`}>
        <tbody>
          {card.nextVisits.map((visit) => (
            <tr key={`visit-${visit.id}`}>
              <td>
                {visit.day ? `${weekday(visit.day)} ${visit.start ? time(visit.start) : ""}` : "no time yet"}
              </td>
              <td>
                <Link to={`/jobs/${visit.jobNumber}`}>Job {visit.jobNumber}</Link> {visit.title}
              </td>
              <td className="soft">{visit.technician ?? words(visit.state)}</td>
            </tr>
          ))}
          {card.openJobs
            .filter((job) => !card.nextVisits.some((visit) => visit.jobId === job.id))
            .map((job) => (
              <tr key={`job-${job.id}`}>
                <td className="soft">{words(job.state)}</td>
                <td>
                  <Link to={`/jobs/${job.number}`}>Job {job.number}</Link> {job.title}
                </td>
                <td />
              </tr>
            ))}
          {card.openJobs
            .filter((job) => job.respondBy && job.state === "open")
            .map((job) => (
              <tr key={`respond-${job.id}`}>
                <td className={job.late ? "needs" : "soft"}>{job.late ? "late" : "promised"}</td>
                <td>
                  <Link to={`/jobs/${job.number}`}>Job {job.number}</Link>: somebody there by{" "}
                  {moment(job.respondBy ?? "")}
                </td>
                <td />
              </tr>
            ))}
          {card.openQuotes.map((quote) => (
            <tr key={`quote-${quote.id}`}>
              <td className="soft">{quote.state}</td>
              <td>
                <Link to={`/quotes/${quote.number}`}>Quote {quote.number}</Link> {quote.title}
              </td>
              <td className="figure">{money(quote.netMinor)}</td>
            </tr>
          ))}
          {card.toDos.map((toDo) => (
            <tr key={`to-do-${toDo.id}`}>
              <td className="soft">to do by {day(toDo.due)}</td>
              <td>
                <Link to={`/to-dos?whose=all&at=${toDo.id}`}>{toDo.what}</Link>
              </td>
              <td className="soft">{toDo.forPerson}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {nothing && <span className="soft">Nothing is open.</span>}
    </Section>
  );
}

function Sites({
  card,
  chosen,
  choose,
  open,
}: {
  card: CallerCard;
  chosen: string;
  choose: (place: string) => void;
  open: (opened: Opened) => void;
}) {
  return (
    <Section
      name="Sites"
      aside={
        <button type="button" className="plain small" onClick={() => open({ form: "site" })}>
          add
        </button>
      }
    >
      {card.sites.map((site) => (
        <div key={site.id} className={styles.site} data-site={site.id}>
          <div className={chosen === `site-${site.id}` ? `${styles.place} ${styles.on}` : styles.place}>
            <button type="button" className={styles.choose} onClick={() => choose(`site-${site.id}`)}>
              <b>{site.name}</b>, {[site.address, site.postcode].filter(Boolean).join(", ")}
            </button>
            {(site.opens || site.accessNotes) && (
              <span className="small soft">
                {[openHours(site), site.accessNotes].filter(Boolean).join(". ")}
              </span>
            )}
            <span className={styles.tools} data-tools>
              <button type="button" className="plain small" onClick={() => open({ form: "site", site })}>
                edit
              </button>{" "}
              <button
                type="button"
                className="plain small"
                onClick={() => open({ form: "equipment", siteId: site.id })}
              >
                add equipment
              </button>
            </span>
          </div>
          {site.equipment.map((piece) => (
            <Piece
              key={piece.id}
              piece={piece}
              on={chosen === `equipment-${piece.id}`}
              choose={() => choose(`equipment-${piece.id}`)}
              edit={() => open({ form: "equipment", siteId: site.id, piece })}
              replace={() => open({ form: "equipment", siteId: site.id, piece, replacing: true })}
            />
          ))}
        </div>
      ))}
    </Section>
  );
}

function Piece({
  piece,
  on,
  choose,
  edit,
  replace,
}: {
  piece: EquipmentOf;
  on: boolean;
  choose: () => void;
  edit: () => void;
  replace: () => void;
}) {
  const gone = piece.removedOn != null;
  return (
    <div
      className={on ? `${styles.piece} ${styles.on}` : styles.piece}
      data-equipment={piece.id}
      data-on={on}
    >
      {piece.photo ? (
        <img src={`/api/equipment/${piece.id}/photo`} alt={`${piece.model}, ${piece.serialNumber}`} />
      ) : (
        <span />
      )}
      <button type="button" className={styles.choose} disabled={gone} onClick={choose}>
        <span className={gone ? "gone" : undefined}>
          {piece.model}, {piece.serialNumber}
        </span>
        {piece.position && <span className="soft">, {piece.position}</span>}
      </button>
      <span className="small soft">
        {gone
          ? `removed ${fullDay(piece.removedOn ?? "")}${piece.replacedBy ? `, ${piece.replacedBy} in its place` : ""}`
          : `fitted ${fullDay(piece.fittedOn)}`}
      </span>
      <span className="small">{!gone && <Warranties piece={piece} />}</span>
      <span className={styles.tools} data-tools>
        {!gone && (
          <>
            <button type="button" className="plain small" onClick={edit}>
              edit
            </button>{" "}
            <button type="button" className="plain small" onClick={replace}>
              replace
            </button>
          </>
        )}
      </span>
    </div>
  );
}

/** What a warranty still bears, for parts and for labour. */
export function Warranties({ piece }: { piece: EquipmentOf }) {
  if (!piece.parts?.running && !piece.labour?.running) {
    const ended = [piece.parts?.until, piece.labour?.until].filter((until) => until != null).sort();
    return (
      <span className="soft">
        {ended.length > 0 ? `warranty ended ${fullDay(ended.at(-1) ?? "")}` : "no warranty"}
      </span>
    );
  }
  return (
    <>
      <Bears what="parts" warranty={piece.parts} />
      <Bears what="labour" warranty={piece.labour} />
    </>
  );
}

function Bears({ what, warranty }: { what: string; warranty: WarrantyOf | null | undefined }) {
  return warranty?.running ? (
    <span className={styles.bears}>
      {what} {warranty.percent} % until {fullDay(warranty.until)}
    </span>
  ) : null;
}

const NOT_DONE = ["not_this_time", "called_off"];

function Lately({ card, again }: { card: CallerCard; again: (visit: VisitOf) => void }) {
  return (
    <Section name="Lately">
      <table className={`${lines.lines} ${styles.lately}`}>
        <tbody>
          {card.lastVisits.map((visit) => (
            <tr key={`visit-${visit.id}`}>
              <td>{visit.day ? fullDay(visit.day) : ""}</td>
              <td>
                <Link to={`/jobs/${visit.jobNumber}`}>Job {visit.jobNumber}</Link> {visit.title}
                {NOT_DONE.includes(visit.state) ? (
                  <span className="needs">
                    {" "}
                    {words(visit.state)}: {visit.reason}
                  </span>
                ) : (
                  <span className="soft small"> {visit.note}</span>
                )}
              </td>
              <td className="soft">{visit.technician}</td>
              <td>
                <button type="button" className="plain small" onClick={() => again(visit)}>
                  same again
                </button>
              </td>
            </tr>
          ))}
          {card.calls.map((call) => (
            <tr key={`call-${call.id}`}>
              <td>{fullDay(call.at.slice(0, 10))}</td>
              <td>
                Call: {call.about}
                {call.solution ? (
                  <span className="soft"> Solved on the phone: {call.solution}</span>
                ) : (
                  <span className="soft"> {OUTCOME[call.outcome]}</span>
                )}
              </td>
              <td className="soft">{call.by}</td>
              <td />
            </tr>
          ))}
        </tbody>
      </table>
      {card.lastVisits.length + card.calls.length === 0 && (
        <span className="soft">Nobody was there yet, and nobody called.</span>
      )}
    </Section>
  );
}

const OUTCOME: Record<string, string> = {
  noted: "noted",
  job: "became a job",
  quote: "became a quote",
  to_do: "became a to-do",
};

function Invoices({ card }: { card: CallerCard }) {
  const { now } = useSession();
  return (
    <Section name="Invoices">
      <table className={lines.lines}>
        <tbody>
          {card.invoices.map((invoice) => {
            const late = invoice.owedMinor > 0 && invoice.dueDate < now.slice(0, 10);
            return (
              <tr key={invoice.id}>
                <td>
                  <Link to={`/invoices/${invoice.number}`}>Invoice {invoice.number}</Link>
                </td>
                <td className="soft">
                  of {day(invoice.invoiceDate)}, due {day(invoice.dueDate)}
                </td>
                <td className="figure">{money(invoice.grossMinor)}</td>
                <td className={late ? "figure needs" : "figure"}>
                  {invoice.owedMinor === 0
                    ? "settled"
                    : `${money(invoice.owedMinor)} owed${late ? ", late" : ""}`}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {card.invoices.length === 0 && <span className="soft">No invoice yet.</span>}
    </Section>
  );
}

function Contacts({ card, open }: { card: CallerCard; open: (opened: Opened) => void }) {
  return (
    <Section
      name="Contacts"
      aside={
        <>
          <button type="button" className="plain small" onClick={() => open({ form: "contact" })}>
            add
          </button>{" "}
          <a href={`/api/customers/${card.id}/contacts.vcf`} download className="small">
            vCard
          </a>
        </>
      }
    >
      {card.contacts.map((contact) => (
        <div key={contact.id} className={styles.contact}>
          <span>{contact.name}</span>
          <span className="soft">{contact.phone || contact.email}</span>
          <span className="soft small">{part(contact)}</span>
          <button type="button" className="plain small" onClick={() => open({ form: "contact", contact })}>
            edit
          </button>
        </div>
      ))}
      {card.contacts.length === 0 && <span className="soft">Nobody is named yet.</span>}
    </Section>
  );
}

const part = (contact: ContactOf): ReactNode =>
  [
    contact.pays && "pays",
    contact.opens && "opens the gate",
    contact.decides && "decides",
    contact.site && `at ${contact.site}`,
  ]
    .filter(Boolean)
    .join(", ");
