import { Button } from "antd";
import { useEffect, useRef, useState } from "react";
import { readCode } from "./readCode";
import styles from "./ScanCode.module.css";

/** How often a picture of the camera is looked at. */
const LOOKED_AT_EVERY_MS = 200;

/** Reads a code from the camera, or from a picture that is taken of it. */
export function ScanCode({ found, close }: { found: (code: string) => void; close: () => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [trouble, setTrouble] = useState("");
  const tell = useRef(found);
  tell.current = found;
  useEffect(() => {
    const ended = new AbortController();
    watch(ended.signal, video.current, (code) => tell.current(code)).catch(() =>
      setTrouble("The camera cannot be used here. Take a picture of the code, or type it."),
    );
    return () => ended.abort();
  }, []);
  return (
    <section className={styles.scan} aria-label="Scan a code">
      {trouble ? (
        <p className="needs" role="status">
          {trouble}
        </p>
      ) : (
        <video ref={video} playsInline muted aria-label="What the camera sees" />
      )}
      <label className={styles.picture}>
        Take a picture of the code
        <input
          type="file"
          accept="image/*"
          capture="environment"
          onChange={async ({ target }) => {
            const [picture] = target.files ?? [];
            const code = picture && (await readCode(picture).catch(() => undefined));
            target.value = "";
            if (code) {
              found(code);
            } else if (picture) {
              setTrouble("There is no code on that picture that can be read. Go closer, or type it.");
            }
          }}
        />
      </label>
      <Button className="tall" onClick={close}>
        Leave
      </Button>
    </section>
  );
}

/** Looks through the camera until a code is found or nobody wants one any more; then the camera is off. */
async function watch(ended: AbortSignal, video: HTMLVideoElement | null, found: (code: string) => void) {
  const stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
  try {
    if (!video || ended.aborted) {
      return;
    }
    video.srcObject = stream;
    await video.play();
    const canvas = document.createElement("canvas");
    while (!ended.aborted) {
      const code = await lookAt(video, canvas);
      if (code && !ended.aborted) {
        found(code);
        return;
      }
      await new Promise((resolve) => setTimeout(resolve, LOOKED_AT_EVERY_MS));
    }
  } catch (trouble) {
    if (!ended.aborted) {
      throw trouble;
    }
  } finally {
    for (const track of stream.getTracks()) {
      track.stop();
    }
  }
}

function lookAt(video: HTMLVideoElement, canvas: HTMLCanvasElement) {
  canvas.width = video.videoWidth;
  canvas.height = video.videoHeight;
  const pen = canvas.getContext("2d", { willReadFrequently: true });
  if (!pen || canvas.width === 0) {
    return undefined;
  }
  pen.drawImage(video, 0, 0);
  return readCode(pen.getImageData(0, 0, canvas.width, canvas.height));
}
