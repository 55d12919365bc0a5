import { Button } from "antd";
import { useEffect, useRef, useState } from "react";

/** What is used of the Web Speech API, which not every browser has. */
type Recognition = {
  lang: string;
  continuous: boolean;
  start: () => void;
  stop: () => void;
  onresult: ((event: { resultIndex: number; results: ArrayLike<Result> }) => void) | null;
  onend: (() => void) | null;
};
type Result = ArrayLike<{ transcript: string }> & { isFinal: boolean };

const recognition = (): (new () => Recognition) | undefined => {
  const known = window as { SpeechRecognition?: new () => Recognition } & {
    webkitSpeechRecognition?: new () => Recognition;
  };
  return known.SpeechRecognition ?? known.webkitSpeechRecognition;
};

/** Writes down what is said, sentence by sentence; nothing where the browser cannot. */
export function Dictate({ of, add }: { of: string; add: (said: string) => void }) {
  const [listening, setListening] = useState(false);
  const running = useRef<Recognition>(undefined);
  const tell = useRef(add);
  tell.current = add;
  useEffect(() => () => running.current?.stop(), []);
  const Recognized = recognition();
  if (!Recognized) {
    return null;
  }
  const start = () => {
    const own = new Recognized();
    own.lang = document.documentElement.lang || navigator.language;
    own.continuous = true;
    own.onresult = ({ resultIndex, results }) => {
      for (const result of Array.from(results).slice(resultIndex)) {
        const said = result[0]?.transcript.trim();
        if (result.isFinal && said) {
          tell.current(said);
        }
      }
    };
    own.onend = () => setListening(false);
    running.current = own;
    own.start();
    setListening(true);
  };
  return (
    <Button
      className="tall"
      aria-label={listening ? `Stop listening: ${of}` : `Speak: ${of}`}
      aria-pressed={listening}
      type={listening ? "primary" : "default"}
      onClick={() => (listening ? running.current?.stop() : start())}
    >
      {listening ? "Listening: tap to stop" : "Speak instead of typing"}
    </Button>
  );
}

/** What is said goes behind what stands there. */
export const joined = (before: string, said: string): string =>
  before.trim() === "" ? said : `${before.trimEnd()} ${said}`;
