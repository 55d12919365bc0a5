import { time } from "../format";

type Measurable = {
  from: string;
  to?: string | null;
  measuredFrom?: string | null;
  measuredTo?: string | null;
};

/** How the clock ran, where somebody put that right; and that nobody clocked it. */
export function Measured({ entry }: { entry: Measurable }) {
  if (!entry.measuredFrom) {
    return <div className="soft small">written down by hand</div>;
  }
  const shown = (moment: string | null | undefined) => (moment ? time(moment) : "");
  const asMeasured =
    shown(entry.measuredFrom) === shown(entry.from) && shown(entry.measuredTo) === shown(entry.to);
  if (!entry.to || asMeasured) {
    return null;
  }
  return (
    <div className="soft small">
      {entry.measuredTo
        ? `the clock ran ${shown(entry.measuredFrom)} – ${shown(entry.measuredTo)}`
        : `the clock was started ${shown(entry.measuredFrom)} and nobody stopped it`}
    </div>
  );
}
