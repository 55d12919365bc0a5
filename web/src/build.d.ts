interface ImportMeta {
  /** What this build of the page is known by; nothing while it is developed. */
  readonly env: { readonly VITE_BUILD?: string; readonly PROD: boolean };
}
