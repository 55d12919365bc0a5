import { Button } from "antd";
import { useEffect, useRef, useState } from "react";

type PagesSet = { set: number; all: number };

/** The pages of one choice of sheets: how far they are while they are set, and the document once it is there. */
export function Printing({ address }: { address: string }) {
  const stream = useRef<EventSource>(null);
  const [pages, setPages] = useState<PagesSet>();
  const [pdf, setPdf] = useState<string>();
  const [broken, setBroken] = useState(false);
  useEffect(() => () => stream.current?.close(), []);
  useEffect(() => () => (pdf ? URL.revokeObjectURL(pdf) : undefined), [pdf]);

  const print = () => {
    const opened = new EventSource(address);
    stream.current = opened;
    setBroken(false);
    setPages({ set: 0, all: 0 });
    const over = () => {
      opened.close();
      setPages(undefined);
    };
    opened.addEventListener("pages", (event) => setPages(JSON.parse(event.data)));
    opened.addEventListener("pdf", (event) => {
      over();
      const made = URL.createObjectURL(pdfOf(event.data));
      setPdf(made);
      window.open(made);
    });
    opened.addEventListener("error", () => {
      over();
      setBroken(true);
    });
  };

  if (pdf) {
    return (
      <Button size="small" type="primary" autoFocus href={pdf} target="_blank">
        Open the pages
      </Button>
    );
  }
  return (
    <>
      {broken && (
        <p className="fault" role="alert">
          The printing broke off. Print once more.
        </p>
      )}
      <Button size="small" type="primary" loading={pages !== undefined} onClick={print}>
        Print them as PDF
      </Button>
      {pages && (
        <span role="status">
          {" "}
          {pages.all === 0 ? "Laying out the pages" : `Page ${pages.set} of ${pages.all}`}
        </span>
      )}
    </>
  );
}

function pdfOf(base64: string): Blob {
  const bytes = Uint8Array.from(atob(base64), (sign) => sign.charCodeAt(0));
  return new Blob([bytes], { type: "application/pdf" });
}
