import { SignInForm } from "./SignInForm";

/** Where everybody signs in. */
export default function SignInPage({ company }: { company: string }) {
  return (
    <main className="sign-in">
      <h1>Pragmata</h1>
      <p>{company}</p>
      <SignInForm />
    </main>
  );
}
