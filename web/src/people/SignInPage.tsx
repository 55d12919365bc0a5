import styles from "./SignIn.module.css";
import { SignInForm } from "./SignInForm";

/** Where everybody signs in. */
export default function SignInPage({ company }: { company: string }) {
  return (
    <main className={styles.page}>
      <h1>Pragmata</h1>
      <p>{company}</p>
      <SignInForm />
    </main>
  );
}
