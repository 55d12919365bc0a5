import { useRef } from "react";
import styles from "./Signature.module.css";
import { colours } from "./tokens";

/** What the box says, in the language of whoever signs. */
export type SignatureWords = { name: string; empty: string; drawn: string; again: string };

/** A box to draw one's name in; undefined while nothing is drawn, for a typed name is enough. */
export function Signature({
  drawing,
  draw,
  words,
}: {
  drawing: string | undefined;
  draw: (png: string | undefined) => void;
  words: SignatureWords;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const drawn = useRef(false);
  const at = (event: React.PointerEvent) => {
    const box = canvas.current?.getBoundingClientRect();
    // The box is drawn as wide as the page, whatever the number of its own points.
    const scale = (canvas.current?.width ?? 1) / (box?.width || 1);
    return { x: (event.clientX - (box?.left ?? 0)) * scale, y: (event.clientY - (box?.top ?? 0)) * scale };
  };
  const pen = () => {
    const context = canvas.current?.getContext("2d");
    if (context) {
      context.lineWidth = 2.2;
      context.lineCap = "round";
      context.strokeStyle = colours.ink;
    }
    return context;
  };
  return (
    <div className={styles.signature}>
      <canvas
        ref={canvas}
        width={340}
        height={110}
        aria-label={words.name}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          const { x, y } = at(event);
          const context = pen();
          context?.beginPath();
          context?.moveTo(x, y);
          drawn.current = true;
        }}
        onPointerMove={(event) => {
          if (drawn.current) {
            const { x, y } = at(event);
            const context = pen();
            context?.lineTo(x, y);
            context?.stroke();
          }
        }}
        onPointerUp={() => {
          drawn.current = false;
          draw(canvas.current?.toDataURL("image/png"));
        }}
      />
      <span className="soft small">
        {drawing ? words.drawn : words.empty}{" "}
        {drawing && (
          <button
            type="button"
            className="plain small"
            onClick={() => {
              canvas.current?.getContext("2d")?.clearRect(0, 0, 340, 110);
              draw(undefined);
            }}
          >
            {words.again}
          </button>
        )}
      </span>
    </div>
  );
}
