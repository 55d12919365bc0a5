import { Numbered } from "../records/Numbered";
import { JobSheetView } from "./JobSheetView";

/** A job's sheet alone, by the job's number or its invoice's. */
export default function JobPage({ by }: { by: "job" | "invoice" }) {
  return <Numbered kind={by} show={(id) => <JobSheetView key={id} id={id} alone />} />;
}
