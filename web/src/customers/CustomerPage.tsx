import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import type { InvoiceOf } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day, money, words } from "../format";
import { useSession } from "../people/SessionGate";
import { Section } from "../sheet/Section";
import { useTitle } from "../useTitle";
import { Owes } from "./Owes";

const isLate = (invoice: InvoiceOf, now: string) =>
  invoice.owedMinor > 0 && invoice.dueDate < now.slice(0, 10);

/** A customer with sites, equipment and everything that stands between us. */
export default function CustomerPage() {
  const id = Number(useParams().id);
  const { data: customer, error } = useQuery(queries.customer(id));
  useTitle(customer?.name);
  const { now } = useSession();
  if (error) {
    return <p className="pad fault">{error.message}</p>;
  }
  if (!customer) {
    return <div className="sheet" aria-busy="true" />;
  }
  return (
    <article className="sheet alone" aria-label={customer.name}>
      <header className="section head">
        <div className="margin soft">C {customer.number}</div>
        <div>
          <h1>{customer.name}</h1>
          <div className="small soft">
            {customer.phone} · {customer.email} · {customer.address}, {customer.postcode} · pays within{" "}
            {customer.paymentDays} days
            <Owes debt={customer.debt} />
          </div>
        </div>
      </header>
      <Section name="Sites">
        {customer.sites.map((site) => (
          <div key={site.id} style={{ marginBottom: 7 }}>
            <b>{site.name}</b>, {site.address}, {site.postcode}
            <span className="soft">
              {" "}
              · {site.contactName}, {site.contactPhone} {site.accessNotes && `· ${site.accessNotes}`}
            </span>
            {site.equipment.map((piece) => (
              <div key={piece.id} className="small soft">
                {piece.model}, {piece.serialNumber}, fitted {day(piece.fittedOn)} {piece.fittedOn.slice(0, 4)}
                {piece.partsWarrantyUntil &&
                  `, parts under warranty until ${day(piece.partsWarrantyUntil)} ${piece.partsWarrantyUntil.slice(0, 4)}`}
              </div>
            ))}
          </div>
        ))}
      </Section>
      <Section name="Invoices">
        <table className="lines">
          <tbody>
            {customer.invoices.map((invoice) => (
              <tr key={invoice.id}>
                <td>
                  <Link to={`/jobs/${invoice.jobId}`}>Invoice {invoice.number}</Link>
                </td>
                <td className="soft">
                  of {day(invoice.invoiceDate)}, due {day(invoice.dueDate)}
                </td>
                <td className="figure">{money(invoice.grossMinor)}</td>
                <td className={isLate(invoice, now) ? "figure needs" : "figure"}>
                  {invoice.owedMinor === 0
                    ? "settled"
                    : `${money(invoice.owedMinor)} owed${isLate(invoice, now) ? ", late" : ""}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {customer.invoices.length === 0 && <span className="soft">No invoice yet.</span>}
      </Section>
      <Section name="Jobs">
        {customer.jobs.map((job) => (
          <div key={job.id}>
            <Link to={`/jobs/${job.id}`}>Job {job.number}</Link> {job.title}{" "}
            <span className="soft">{words(job.state)}</span>
          </div>
        ))}
        {customer.jobs.length === 0 && <span className="soft">No job yet.</span>}
      </Section>
      <Section name="Quotes">
        {customer.quotes.map((quote) => (
          <div key={quote.id}>
            <Link to={`/quotes/${quote.id}`}>Quote {quote.number}</Link> {quote.title}{" "}
            <span className="soft">
              {money(quote.netMinor)} net, {quote.state}
            </span>
          </div>
        ))}
        {customer.quotes.length === 0 && <span className="soft">No quote yet.</span>}
      </Section>
    </article>
  );
}
