import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../api/client";
import type { FoundingOffer } from "../api/generated/schema";
import { queries } from "../api/queries";
import { AreaField, ChoiceField, TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { useTitle } from "../kit/useTitle";
import styles from "./FoundingPage.module.css";

/** The first page of a program without a company: whose it is, and who looks after it. */
export default function FoundingPage() {
  useTitle("Your company");
  const { data, error } = useQuery(queries.founding);
  return (
    <main className={styles.page}>
      <header className={styles.head}>
        <h1>Your company</h1>
        <p className="soft">
          Its name as it stands on documents, its country’s usual terms, and who looks after the program.
        </p>
      </header>
      {error && <p className="fault">{error.message}</p>}
      {data && <CompanyForm offer={data} />}
    </main>
  );
}

const fromTemplate = (template: FoundingOffer["templates"][number]) => ({
  template: template.code,
  currency: template.currency,
  timeZone: template.timeZone,
  language: template.language,
  diallingCode: template.diallingCode,
  vatPercent:
    template.vatPercent === undefined || template.vatPercent === null ? "" : String(template.vatPercent),
});

/** The template of the country in whose zone this browser is; the first one where there is none. */
function likeliest(offer: FoundingOffer) {
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return offer.templates.find((one) => one.timeZone === here) ?? offer.templates[0];
}

function CompanyForm({ offer }: { offer: FoundingOffer }) {
  const first = likeliest(offer);
  const form = useForm({
    version: 0,
    draft: {
      word: new URLSearchParams(window.location.search).get("word") ?? "",
      name: "",
      address: "",
      phone: "",
      email: "",
      vatNumber: "",
      bank: "",
      iban: "",
      ownerName: "",
      username: "",
      password: "",
      ...(first
        ? fromTemplate(first)
        : { template: "", currency: "", timeZone: "", language: "", diallingCode: "", vatPercent: "" }),
    },
  });
  const found = useAct(
    async () => {
      await answer(client.POST("/api/founding", { body: form.draft }));
      const { username, password } = form.draft;
      return answer(client.POST("/api/sign-in", { body: { username, password } }));
    },
    {
      done: () => window.location.assign("/settings"),
      refused: form.refused,
      said: "The company is founded.",
    },
  );
  return (
    <InlineForm
      form={form}
      label="Your company"
      confirm="Found the company"
      running={found.running}
      submit={() => found.run()}
    >
      <Section name="The word">
        <p className="small soft">
          It was printed where the program was started, so that nobody else founds a company here.
        </p>
        <TextField
          form={form}
          name="word"
          label="Word"
          width={300}
          needed
          autoFocus={form.draft.word === ""}
        />
      </Section>
      <Section name="Country">
        <div className={styles.fields}>
          <ChoiceField
            form={form}
            name="template"
            label="Accounts, VAT and terms as usual in"
            width={260}
            needed
            options={offer.templates.map((one) => ({ value: one.code, label: one.name }))}
            chosen={(code) => {
              const chosen = offer.templates.find((one) => one.code === code);
              return chosen ? fromTemplate(chosen) : {};
            }}
          />
          <TextField form={form} name="vatPercent" label="Usual VAT in percent" width={150} needed figure />
          <TextField form={form} name="currency" label="Currency" width={110} needed />
          <TextField form={form} name="diallingCode" label="Dialling code" width={260} needed figure />
          <ChoiceField
            form={form}
            name="language"
            label="Language of documents"
            width={260}
            needed
            options={offer.languages.map((one) => ({ value: one.locale, label: one.name }))}
          />
          <ChoiceField
            form={form}
            name="timeZone"
            label="Time zone"
            width={260}
            needed
            options={offer.timeZones.map((zone) => ({ value: zone, label: zone }))}
          />
        </div>
      </Section>
      <Section name="On documents">
        <div className={styles.fields}>
          <TextField
            form={form}
            name="name"
            label="Name of the company"
            width={260}
            needed
            autoFocus={form.draft.word !== ""}
          />
          <TextField form={form} name="vatNumber" label="VAT number, if there is one" width={260} />
          <AreaField form={form} name="address" label="Address" width={260} needed />
          <AreaField form={form} name="bank" label="Bank account that customers pay to" width={260} />
          <TextField form={form} name="iban" label="Its IBAN, if it has one" width={260} />
          <TextField form={form} name="phone" label="Phone" width={260} />
          <TextField form={form} name="email" label="Mail address" width={260} />
        </div>
      </Section>
      <Section name="You">
        <p className="small soft">
          The owner may do everything, and lets the others in. A password has at least 12 characters; three
          words that have nothing to do with each other are easy to keep in mind.
        </p>
        <div className={styles.fields}>
          <TextField form={form} name="ownerName" label="Your name" width={260} needed />
          <TextField form={form} name="username" label="Name to sign in with" width={260} needed />
          <TextField form={form} name="password" label="Password" width={260} needed secret />
        </div>
      </Section>
    </InlineForm>
  );
}
