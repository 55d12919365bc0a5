import type { Visit, VisitSignature } from "../api/generated/schema";

/** Who signed a visit that is over and how they found it, and the page that they get of it. */
export function Signed({ visit, signature }: { visit: Visit; signature: VisitSignature | undefined }) {
  if (visit.state !== "finished" && visit.state !== "checked") {
    return null;
  }
  return (
    <div className="small">
      {signature ? (
        <>
          Signed by {signature.name}
          {signature.rating && `, ${signature.rating} of 5`}
          {signature.ratingWords && `: “${signature.ratingWords}”`}
        </>
      ) : (
        <span className="soft">Nobody signed.</span>
      )}{" "}
      <a href={`/api/visits/${visit.id}/report`} target="_blank" rel="noreferrer">
        Report for the customer
      </a>
    </div>
  );
}
