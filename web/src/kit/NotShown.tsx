/** Stands where a page should: it could not be fetched, or it failed while it was drawn. */
export function NotShown() {
  return (
    <section className="blank" aria-labelledby="not-shown">
      <h1 id="not-shown">This page could not be shown</h1>
      <p>
        There is no network, or the program was renewed while you worked. What is stored is as it was. Load
        the page again; if that does not help, go on elsewhere and tell whoever looks after the program.
      </p>
      <button type="button" className="early" onClick={() => window.location.reload()}>
        Load it again
      </button>
    </section>
  );
}
