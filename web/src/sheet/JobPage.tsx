import { useParams } from "react-router";
import { JobSheetView } from "./JobSheetView";

/** A job's sheet alone, for deep links. */
export default function JobPage() {
  const id = Number(useParams().id);
  return <JobSheetView key={id} id={id} alone />;
}
