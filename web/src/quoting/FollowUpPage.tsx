import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Waiting } from "../api/generated/schema";
import { queries } from "../api/queries";
import { fullDay, money, percent } from "../format";
import lines from "../kit/Lines.module.css";
import { Section } from "../kit/Section";
import sheet from "../kit/Sheet.module.css";
import { useTitle } from "../kit/useTitle";

/** Whom to call about a quote, and what became of the quotes of the last year. */
export default function FollowUpPage() {
  const { data, error } = useQuery(queries.followUp);
  useTitle("Quotes to follow up");
  if (error && !data) {
    return (
      <article className={`${sheet.sheet} ${sheet.alone}`}>
        <p className="pad fault">{error.message}</p>
      </article>
    );
  }
  if (!data) {
    return <article className={`${sheet.sheet} ${sheet.alone}`} aria-busy="true" />;
  }
  return (
    <article className={`${sheet.sheet} ${sheet.alone}`} aria-label="Quotes to follow up">
      <header className={sheet.head}>
        <div className={sheet.number}>
          <a className="small" href="/api/quotes/follow-up/file?format=csv" download>
            CSV
          </a>{" "}
          <a className="small" href="/api/quotes/follow-up/file?format=xlsx" download>
            XLSX
          </a>
        </div>
        <div className={sheet.titled}>
          <div>
            <h1>Quotes to follow up</h1>
            <div className="small soft">
              sent {data.afterDays} days ago or earlier and not answered, the largest first
            </div>
          </div>
        </div>
      </header>
      <Section name="No answer">
        <Quotes waiting={data.unanswered} nothing="Every quote is answered or too young to ask about." />
      </Section>
      <Section name="Lapsed">
        <Quotes waiting={data.lapsed} nothing="No quote has lapsed." />
      </Section>
      {data.owedBack.length > 0 && (
        <Section name="Owed back" aside="deposits">
          {data.owedBack.map((held) => (
            <div key={held.receiptId} className="needs">
              {held.jobNumber ? (
                <Link to={`/jobs/${held.jobNumber}`}>Job {held.jobNumber}</Link>
              ) : (
                <Link to={`/quotes/${held.quoteNumber}`}>Quote {held.quoteNumber}</Link>
              )}{" "}
              {held.customer}: {money(held.leftMinor)}{" "}
              <span className="soft">of receipt {held.receiptNumber}</span>
            </div>
          ))}
        </Section>
      )}
      <Section name="Won" aside="last year">
        <table className={lines.lines}>
          <thead>
            <tr>
              <th>kind of job</th>
              <th className="figure">open</th>
              <th className="figure">won</th>
              <th className="figure">lost</th>
              <th className="figure">won net</th>
              <th className="figure">lost net</th>
              <th className="figure">share of quotes</th>
              <th className="figure">of value</th>
            </tr>
          </thead>
          <tbody>
            {data.kinds.map((kind) => (
              <tr key={kind.kind}>
                <td>{kind.kind}</td>
                <td className="figure">{kind.open}</td>
                <td className="figure">{kind.won}</td>
                <td className="figure">{kind.lost}</td>
                <td className="figure">{money(kind.wonMinor)}</td>
                <td className="figure">{money(kind.lostMinor)}</td>
                <td className="figure">{percent(kind.byNumber, 1)}</td>
                <td className="figure">{percent(kind.byValue, 1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Section>
      <Section name="Why lost">
        <table className={lines.lines}>
          <tbody>
            {data.reasons.map((reason) => (
              <tr key={reason.reason ?? ""}>
                <td>{reason.reason ?? "no answer until it lapsed"}</td>
                <td className="figure">{reason.quotes}</td>
                <td className="figure">{money(reason.netMinor)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Section>
    </article>
  );
}

function Quotes({ waiting, nothing }: { waiting: Waiting; nothing: string }) {
  const { quotes, count, netMinor } = waiting;
  if (count === 0) {
    return <span className="soft">{nothing}</span>;
  }
  return (
    <table className={lines.lines}>
      <tbody>
        {quotes.map((quote) => (
          <tr key={quote.id}>
            <td>
              <Link to={`/quotes/${quote.number}`}>Quote {quote.number}</Link>
            </td>
            <td>
              {quote.customer} <span className="soft small">{quote.title}</span>
            </td>
            <td className="soft">{quote.phone}</td>
            <td className="soft small">
              sent {fullDay(quote.sentOn)}, {quote.opened ? "read" : "not opened"}, until{" "}
              {fullDay(quote.validUntil)}
            </td>
            <td className="figure">{quote.days} d</td>
            <td className="figure">{money(quote.netMinor)}</td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={5} className="soft">
            {count > quotes.length
              ? `the largest ${quotes.length} of ${count} quotes; all come to`
              : count === 1
                ? "1 quote"
                : `${count} quotes`}
          </td>
          <td className="figure">{money(netMinor)}</td>
        </tr>
      </tfoot>
    </table>
  );
}
