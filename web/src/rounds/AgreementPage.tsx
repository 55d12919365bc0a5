import { useParams } from "react-router";
import { AgreementSheet } from "./AgreementSheet";

/** One agreement at an address of its own. */
export default function AgreementPage() {
  const id = Number(useParams().id);
  return <AgreementSheet key={id} id={id} alone />;
}
