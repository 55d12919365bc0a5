import { Modal } from "antd";
import { SignInForm } from "./SignInForm";

/** Takes a session that has ended up again, above the page. */
export default function SignInAgain({
  open,
  expected,
  signedIn,
}: {
  open: boolean;
  expected: string;
  signedIn: () => void;
}) {
  return (
    <Modal
      open={open}
      title="Your session has ended"
      footer={null}
      closable={false}
      width={380}
      destroyOnHidden
    >
      <p>Sign in again. What you typed is still on the page behind.</p>
      <SignInForm expected={expected} signedIn={signedIn} />
    </Modal>
  );
}
