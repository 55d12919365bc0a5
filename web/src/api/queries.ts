import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import { writeAs } from "../format";
import { answer, client } from "./client";
import type { HistoryEntry, StageTotal } from "./generated/schema";

/** In which ways a list can be asked for; the first is the usual one. */
export const SORTS = ["oldest", "value", "margin", "customer"] as const;
export const CUSTOMER_SORTS = ["name", "owed"] as const;
export const WHOSE = ["mine", "all"] as const;
export const TO_DO_LISTS = ["open", "closed"] as const;
export const PARTS_WANTED_LISTS = ["open", "closed"] as const;
export const HELD_PARTS_LISTS = ["all", "below_zero"] as const;

/** Every reading of the server: its key and its fetcher side by side. */
export const queries = {
  session: queryOptions({
    queryKey: ["session"],
    queryFn: async () => {
      const session = await answer(client.GET("/api/session"));
      writeAs(session.locale, session.currency);
      return session;
    },
    staleTime: 60_000,
  }),
  founding: queryOptions({
    queryKey: ["founding"],
    queryFn: () => answer(client.GET("/api/founding")),
    staleTime: Number.POSITIVE_INFINITY,
  }),
  firstSteps: queryOptions({
    queryKey: ["work", "first-steps"],
    queryFn: () => answer(client.GET("/api/first-steps")),
  }),
  staff: queryOptions({
    queryKey: ["work", "staff"],
    queryFn: () => answer(client.GET("/api/staff")),
  }),
  passwordLink: (secret: string) =>
    queryOptions({
      queryKey: ["password-link", secret],
      queryFn: () => answer(client.GET("/api/password-links/{secret}", { params: { path: { secret } } })),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  choices: queryOptions({
    queryKey: ["choices"],
    queryFn: () => answer(client.GET("/api/choices")),
    staleTime: 300_000,
  }),
  jobsBelowFloor: queryOptions({
    queryKey: ["work", "jobs-below-floor"],
    queryFn: () => answer(client.GET("/api/jobs-below-floor")),
  }),
  moneyLine: queryOptions({
    queryKey: ["work", "money-line"],
    queryFn: () => answer(client.GET("/api/money-line")),
  }),
  worklist: (
    stage: StageTotal["stage"],
    sort: (typeof SORTS)[number],
    filter: string,
    technicianId: number | undefined,
  ) =>
    infiniteQueryOptions({
      queryKey: ["work", "worklist", stage, sort, filter, technicianId],
      queryFn: ({ pageParam }) =>
        answer(
          client.GET("/api/worklists/{stage}", {
            params: { path: { stage }, query: { sort, filter, technicianId, after: pageParam } },
          }),
        ),
      initialPageParam: "",
      getNextPageParam: (page) => page.next ?? undefined,
      placeholderData: (previous, query) => (query?.queryKey[2] === stage ? previous : undefined),
    }),
  document: (kind: "quote" | "job" | "invoice", number: number) =>
    queryOptions({
      queryKey: ["document", kind, number],
      queryFn: () =>
        answer(client.GET("/api/documents/{kind}/{number}", { params: { path: { kind, number } } })),
      staleTime: Number.POSITIVE_INFINITY,
    }),
  job: (id: number) =>
    queryOptions({
      queryKey: ["work", "job", id],
      queryFn: () => answer(client.GET("/api/jobs/{id}", { params: { path: { id } } })),
    }),
  quote: (id: number) =>
    queryOptions({
      queryKey: ["work", "quote", id],
      queryFn: () => answer(client.GET("/api/quotes/{id}", { params: { path: { id } } })),
    }),
  history: (kind: HistoryEntry["kind"], id: number) =>
    infiniteQueryOptions({
      queryKey: ["work", "history", kind, id],
      queryFn: ({ pageParam }) =>
        answer(
          client.GET("/api/history/{kind}/{id}", {
            params: { path: { kind, id }, query: { olderThan: pageParam } },
          }),
        ),
      initialPageParam: undefined as number | undefined,
      getNextPageParam: (page) => page.olderThan ?? undefined,
    }),
  sites: (q: string) =>
    queryOptions({
      queryKey: ["sites", q],
      queryFn: () => answer(client.GET("/api/sites", { params: { query: { q } } })),
      placeholderData: keepPreviousData,
    }),
  parts: (q: string) =>
    queryOptions({
      queryKey: ["parts", q],
      queryFn: () => answer(client.GET("/api/parts", { params: { query: { q } } })),
      placeholderData: keepPreviousData,
    }),
  personsDay: (id: number, day: string) =>
    queryOptions({
      queryKey: ["work", "persons-day", id, day],
      queryFn: () => answer(client.GET("/api/people/{id}/days/{day}", { params: { path: { id, day } } })),
    }),
  plannerDay: (day: string) =>
    queryOptions({
      queryKey: ["work", "planner", day],
      queryFn: () => answer(client.GET("/api/planner/days/{day}", { params: { path: { day } } })),
    }),
  plannerWeek: (day: string) =>
    queryOptions({
      queryKey: ["work", "planner-week", day],
      queryFn: () => answer(client.GET("/api/planner/weeks/{day}", { params: { path: { day } } })),
    }),
  plannerMonth: (day: string) =>
    queryOptions({
      queryKey: ["work", "planner-month", day],
      queryFn: () => answer(client.GET("/api/planner/months/{day}", { params: { path: { day } } })),
    }),
  ownHolds: queryOptions({
    queryKey: ["work", "own-holds"],
    queryFn: () => answer(client.GET("/api/planner/holds")),
  }),
  jobNeeds: (id: number) =>
    queryOptions({
      queryKey: ["work", "job-needs", id],
      queryFn: () => answer(client.GET("/api/jobs/{id}/needs", { params: { path: { id } } })),
    }),
  lineVisits: (id: number) =>
    queryOptions({
      queryKey: ["work", "line-visits", id],
      queryFn: () => answer(client.GET("/api/jobs/{id}/line-visits", { params: { path: { id } } })),
    }),
  relay: (id: number, day: string, until?: string) =>
    queryOptions({
      queryKey: ["work", "relay", id, day, until],
      queryFn: () =>
        answer(
          client.GET("/api/technicians/{id}/days/{day}/relay", {
            params: { path: { id, day }, query: { until } },
          }),
        ),
    }),
  proposal: (id: number) =>
    queryOptions({
      queryKey: ["work", "proposal", id],
      queryFn: () => answer(client.GET("/api/planner/proposals/{id}", { params: { path: { id } } })),
      retry: false,
    }),
  customersVisits: (id: number) =>
    queryOptions({
      queryKey: ["work", "customers-visits", id],
      queryFn: () => answer(client.GET("/api/customers/{id}/visits", { params: { path: { id } } })),
    }),
  visitMessages: (id: number) =>
    queryOptions({
      queryKey: ["work", "visit-messages", id],
      queryFn: () => answer(client.GET("/api/visits/{id}/messages", { params: { path: { id } } })),
    }),
  texts: queryOptions({
    queryKey: ["work", "texts"],
    queryFn: () => answer(client.GET("/api/texts")),
  }),
  calendarFeed: queryOptions({
    queryKey: ["pocket", "calendar"],
    queryFn: () => answer(client.GET("/api/pocket/calendar")),
  }),
  visitNeeds: (id: number) =>
    queryOptions({
      queryKey: ["work", "visit-needs", id],
      queryFn: () => answer(client.GET("/api/visits/{id}/needs", { params: { path: { id } } })),
    }),
  jobSheets: (query: {
    from: string;
    to: string;
    technicianIds: number[];
    kinds: string[];
    areas: string[];
    onlyPlanned: boolean;
  }) =>
    queryOptions({
      queryKey: ["work", "job-sheets", query],
      queryFn: () => answer(client.GET("/api/job-sheets", { params: { query } })),
      retry: false,
    }),
  availability: queryOptions({
    queryKey: ["work", "availability"],
    queryFn: () => answer(client.GET("/api/settings/availability")),
  }),
  townMap: queryOptions({
    queryKey: ["town-map"],
    queryFn: () => answer(client.GET("/api/planner/map")),
    staleTime: Number.POSITIVE_INFINITY,
  }),
  timesFound: (
    id: number,
    query: { from?: string; part?: string; technicianId?: number; crewSize?: number; expected?: string },
  ) =>
    queryOptions({
      queryKey: ["work", "times", id, query],
      queryFn: () => answer(client.GET("/api/visits/{id}/times", { params: { path: { id }, query } })),
      retry: false,
    }),
  clashes: (
    id: number,
    query: { technicianId: number; companionIds: number[]; day: string; start: string; minutes: number },
  ) =>
    queryOptions({
      queryKey: ["work", "clashes", id, query],
      queryFn: () => answer(client.GET("/api/visits/{id}/clashes", { params: { path: { id }, query } })),
    }),
  technicianDay: (id: number, day: string) =>
    queryOptions({
      queryKey: ["work", "technician-day", id, day],
      queryFn: () =>
        answer(client.GET("/api/technicians/{id}/day", { params: { path: { id }, query: { day } } })),
      retry: false,
    }),
  debt: (id: number) =>
    queryOptions({
      queryKey: ["work", "debt", id],
      queryFn: () => answer(client.GET("/api/customers/{id}/debt", { params: { path: { id } } })),
    }),
  customer: (id: number) =>
    queryOptions({
      queryKey: ["work", "customer", id],
      queryFn: () => answer(client.GET("/api/customers/{id}", { params: { path: { id } } })),
    }),
  customers: (sort: (typeof CUSTOMER_SORTS)[number], filter: string) =>
    infiniteQueryOptions({
      queryKey: ["work", "customers", sort, filter],
      queryFn: ({ pageParam }) =>
        answer(client.GET("/api/customers", { params: { query: { sort, filter, after: pageParam } } })),
      initialPageParam: "",
      getNextPageParam: (page) => page.next ?? undefined,
      placeholderData: keepPreviousData,
    }),
  documents: (customerId: number) =>
    infiniteQueryOptions({
      queryKey: ["work", "documents", customerId],
      queryFn: ({ pageParam }) =>
        answer(
          client.GET("/api/customers/{id}/documents", {
            params: { path: { id: customerId }, query: { after: pageParam } },
          }),
        ),
      initialPageParam: "",
      getNextPageParam: (page) => page.next ?? undefined,
    }),
  offer: (token: string) =>
    queryOptions({
      queryKey: ["work", "offer", token],
      queryFn: async () => {
        const offer = await answer(client.GET("/api/offers/{token}", { params: { path: { token } } }));
        writeAs(offer.document.locale, offer.document.currency);
        return offer;
      },
    }),
  jobPage: (token: string) =>
    queryOptions({
      queryKey: ["work", "job page", token],
      queryFn: async () => {
        const page = await answer(client.GET("/api/job-pages/{token}", { params: { path: { token } } }));
        writeAs(page.locale, page.currency);
        return page;
      },
    }),
  customersPage: (jobId: number) =>
    queryOptions({
      queryKey: ["work", "customer's page", jobId],
      queryFn: () => answer(client.GET("/api/jobs/{id}/customer-page", { params: { path: { id: jobId } } })),
    }),
  receipt: (id: number) =>
    queryOptions({
      queryKey: ["work", "receipt", id],
      queryFn: () => answer(client.GET("/api/receipts/{id}", { params: { path: { id } } })),
    }),
  invoice: (id: number) =>
    queryOptions({
      queryKey: ["work", "invoice", id],
      queryFn: () => answer(client.GET("/api/invoices/{id}", { params: { path: { id } } })),
    }),
  receipts: (asked: { customerId?: number; quoteId?: number; state?: "left" }) =>
    queryOptions({
      queryKey: ["work", "receipts", asked],
      queryFn: () => answer(client.GET("/api/receipts", { params: { query: asked } })),
    }),
  comparison: (quoteId: number, before: number, after: number) =>
    queryOptions({
      queryKey: ["work", "comparison", quoteId, before, after],
      queryFn: () =>
        answer(
          client.GET("/api/quotes/{id}/comparison", {
            params: { path: { id: quoteId }, query: { before, after } },
          }),
        ),
    }),
  followUp: queryOptions({
    queryKey: ["work", "follow-up"],
    queryFn: () => answer(client.GET("/api/quotes/follow-up")),
  }),
  quotingSettings: queryOptions({
    queryKey: ["work", "quoting-settings"],
    queryFn: () => answer(client.GET("/api/settings/quoting")),
  }),
  companySettings: queryOptions({
    queryKey: ["work", "company-settings"],
    queryFn: () => answer(client.GET("/api/settings/company")),
  }),
  roundsDue: (month: string) =>
    queryOptions({
      queryKey: ["work", "rounds-due", month],
      queryFn: () => answer(client.GET("/api/rounds/due", { params: { query: { month } } })),
      placeholderData: keepPreviousData,
    }),
  roundsCount: queryOptions({
    queryKey: ["work", "rounds-count"],
    queryFn: () => answer(client.GET("/api/rounds/count")),
  }),
  roundsOfJob: (jobId: number) =>
    queryOptions({
      queryKey: ["work", "rounds-of-job", jobId],
      queryFn: () => answer(client.GET("/api/jobs/{id}/round", { params: { path: { id: jobId } } })),
    }),
  agreements: (customerId: number) =>
    queryOptions({
      queryKey: ["work", "agreements-of-customer", customerId],
      queryFn: () =>
        answer(client.GET("/api/customers/{id}/agreements", { params: { path: { id: customerId } } })),
    }),
  agreement: (id: number) =>
    queryOptions({
      queryKey: ["work", "agreement", id],
      queryFn: () => answer(client.GET("/api/agreements/{id}", { params: { path: { id } } })),
    }),
  agreementDates: (id: number) =>
    queryOptions({
      queryKey: ["work", "agreement-dates", id],
      queryFn: () => answer(client.GET("/api/agreements/{id}/dates", { params: { path: { id } } })),
    }),
  claims: (jobId: number) =>
    queryOptions({
      queryKey: ["work", "claims", jobId],
      queryFn: () => answer(client.GET("/api/jobs/{id}/claims", { params: { path: { id: jobId } } })),
    }),
  partCost: (visitPartId: number) =>
    queryOptions({
      queryKey: ["work", "part-cost", visitPartId],
      queryFn: () =>
        answer(client.GET("/api/visit-parts/{id}/cost", { params: { path: { id: visitPartId } } })),
    }),
  workOrders: (jobId: number) =>
    queryOptions({
      queryKey: ["work", "work-orders", jobId],
      queryFn: () => answer(client.GET("/api/jobs/{id}/work-orders", { params: { path: { id: jobId } } })),
    }),
  checkRules: queryOptions({
    queryKey: ["work", "check-rules"],
    queryFn: () => answer(client.GET("/api/settings/check-rules")),
  }),
  enteredTerms: queryOptions({
    queryKey: ["work", "entered-terms"],
    queryFn: () => answer(client.GET("/api/settings/terms")),
  }),
  vatSettings: queryOptions({
    queryKey: ["work", "vat-settings"],
    queryFn: () => answer(client.GET("/api/settings/vat")),
  }),
  numberSeries: queryOptions({
    queryKey: ["work", "number-series"],
    queryFn: () => answer(client.GET("/api/settings/number-series")),
  }),
  kindsOfJob: queryOptions({
    queryKey: ["work", "kinds-of-job"],
    queryFn: () => answer(client.GET("/api/settings/kinds-of-job")),
  }),
  accountsSettings: queryOptions({
    queryKey: ["work", "accounts-settings"],
    queryFn: () => answer(client.GET("/api/settings/accounts")),
  }),
  mailServer: queryOptions({
    queryKey: ["work", "mail-server"],
    queryFn: () => answer(client.GET("/api/settings/mail-server")),
  }),
  sessions: queryOptions({
    queryKey: ["work", "sessions"],
    queryFn: () => answer(client.GET("/api/sessions")),
  }),
  responseTerms: queryOptions({
    queryKey: ["work", "response-terms"],
    queryFn: () => answer(client.GET("/api/settings/response-terms")),
  }),
  priceLists: queryOptions({
    queryKey: ["work", "price-lists"],
    queryFn: () => answer(client.GET("/api/settings/price-lists")),
  }),
  holidays: queryOptions({
    queryKey: ["work", "holidays"],
    queryFn: () => answer(client.GET("/api/settings/holidays")),
  }),
  kits: queryOptions({
    queryKey: ["work", "kits"],
    queryFn: () => answer(client.GET("/api/kits")),
  }),
  pastJobs: (kindOfJobId: number | undefined, equipmentId: number | undefined) =>
    queryOptions({
      queryKey: ["past-jobs", kindOfJobId, equipmentId],
      queryFn: () =>
        answer(
          client.GET("/api/past-jobs", { params: { query: { kindOfJobId: kindOfJobId ?? 0, equipmentId } } }),
        ),
      enabled: kindOfJobId !== undefined,
      staleTime: 60_000,
    }),
  mailStandIn: queryOptions({
    queryKey: ["mail-stand-in"],
    queryFn: () => answer(client.GET("/api/mail-stand-in")),
  }),
  import: (id: number) =>
    queryOptions({
      queryKey: ["work", "import", id],
      queryFn: () => answer(client.GET("/api/imports/{id}", { params: { path: { id } } })),
    }),
  customerChoices: queryOptions({
    queryKey: ["work", "customer-choices"],
    queryFn: () => answer(client.GET("/api/customers/choices")),
    staleTime: 300_000,
  }),
  doubles: (name: string, phone: string, place: string, except: number) =>
    queryOptions({
      queryKey: ["doubles", name, phone, place, except],
      queryFn: () =>
        answer(client.GET("/api/customers/doubles", { params: { query: { name, phone, place, except } } })),
      enabled: name.trim().length > 2 || phone.replaceAll(/\D/g, "").length > 8,
      placeholderData: keepPreviousData,
    }),
  promises: (customerId: number) =>
    queryOptions({
      queryKey: ["work", "promises", customerId],
      queryFn: () =>
        answer(client.GET("/api/customers/{id}/promises", { params: { path: { id: customerId } } })),
    }),
  faultTalks: queryOptions({
    queryKey: ["work", "fault-talks"],
    queryFn: () => answer(client.GET("/api/fault-talks")),
  }),
  faultTalk: (kindId: number) =>
    queryOptions({
      queryKey: ["work", "fault-talk", kindId],
      queryFn: () => answer(client.GET("/api/fault-talks/{kindId}", { params: { path: { kindId } } })),
    }),
  checklists: queryOptions({
    queryKey: ["work", "checklists"],
    queryFn: () => answer(client.GET("/api/checklists")),
  }),
  checklist: (id: number) =>
    queryOptions({
      queryKey: ["work", "checklist", id],
      queryFn: () => answer(client.GET("/api/checklists/{id}", { params: { path: { id } } })),
    }),
  checklistKinds: queryOptions({
    queryKey: ["work", "checklist-kinds"],
    queryFn: () => answer(client.GET("/api/checklist-kinds")),
  }),
  checklistsOfJob: (id: number) =>
    queryOptions({
      queryKey: ["work", "checklists-of-job", id],
      queryFn: () => answer(client.GET("/api/jobs/{id}/checklists", { params: { path: { id } } })),
    }),
  codes: queryOptions({
    queryKey: ["work", "codes"],
    queryFn: () => answer(client.GET("/api/codes")),
  }),
  toDos: (whose: (typeof WHOSE)[number], state: (typeof TO_DO_LISTS)[number], filter: string) =>
    infiniteQueryOptions({
      queryKey: ["work", "to-dos", whose, state, filter],
      queryFn: ({ pageParam }) =>
        answer(client.GET("/api/to-dos", { params: { query: { whose, state, filter, after: pageParam } } })),
      initialPageParam: "",
      getNextPageParam: (page) => page.next ?? undefined,
      placeholderData: keepPreviousData,
    }),
  faults: (from: string, to: string) =>
    queryOptions({
      queryKey: ["work", "faults", from, to],
      queryFn: () => answer(client.GET("/api/figures/faults", { params: { query: { from, to } } })),
      placeholderData: keepPreviousData,
      retry: false,
    }),
  partsWanted: (state: (typeof PARTS_WANTED_LISTS)[number], filter: string) =>
    infiniteQueryOptions({
      queryKey: ["work", "parts-wanted", state, filter],
      queryFn: ({ pageParam }) =>
        answer(client.GET("/api/parts-wanted", { params: { query: { state, filter, after: pageParam } } })),
      initialPageParam: "",
      getNextPageParam: (page) => page.next ?? undefined,
      placeholderData: keepPreviousData,
    }),
  heldParts: (which: (typeof HELD_PARTS_LISTS)[number], filter: string) =>
    infiniteQueryOptions({
      queryKey: ["work", "held-parts", which, filter],
      queryFn: ({ pageParam }) =>
        answer(client.GET("/api/held-parts", { params: { query: { which, filter, after: pageParam } } })),
      initialPageParam: "",
      getNextPageParam: (page) => page.next ?? undefined,
      placeholderData: keepPreviousData,
    }),
  stockMovements: (id: number) =>
    queryOptions({
      queryKey: ["work", "stock-movements", id],
      queryFn: () => answer(client.GET("/api/held-parts/{id}/movements", { params: { path: { id } } })),
    }),
  partCodes: (id: number) =>
    queryOptions({
      queryKey: ["work", "part-codes", id],
      queryFn: () => answer(client.GET("/api/held-parts/{id}/codes", { params: { path: { id } } })),
    }),
  stockPlaces: queryOptions({
    queryKey: ["work", "stock-places"],
    queryFn: () => answer(client.GET("/api/stock-places")),
  }),
  handovers: queryOptions({
    queryKey: ["work", "handovers"],
    queryFn: () => answer(client.GET("/api/handovers")),
  }),
  van: queryOptions({
    queryKey: ["pocket", "van"],
    queryFn: () => answer(client.GET("/api/pocket/van")),
  }),
  partsWantedCount: queryOptions({
    queryKey: ["work", "parts-wanted-count"],
    queryFn: () => answer(client.GET("/api/parts-wanted/count")),
  }),
  unlistedParts: (id: number) =>
    queryOptions({
      queryKey: ["work", "unlisted-parts", id],
      queryFn: () => answer(client.GET("/api/jobs/{id}/unlisted-parts", { params: { path: { id } } })),
    }),
  partsWantedOfJob: (id: number) =>
    queryOptions({
      queryKey: ["work", "parts-wanted-of-job", id],
      queryFn: () => answer(client.GET("/api/jobs/{id}/parts-wanted", { params: { path: { id } } })),
    }),
  toDoCount: queryOptions({
    queryKey: ["work", "to-do-count"],
    queryFn: () => answer(client.GET("/api/to-dos/count")),
  }),
  find: (q: string) =>
    queryOptions({
      queryKey: ["find", q],
      queryFn: () => answer(client.GET("/api/find", { params: { query: { q } } })),
      enabled: q.trim().length > 1,
      placeholderData: keepPreviousData,
    }),
  trialBalance: queryOptions({
    queryKey: ["work", "trial-balance"],
    queryFn: () => answer(client.GET("/api/books/trial-balance")),
  }),
  journal: (before?: number) =>
    queryOptions({
      queryKey: ["work", "journal", before],
      queryFn: () => answer(client.GET("/api/books/journal", { params: { query: { before } } })),
    }),
  account: (code: string, after?: string) =>
    queryOptions({
      queryKey: ["work", "account", code, after],
      queryFn: () =>
        answer(client.GET("/api/books/accounts/{code}", { params: { path: { code }, query: { after } } })),
    }),
  pocketDay: queryOptions({
    queryKey: ["pocket", "day"],
    queryFn: () => answer(client.GET("/api/pocket/day")),
  }),
  lateActs: queryOptions({
    queryKey: ["work", "late-acts"],
    queryFn: () => answer(client.GET("/api/late-acts")),
  }),
  /** What a phone has along; read now and then, and not at every tap. */
  carried: queryOptions({
    queryKey: ["carried", "visits"],
    queryFn: () => answer(client.GET("/api/pocket/carried")),
    staleTime: 60_000,
    refetchInterval: 300_000,
  }),
  carriedParts: queryOptions({
    queryKey: ["carried", "parts"],
    queryFn: () => answer(client.GET("/api/pocket/carried-parts")),
    staleTime: 600_000,
  }),
  carriedKits: queryOptions({
    queryKey: ["carried", "kits"],
    queryFn: () => answer(client.GET("/api/pocket/kits")),
    staleTime: 600_000,
  }),
  checkDesk: (asked: {
    from: string;
    to: string;
    technicianId: number | undefined;
    kindOfJobId: number | undefined;
    district: string;
    costCentre: string;
  }) =>
    queryOptions({
      queryKey: ["work", "check-desk", asked],
      queryFn: () => answer(client.GET("/api/check-desk", { params: { query: asked } })),
      placeholderData: keepPreviousData,
    }),
  equipmentOnSite: (jobId: number) =>
    queryOptions({
      queryKey: ["work", "equipment-on-site", jobId],
      queryFn: () =>
        answer(client.GET("/api/jobs/{id}/equipment-on-site", { params: { path: { id: jobId } } })),
    }),
  ownWeek: (monday: string) =>
    queryOptions({
      queryKey: ["pocket", "week", monday],
      queryFn: () => answer(client.GET("/api/pocket/weeks/{monday}", { params: { path: { monday } } })),
    }),
  hoursOfWeek: (monday: string) =>
    queryOptions({
      queryKey: ["work", "hours", monday],
      queryFn: () => answer(client.GET("/api/hours/{monday}", { params: { path: { monday } } })),
    }),
  wages: (from: string, to: string) =>
    queryOptions({
      queryKey: ["work", "wages", from, to],
      queryFn: () => answer(client.GET("/api/wages", { params: { query: { from, to } } })),
    }),
  pocketVisit: (id: number) =>
    queryOptions({
      queryKey: ["pocket", "visit", id],
      queryFn: () => answer(client.GET("/api/pocket/visits/{id}", { params: { path: { id } } })),
    }),
  signatures: (jobId: number) =>
    queryOptions({
      queryKey: ["work", "signatures", jobId],
      queryFn: () => answer(client.GET("/api/jobs/{id}/signatures", { params: { path: { id: jobId } } })),
    }),
  moneyTaken: (visitId: number) =>
    queryOptions({
      queryKey: ["pocket", "money", visitId],
      queryFn: () =>
        answer(client.GET("/api/pocket/visits/{id}/money", { params: { path: { id: visitId } } })),
    }),
  photosOnSite: (visitId: number) =>
    queryOptions({
      queryKey: ["pocket", "photos", visitId],
      queryFn: () =>
        answer(client.GET("/api/pocket/visits/{id}/photos", { params: { path: { id: visitId } } })),
    }),
  photosOfJob: (id: number) =>
    queryOptions({
      queryKey: ["work", "photos", id],
      queryFn: () => answer(client.GET("/api/jobs/{id}/photos", { params: { path: { id } } })),
    }),
  tapPositions: (id: number) =>
    queryOptions({
      queryKey: ["work", "tap-positions", id],
      queryFn: () => answer(client.GET("/api/jobs/{id}/tap-positions", { params: { path: { id } } })),
    }),
  messagesOfJob: (id: number) =>
    queryOptions({
      queryKey: ["work", "messages", id],
      queryFn: () => answer(client.GET("/api/jobs/{id}/messages", { params: { path: { id } } })),
    }),
  extraWork: (visitId: number) =>
    queryOptions({
      queryKey: ["pocket", "extra-work", visitId],
      queryFn: () =>
        answer(client.GET("/api/pocket/visits/{id}/extra-work", { params: { path: { id: visitId } } })),
    }),
  vanParts: (q: string) =>
    queryOptions({
      queryKey: ["pocket", "parts", q],
      queryFn: () => answer(client.GET("/api/pocket/parts", { params: { query: { q } } })),
      placeholderData: keepPreviousData,
    }),
};
